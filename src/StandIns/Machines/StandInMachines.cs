namespace VelvetGate.StandIns.Machines;

/// <summary>All simulated machines, each with its line.</summary>
public sealed class StandInMachines : IAsyncDisposable
{
    private readonly Dictionary<string, (StandInMachine Machine, MachineLine Line)> _byId;
    private readonly CancellationTokenSource _end = new();
    private readonly Task _running;

    public StandInMachines(IEnumerable<StandInMachine> machines, Uri broker, TimeProvider time)
    {
        _byId = machines.ToDictionary(m => m.SetUp.Machine, m => (m, new MachineLine(m, broker, time)));
        _running = Task.WhenAll(
            _byId.Values.SelectMany(m =>
                new[] { Task.Run(() => m.Line.Run(_end.Token)), m.Machine.SetUp.Attended ? Attend(m.Line, time) : Task.CompletedTask }
            )
        );
    }

    public IEnumerable<StandInMachine> All => _byId.Values.Select(m => m.Machine);

    public StandInMachine? Find(string id) => _byId.TryGetValue(id, out var found) ? found.Machine : null;

    public MachineLine? LineOf(string id) => _byId.TryGetValue(id, out var found) ? found.Line : null;

    /// <summary>Somebody stays and watches, for a quarter of an hour.</summary>
    private async Task Attend(MachineLine line, TimeProvider time)
    {
        for (var presses = 0; presses < 9; presses++)
        {
            await Task.Delay(TimeSpan.FromSeconds(100), time, _end.Token);
            await line.Press(_end.Token);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _end.CancelAsync();
        await ((Task)_running).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        foreach (var (_, line) in _byId.Values)
            await line.DisposeAsync();
        _end.Dispose();
    }
}
