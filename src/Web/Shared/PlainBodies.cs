using System.Buffers;

namespace VelvetGate.Web.Shared;

/// <summary>An endpoint that takes more JSON than the usual 64 kB: a file's worth of rows, a page of the course.</summary>
/// <param name="Bytes">The most it takes.</param>
public sealed record LargeJson(long Bytes)
{
    /// <summary>Rows of a file.</summary>
    public static readonly LargeJson File = new(4 * 1024 * 1024);

    /// <summary>A page of text.</summary>
    public static readonly LargeJson Page = new(256 * 1024);
}

/// <summary>
/// Keeps out bodies that are too large, and the one character no text here can hold: U+0000, which PostgreSQL refuses in any column.
/// </summary>
public static class PlainBodies
{
    /// <summary>Most JSON an endpoint takes that says nothing else, in bytes.</summary>
    public const long Usual = 64 * 1024;

    private const int InMemory = 64 * 1024;

    public static void UsePlainBodies(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                if (context.Request.HasJsonContentType())
                {
                    var most = context.GetEndpoint()?.Metadata.GetMetadata<LargeJson>()?.Bytes ?? Usual;
                    if (context.Request.ContentLength > most)
                    {
                        await TooLarge(most).ExecuteAsync(context);
                        return;
                    }
                    context.Request.EnableBuffering(InMemory);
                    var (found, long_) = await Look(context.Request.Body, most, context.RequestAborted);
                    if (long_)
                    {
                        await TooLarge(most).ExecuteAsync(context);
                        return;
                    }
                    context.Request.Body.Position = 0;
                    if (found)
                    {
                        await Problems.Of(RequestProblems.RequestNul.Refuse()).ExecuteAsync(context);
                        return;
                    }
                }
                await next(context);
            }
        );

    private static Microsoft.AspNetCore.Http.HttpResults.ProblemHttpResult TooLarge(long most) =>
        Problems.Of(RequestProblems.RequestTooLarge.Refuse(null, most / 1024));

    /// <summary>Looks for U+0000, as itself or escaped as JSON escapes it, and for the end of what is taken.</summary>
    private static async Task<(bool Nul, bool TooLong)> Look(Stream body, long most, CancellationToken cancel)
    {
        long all = 0;
        var escaped = @"\u0000"u8.ToArray();
        var buffer = ArrayPool<byte>.Shared.Rent(16 * 1024);
        try
        {
            // The end of one stretch stays in front of the next: an escape may lie across both.
            var kept = 0;
            while (true)
            {
                var read = await body.ReadAsync(buffer.AsMemory(kept), cancel);
                if (read == 0)
                    return (false, false);
                all += read;
                if (all > most)
                    return (false, true);
                var held = buffer.AsSpan(0, kept + read);
                if (held.Contains((byte)0) || held.IndexOf(escaped) >= 0)
                    return (true, false);
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
