using Shouldly;
using VelvetGate.Store.Db;
using Xunit;

namespace VelvetGate.Store.Tests.Db;

/// <summary>One round for all who ask meanwhile, and never one that began before they asked.</summary>
public class RoundsTests
{
    [Fact]
    public async Task Read_ByManyAtOnce_SeesWhatHappenedBefore_InFewRounds()
    {
        var (changes, rounds) = (0, 0);
        var reading = new Rounds<int>(async () =>
        {
            Interlocked.Increment(ref rounds);
            var seen = Volatile.Read(ref changes);
            await Task.Delay(5);
            return seen;
        });
        await Parallel.ForAsync(0, 400, new ParallelOptions { MaxDegreeOfParallelism = 40 }, async (_, cancel) =>
        {
            var mine = Interlocked.Increment(ref changes);
            (await reading.Read(cancel)).ShouldBeGreaterThanOrEqualTo(mine, "a change made before the question is seen by it");
        });
        rounds.ShouldBeInRange(10, 200);
    }

    [Fact]
    public async Task Round_ThatFails_FailsForItsOwn_AndTheNextGoesOn()
    {
        var tries = 0;
        var reading = new Rounds<int>(() => ++tries == 1 ? Task.FromException<int>(new TimeoutException("away")) : Task.FromResult(tries));
        await Should.ThrowAsync<TimeoutException>(() => reading.Read(default));
        (await reading.Read(default)).ShouldBe(2);
    }

    [Fact]
    public async Task OneWhoGoesAway_DoesNotEndTheRoundOfTheOthers()
    {
        var open = new TaskCompletionSource<int>();
        var reading = new Rounds<int>(() => open.Task);
        using var away = new CancellationTokenSource();
        var gone = reading.Read(away.Token);
        var stays = reading.Read(default);
        await away.CancelAsync();
        await Should.ThrowAsync<TaskCanceledException>(() => gone);
        open.SetResult(7);
        (await stays).ShouldBe(7);
    }
}
