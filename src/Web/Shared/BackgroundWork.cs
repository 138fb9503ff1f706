using System.Collections.Concurrent;
using System.Diagnostics;

namespace VelvetGate.Web.Shared;

/// <summary>
/// The one base of all background work. Nothing but the server's own end stops it: whatever fails is logged whole, tried again after a
/// growing pause, and seen in <c>/readyz</c>. Safe on any number of instances as far as each round of work is.
/// </summary>
public abstract partial class BackgroundWork(string name, WorkHealth health, ILogger log) : BackgroundService
{
    private static readonly TimeSpan FirstPause = TimeSpan.FromSeconds(2);
    private static readonly TimeSpan LongestPause = TimeSpan.FromMinutes(2);

    /// <summary>One round.</summary>
    public abstract Task Once(CancellationToken cancel);

    /// <summary>Waits until there may be work again.</summary>
    protected abstract Task Rest(CancellationToken cancel);

    /// <summary>Tells that the work goes well, in the middle of a round that does not end.</summary>
    protected void GoesWell() => health.Well(name);

    /// <summary>Tells that it does not, where the round itself tries again.</summary>
    protected void GoesBadly(Exception e) => health.Failed(name, e);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        health.Began(name);
        var pause = FirstPause;
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await Once(stoppingToken);
                GoesWell();
                pause = FirstPause;
                await Rest(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
            {
                // Whatever it is: one bad line must not end the server, and ends it at every start.
                health.Failed(name, e);
                Failed(log, name, pause.TotalSeconds, e);
                await Task.Delay(pause, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
                pause = pause * 2 > LongestPause ? LongestPause : pause * 2;
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "Background work “{Name}” failed; it is tried again in {Seconds} s")]
    private static partial void Failed(ILogger log, string name, double seconds, Exception e);
}

/// <param name="Failures">In a row; 0 when the last round went well.</param>
/// <param name="WellSeconds">Since a round went well, or since the start when none has.</param>
public sealed record WorkState(string Name, int Failures, int WellSeconds, string? Failure);

/// <summary>How the background work of this instance goes, on a clock that nobody sets.</summary>
public sealed class WorkHealth
{
    /// <summary>Work that failed for longer than this makes the instance not ready.</summary>
    public static readonly TimeSpan Patience = TimeSpan.FromMinutes(5);

    private readonly ConcurrentDictionary<string, (int Failures, long Well, string? Failure)> _works = new();

    public IReadOnlyList<WorkState> All =>
        [
            .. _works
                .OrderBy(w => w.Key, StringComparer.Ordinal)
                .Select(w => new WorkState(
                    w.Key,
                    w.Value.Failures,
                    (int)Stopwatch.GetElapsedTime(w.Value.Well).TotalSeconds,
                    w.Value.Failure
                )),
        ];

    /// <summary>Names of the work that has failed for longer than <see cref="Patience"/>.</summary>
    public IReadOnlyList<string> Stuck => [.. All.Where(w => w.Failures > 0 && w.WellSeconds > Patience.TotalSeconds).Select(w => w.Name)];

    public void Began(string name) => _works.TryAdd(name, (0, Stopwatch.GetTimestamp(), null));

    public void Well(string name) => _works[name] = (0, Stopwatch.GetTimestamp(), null);

    public void Failed(string name, Exception e) =>
        _works.AddOrUpdate(
            name,
            _ => (1, Stopwatch.GetTimestamp(), e.GetType().Name),
            (_, w) => (w.Failures + 1, w.Well, e.GetType().Name)
        );
}
