using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Drawings;

/// <summary>
/// A few heavy things at once, and of each person one: whoever asks for many waits behind themselves, not before the others.
/// </summary>
/// <param name="atOnce">Of all persons.</param>
/// <param name="eachInAll">Running and waiting of one person; beyond, the next is refused.</param>
/// <param name="inAll">Running and waiting of all.</param>
internal sealed class FairSlots(int atOnce, int eachInAll, int inAll) : IDisposable
{
    private readonly Dictionary<PersonId, Line> _lines = [];
    private readonly SemaphoreSlim _all = new(atOnce);
    private int _count;

    private sealed class Line
    {
        public SemaphoreSlim One { get; } = new(1);

        public int Count { get; set; }
    }

    public void Dispose() => _all.Dispose();

    /// <exception cref="DrawingsBusyException">The line is full.</exception>
    public async Task<T> Do<T>(PersonId person, Func<Task<T>> work, CancellationToken cancel)
    {
        var line = Join(person);
        try
        {
            await line.One.WaitAsync(cancel);
            try
            {
                await _all.WaitAsync(cancel);
                try
                {
                    return await work();
                }
                finally
                {
                    _all.Release();
                }
            }
            finally
            {
                line.One.Release();
            }
        }
        finally
        {
            Leave(person, line);
        }
    }

    private Line Join(PersonId person)
    {
        lock (_lines)
        {
            var line = _lines.GetValueOrDefault(person) ?? new Line();
            if (line.Count >= eachInAll || _count >= inAll)
                throw new DrawingsBusyException();
            _lines[person] = line;
            line.Count++;
            _count++;
            return line;
        }
    }

    private void Leave(PersonId person, Line line)
    {
        lock (_lines)
        {
            _count--;
            if (--line.Count == 0)
                _lines.Remove(person);
        }
    }
}
