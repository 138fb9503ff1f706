using System.Diagnostics;
using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Gate;

public sealed class FactLoaderTests : IAsyncLifetime
{
    private TestDatabase _db = null!;

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    /// <summary>Npgsql reports each command it sends as one activity.</summary>
    [Fact]
    public async Task Load_AllFactsOfOneAsk_AreOneCommand()
    {
        var commands = 0;
        // Other tests run at the same time: only what belongs to this trace counts.
        using var mine = new Activity("load");
        using var listener = new ActivityListener
        {
            ShouldListenTo = source => source.Name == "Npgsql",
            Sample = (ref ActivityCreationOptions<ActivityContext> _) => ActivitySamplingResult.AllData,
            ActivityStopped = activity =>
            {
                if (activity.TraceId == mine.TraceId)
                    Interlocked.Increment(ref commands);
            },
        };
        ActivitySource.AddActivityListener(listener);
        var ask = Questions.OnHeron(TestDatabase.Now + Duration.FromDays(1)) with { SupervisorId = "m-3", Fixture = "rotary" };
        await using var connection = await _db.App.OpenConnectionAsync();
        var memory = Memory.Of(_db.App);
        await FactLoader.Load(memory, connection, null, ask, TestDatabase.Now, null, null, default);
        mine.Start();
        (await FactLoader.Load(memory, connection, null, ask, TestDatabase.Now, null, null, default)).IsOk.ShouldBeTrue();
        commands.ShouldBe(1, "what changes rarely is remembered");
    }

    [Theory]
    [InlineData("memberId", "nobody", "heron", "birch-ply-laser")]
    [InlineData("machineId", "m-4", "osprey", "birch-ply-laser")]
    [InlineData("items[0].materialId", "m-4", "heron", "kryptonite")]
    public async Task Load_UnknownId_NamesTheField(string field, string member, string machine, string material)
    {
        var ask = new GateQuestion(
            MemberId: member,
            MachineId: machine,
            Items: [new GateItem(material, 3, [Operation.Cut])],
            Fixture: null,
            SupervisorId: null,
            Start: TestDatabase.Now,
            Minutes: 60
        );
        (await new FactLoader(_db.App).Load(ask, TestDatabase.Now, null, null, default)).Refusal!.Field.ShouldBe(field);
    }

    [Fact]
    public async Task Find_StoredDecision_ReplaysToTheSameAnswer()
    {
        var ask = await Questions.FreeOnHeron(_db);
        var booked = (BookingOutcome.Booked)
            await new BookingStore(_db.App).Book(Guid.NewGuid(), ask, Questions.Member, TestDatabase.Now, default);
        await _db.Tamper("update house.machine set spec = jsonb_set(spec, '{maxCutMm}', '1') where id = 'heron'");
        (await Questions.Verdict(_db, ask)).ShouldBe(Verdict.Shut, "the machine cuts less now");
        var (decision, hashHolds) = (await new DecisionStore(_db.App).Find(booked.Booking.Id, default))!.Value;
        hashHolds.ShouldBeTrue();
        var replay = decision.Replay();
        replay.Same.ShouldBeTrue();
        replay.Today.Verdict.ShouldBe(Verdict.Conditions, "as it was when it was booked");
        replay.Then.Verdict.ShouldBe(Verdict.Conditions);
        replay.Words!.Posts.Count.ShouldBe(7);
    }
}
