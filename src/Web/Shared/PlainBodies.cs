using System.Buffers;

namespace VelvetGate.Web.Shared;

/// <summary>Keeps out the one character no text here can hold: U+0000, which PostgreSQL refuses in any column.</summary>
public static class PlainBodies
{
    private const int InMemory = 64 * 1024;

    public static void UsePlainBodies(this WebApplication app) => app.Use(async (context, next) =>
    {
        if (context.Request.HasJsonContentType())
        {
            context.Request.EnableBuffering(InMemory);
            var found = await HoldsNul(context.Request.Body, context.RequestAborted);
            context.Request.Body.Position = 0;
            if (found)
            {
                await Problems.Of(StatusCodes.Status400BadRequest, "request.value", "A text holds a character that no text can hold (U+0000). Type it again.").ExecuteAsync(context);
                return;
            }
        }
        await next(context);
    });

    /// <summary>As itself, or escaped as JSON escapes it.</summary>
    private static async Task<bool> HoldsNul(Stream body, CancellationToken cancel)
    {
        var escaped = @"\u0000"u8.ToArray();
        var buffer = ArrayPool<byte>.Shared.Rent(16 * 1024);
        try
        {
            // The end of one stretch stays in front of the next: an escape may lie across both.
            var kept = 0;
            while (true)
            {
                var read = await body.ReadAsync(buffer.AsMemory(kept), cancel);
                if (read == 0) return false;
                var held = buffer.AsSpan(0, kept + read);
                if (held.Contains((byte)0) || held.IndexOf(escaped) >= 0) return true;
                kept = Math.Min(escaped.Length - 1, held.Length);
                held[^kept..].CopyTo(buffer);
            }
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }
}
