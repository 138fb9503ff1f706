using Microsoft.Extensions.Caching.Memory;
using VelvetGate.Core.Drawings;
using VelvetGate.Store.Drawings;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <summary>
/// Reads drawings in fair slots, within a patience for each, and remembers for some minutes what it read: a file never changes under its
/// hash.
/// </summary>
public sealed class DrawingReader(DrawingStore drawings) : IDisposable
{
    /// <summary>
    /// For reading, which nothing honest needs, and beyond it for measuring, which a million lines may need on a slow machine.
    /// </summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(4),
        CheckPatience = TimeSpan.FromSeconds(10);

    private static readonly TimeSpan Remembered = TimeSpan.FromMinutes(5);

    /// <summary>Bytes of file whose lines are remembered; lines take some ten times the room of their text.</summary>
    private const long RememberedBytes = 24 * 1024 * 1024;

    // Two at once on the machines this runs on: a third waits rather than have all run out of memory.
    private readonly FairSlots _slots = new(atOnce: 2, eachInAll: 8, inAll: 64);
    private readonly MemoryCache _read = new(new MemoryCacheOptions { SizeLimit = RememberedBytes });

    /// <summary>A file that somebody just gave.</summary>
    /// <exception cref="UnreadableDrawingException">It is no drawing, or takes too long.</exception>
    /// <exception cref="DrawingsBusyException">The line is full.</exception>
    public Task<T> Read<T>(PersonId person, byte[] bytes, Func<Drawing, CancellationToken, T> then, CancellationToken cancel) =>
        _slots.Do(person, () => Task.Run(() => Patiently(bytes, null, then, cancel), cancel), cancel);

    /// <summary>A drawing that is kept.</summary>
    /// <returns>Null when its file is gone.</returns>
    public Task<T?> Read<T>(PersonId person, KeptDrawing kept, Func<Drawing, CancellationToken, T?> then, CancellationToken cancel)
        where T : class =>
        _slots.Do(
            person,
            async () =>
            {
                if (_read.TryGetValue(kept.Sha256, out Drawing? known) && known is not null)
                    return await Task.Run(() => Measure(known, then, cancel), cancel);
                var bytes = await drawings.Bytes(kept.Sha256, cancel);
                return bytes is null ? null : await Task.Run(() => Patiently(bytes, kept.Sha256, then, cancel), cancel);
            },
            cancel
        );

    private T Patiently<T>(byte[] bytes, string? sha256, Func<Drawing, CancellationToken, T> then, CancellationToken cancel)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(Patience);
        var drawing = DrawingFile.Read(new MemoryStream(bytes), patience.Token);
        if (sha256 is not null)
            _read.Set(sha256, drawing, new MemoryCacheEntryOptions { Size = bytes.LongLength, SlidingExpiration = Remembered });
        return Measure(drawing, then, cancel);
    }

    private static T Measure<T>(Drawing drawing, Func<Drawing, CancellationToken, T> then, CancellationToken cancel)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(CheckPatience);
        return then(drawing, patience.Token);
    }

    public void Dispose() => _read.Dispose();
}
