namespace VelvetGate.Store.Db;

/// <summary>
/// Reads once for all who ask meanwhile. Whoever asks while a round is under way gets the next one, which begins after they asked: a change
/// that was acknowledged before is in it. So nothing is remembered, and many pages that ask at once cost what one costs.
/// </summary>
internal sealed class Rounds<T>(Func<Task<T>> read)
{
    private readonly Lock _gate = new();
    private TaskCompletionSource<T>? _next;
    private bool _busy;

    /// <param name="cancel">Ends the waiting of one who asked, not the round.</param>
    /// <exception cref="Exception">What the round ended with, for all who are in it.</exception>
    public Task<T> Read(CancellationToken cancel)
    {
        TaskCompletionSource<T> mine;
        lock (_gate)
        {
            mine = _next ??= new TaskCompletionSource<T>(TaskCreationOptions.RunContinuationsAsynchronously);
            if (!_busy)
            {
                _busy = true;
                _ = Task.Run(GoRound, CancellationToken.None);
            }
        }
        return mine.Task.WaitAsync(cancel);
    }

    private async Task GoRound()
    {
        while (true)
        {
            TaskCompletionSource<T> round;
            lock (_gate)
            {
                if (_next is null)
                {
                    _busy = false;
                    return;
                }
                (round, _next) = (_next, null);
            }
            try
            {
                round.SetResult(await read());
            }
            catch (Exception e)
            {
                round.SetException(e);
            }
        }
    }
}
