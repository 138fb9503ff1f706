using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;
using VelvetGate.Store.Upkeep;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.House;

public sealed class HoldEndingsTests : IAsyncLifetime
{
    private static readonly Instant Now = TestDatabase.Now;
    private TestDatabase _db = null!;

    private HouseStore Machines => new(_db.App);

    private Task<Result<HoldEnding>> Back(Guid stop, PersonId by, string why, Instant now) =>
        new ReturnStore(_db.App).Return(stop, new ReturnSaid(why, [], new ReturnTests()), by, true, now, default);

    private PeopleStore People => new(_db.App);

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private async Task<bool> Stopped(string machine) =>
        (await Machines.Machines(Now + Duration.FromHours(1), default)).Single(m => m.Spec.Id == machine).Stop is not null;

    [Fact]
    public async Task Return_OfAStewardsStop_NeedsItsSetterOrTwoOthers()
    {
        var stop = (await Machines.Stop("swift", "m-2", "Lens mount loose.", Now, default)).Value;
        (await Back(stop, "m-6", "Looks fine.", Now)).Value.ShouldBe(HoldEnding.NeedsAnother);
        (await Back(stop, "m-6", "Really.", Now)).Value.ShouldBe(HoldEnding.NeedsAnother);
        (await Stopped("swift")).ShouldBeTrue();
        (await Back(stop, "m-7", "I tightened it.", Now + Duration.FromMinutes(1))).Value.ShouldBe(HoldEnding.Ends);
        (await Stopped("swift")).ShouldBeFalse();
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    /// <summary>Of two stops on one machine the other still holds.</summary>
    [Fact]
    public async Task Return_OfOneOfTwoStops_LeavesTheOther()
    {
        var first = (await Machines.Stop("swift", "m-5", "Smell.", Now, default)).Value;
        var second = (await Machines.Stop("swift", "m-2", "Smell, I agree.", Now, default)).Value;
        await Back(first, "m-6", "Aired.", Now + Duration.FromMinutes(1));
        (await Stopped("swift")).ShouldBeTrue();
        await Back(second, "m-2", "Filter changed.", Now + Duration.FromMinutes(2));
        (await Stopped("swift")).ShouldBeFalse();
    }

    [Fact]
    public async Task Release_TwoOthersAtOnce_EndsItOnce_AndNeverByThePersonConcerned()
    {
        var pause = (await People.Pause("m-6", "m-2", "Left the beam on.", null, Now, default)).Value;
        (await People.Release(pause, "m-6", "Me.", Now, default)).Refusal!.Code.ShouldBe("hold.self");
        var at = Now + Duration.FromMinutes(1);
        var words = await Task.WhenAll(
            People.Release(pause, "m-7", "We talked.", at, default),
            People.Release(pause, "m-8", "We talked.", at, default)
        );
        words.Select(w => w.Value).Order().ShouldBe([HoldEnding.Ends, HoldEnding.NeedsAnother]);
        (await People.Find("m-6", at + Duration.FromMinutes(1), default))!.Pause.ShouldBeNull();
    }
}
