using Shouldly;
using VelvetGate.Web.Drawings;
using VelvetGate.Web.Shared;
using Xunit;

namespace VelvetGate.Web.Tests.Drawings;

public class FairSlotsTests
{
    [Fact]
    public async Task OneWhoAsksForMany_HoldsUpThemselves_AndNobodyElse()
    {
        var slots = new FairSlots(atOnce: 2, eachInAll: 8, inAll: 20);
        var gate = new TaskCompletionSource();
        var ran = new List<string>();
        async Task<int> Work(string name, Task wait)
        {
            lock (ran)
                ran.Add(name);
            await wait;
            return 0;
        }
        var many = Enumerable.Range(0, 7).Select(i => slots.Do("greedy", () => Work($"greedy {i}", gate.Task), default)).ToList();
        // The second slot is free for others, one after the other, while the first seven wait.
        await slots.Do("other", () => Work("other", Task.CompletedTask), default);
        await slots.Do("third", () => Work("third", Task.CompletedTask), default);
        lock (ran)
            ran.ShouldBe(["greedy 0", "other", "third"]);
        gate.SetResult();
        await Task.WhenAll(many);
        ran.Count.ShouldBe(9);
    }

    [Fact]
    public async Task ALineThatIsFull_RefusesTheNext_AndTakesThemAgainAfterwards()
    {
        var slots = new FairSlots(atOnce: 1, eachInAll: 2, inAll: 3);
        var gate = new TaskCompletionSource();
        async Task<int> Work()
        {
            await gate.Task;
            return 0;
        }
        var standing = new[] { slots.Do("a", Work, default), slots.Do("a", Work, default), slots.Do("b", Work, default) };
        await Should.ThrowAsync<DrawingsBusyException>(() => slots.Do("a", Work, default));
        await Should.ThrowAsync<DrawingsBusyException>(() => slots.Do("c", Work, default));
        gate.SetResult();
        await Task.WhenAll(standing);
        (await slots.Do("c", Work, default)).ShouldBe(0);
    }

    [Fact]
    public async Task WhoGivesUpWaiting_LeavesTheLine()
    {
        var slots = new FairSlots(atOnce: 1, eachInAll: 2, inAll: 2);
        var gate = new TaskCompletionSource();
        var first = slots.Do(
            "a",
            async () =>
            {
                await gate.Task;
                return 0;
            },
            default
        );
        using var patience = new CancellationTokenSource();
        var second = slots.Do("b", () => Task.FromResult(1), patience.Token);
        await patience.CancelAsync();
        await Should.ThrowAsync<OperationCanceledException>(() => second);
        gate.SetResult();
        await first;
        (await slots.Do("b", () => Task.FromResult(2), default)).ShouldBe(2);
    }
}
