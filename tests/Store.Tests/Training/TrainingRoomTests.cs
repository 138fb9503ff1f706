using Dapper;
using NodaTime;
using Npgsql;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Training;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Training;

/// <summary>The training room when two people, two windows or two days meet.</summary>
public sealed class TrainingRoomTests : IAsyncLifetime
{
    private static readonly Instant Now = TestDatabase.Now;
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");
    private TestDatabase _db = null!;

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private static PracticalMark Mark(string step, StepMark mark = StepMark.Unprompted) =>
        new(Guid.NewGuid(), step, mark, null, Now, "m-3");

    [Fact]
    public async Task LastPlace_TakenByTwentyAtOnce_IsOnes()
    {
        var sessions = new InductionStore(_db.App);
        var start = Instant.FromUtc(2026, 12, 13, 19, 0);
        var id = (
            await sessions.Plan(
                new Induction("wren", "m-3", new Interval(start, start + Duration.FromHours(1)), 3),
                Rules.Clock,
                "m-3",
                Now,
                default
            )
        ).Value;
        var taken = await Task.WhenAll(Enumerable.Range(20, 20).Select(i => sessions.Take(id, $"m-{i}", Now, default)));
        taken.Count(t => t.IsOk).ShouldBe(3);
        taken.Where(t => !t.IsOk).ShouldAllBe(t => t.Refusal!.Code == "induction.full");
        var session = (await sessions.From(Now, default)).Single(s => s.Id == id);
        session.Taken.Count.ShouldBe(3);
        // A place beyond the last, or the trainer's own, is refused by the database itself.
        await using var connection = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        foreach (var (seat, person) in new[] { (4, "m-50"), (1, "m-50") })
            (
                await Should.ThrowAsync<PostgresException>(() =>
                    connection.ExecuteAsync(
                        "insert into training.place (induction_id, seat, person_id, at) values (@id, @seat, @person, @Now)",
                        new
                        {
                            id,
                            seat,
                            person,
                            Now,
                        }
                    )
                )
            ).SqlState.ShouldBeOneOf("23514", "23505");
    }

    [Fact]
    public async Task Session_AndABooking_OnOneMachineAtOneTime_CannotBoth()
    {
        await using var connection = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var (trainer, machine, start, end) = await connection.QueryFirstAsync<(string, string, Instant, Instant)>(
            """
            select r.person_id, b.machine_id, lower(b.during), upper(b.during) from booking.booking b
                join people.role r on r.role = 'trainer' and r.machine_id = b.machine_id
            where b.cancelled_at is null and lower(b.during) > @Now order by 3 limit 1
            """,
            new { Now }
        );
        (
            await new InductionStore(_db.App).Plan(
                new Induction(machine, trainer, new Interval(start, end), 2),
                Rules.Clock,
                trainer,
                Now,
                default
            )
        ).Refusal!.Code.ShouldBe("induction.booked");
    }

    [Fact]
    public async Task Practical_BegunAndMarkedByTwoWindowsAtOnce_IsOneSheet_AndLosesNoMark()
    {
        var practicals = new PracticalStore(_db.App);
        var begun = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => practicals.Begin("m-5", "heron", "m-3", Rules, Now, default)));
        var id = begun.Select(b => b.Value).Distinct().ShouldHaveSingleItem();
        var steps = (await practicals.Find(id, default))!.Sheet.Steps;
        var first = steps.Select(s => Mark(s.Id)).ToList();
        var second = steps.Select(s => Mark(s.Id, StepMark.Prompted)).ToList();
        await Task.WhenAll(
            first.Concat(second).Concat(first).Select(m => practicals.Mark(id, [m], "m-3", Now + Duration.FromSeconds(1), default))
        );
        var seen = (await practicals.Find(id, default))!;
        seen.Marks.Select(m => m.Id).ShouldBe(first.Concat(second).Select(m => m.Id), ignoreOrder: true);

        // Both agree in the same moment: it ends once, with one certificate.
        var good = (
            await practicals.Mark(
                id,
                [.. steps.Select(s => Mark(s.Id) with { At = Now + Duration.FromSeconds(2) })],
                "m-3",
                Now + Duration.FromSeconds(3),
                default
            )
        ).Value;
        await Task.WhenAll(
            new[] { "m-3", "m-5", "m-3", "m-5" }.Select(who =>
                practicals.Agree(id, good.Marks.Count, who, Rules, Now + Duration.FromSeconds(4), default)
            )
        );
        var ended = (await practicals.Find(id, default))!;
        ended.Outcome.ShouldBe("signed");
        await using var connection = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        (await connection.ExecuteScalarAsync<int>("select count(*)::int from training.certificate where person_id = 'm-5'")).ShouldBe(1);
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).FirstBad.ShouldBeNull();
    }

    [Fact]
    public async Task Practical_HoldsSoManyMarks_AndNoMore()
    {
        var practicals = new PracticalStore(_db.App);
        var id = (await practicals.Begin("m-5", "wren", "m-3", Rules, Now, default)).Value;
        var step = (await practicals.Find(id, default))!.Sheet.Steps[0].Id;
        (
            await practicals.Mark(
                id,
                [.. Enumerable.Range(0, Practicals.MostMarks).Select(_ => Mark(step))],
                "m-3",
                Now + Duration.FromSeconds(1),
                default
            )
        ).IsOk.ShouldBeTrue();
        (await practicals.Mark(id, [Mark(step)], "m-3", Now + Duration.FromSeconds(2), default)).Refusal!.Code.ShouldBe("practical.full");
    }

    [Fact]
    public async Task Practical_WhenTheTrainersAuthorityEnds_IsNotSigned()
    {
        var practicals = new PracticalStore(_db.App);
        var id = (await practicals.Begin("m-5", "heron", "m-3", Rules, Now, default)).Value;
        var seen = (await practicals.Find(id, default))!;
        var marked = (await practicals.Mark(id, [.. seen.Sheet.Steps.Select(s => Mark(s.Id))], "m-3", Now, default)).Value;
        (await practicals.Agree(id, marked.Marks.Count, "m-3", Rules, Now, default)).IsOk.ShouldBeTrue();
        await _db.Tamper(
            "update people.role set recorded = tstzrange(lower(recorded), '2026-11-24 10:00Z') where person_id = 'm-3' and role = 'trainer'"
        );
        (await practicals.Agree(id, marked.Marks.Count, "m-5", Rules, Now + Duration.FromMinutes(1), default)).Refusal!.Code.ShouldBe(
            "signOff.authority",
            "as of the moment it would be signed"
        );
        (await practicals.Find(id, default))!.Outcome.ShouldBeNull();
        (await practicals.Mark(id, [Mark(seen.Sheet.Steps[0].Id)], "m-3", Now, default)).Refusal!.Code.ShouldBe("signOff.authority");
    }

    [Fact]
    public async Task Paths_WrittenAtOnce_OneWins_AndDaysDoNotOverlap()
    {
        var paths = new PathStore(_db.App);
        var swift = (await paths.Find("swift", Rules, Now, default))!;
        var changed = await Task.WhenAll(
            Enumerable
                .Range(1, 6)
                .Select(i =>
                    paths.Change(
                        swift.Path with
                        {
                            Refresher = [new PathStep(ModuleKind.SupervisedRuns, Count: i), new PathStep(ModuleKind.SignOff)],
                        },
                        0,
                        "At once.",
                        Now,
                        "m-2",
                        Rules,
                        Now,
                        default
                    )
                )
        );
        changed.Count(c => c.IsOk).ShouldBe(1);
        changed.Where(c => !c.IsOk).ShouldAllBe(c => c.Refusal!.Code == "path.stale");
        var now = (await paths.Find("swift", Rules, Now, default))!;
        var later = Now + Duration.FromDays(9);
        (await paths.Change(swift.Path, now.Version, "Later.", later, "m-2", Rules, Now, default)).IsOk.ShouldBeTrue();
        (await paths.Find("swift", Rules, Now + Duration.FromDays(8), default))!.Path.Refresher.ShouldBe(now.Path.Refresher);
        (await paths.Find("swift", Rules, later, default))!.Path.Refresher.ShouldBe(swift.Path.Refresher);
    }

    [Fact]
    public async Task Remind_TellsEachOnce_InOneMessage_AndAgainOnlyWhenSomethingNewLapses()
    {
        var matrix = new MatrixStore(_db.App);
        var told = await matrix.Remind(Rules, Now, default);
        told.ShouldBeGreaterThan(1, "two certificates end today");
        (await matrix.Remind(Rules, Now + Duration.FromMinutes(5), default)).ShouldBe(0);
        await using var connection = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var messages = (
            await connection.QueryAsync<(string Person, string Body)>("select person_id, body from people.message where key like 'lapse.%'")
        ).ToList();
        messages.Count.ShouldBe(told);
        messages.Select(m => m.Person).ShouldBeUnique();
        messages.ShouldContain(m => m.Person == "m-10" && m.Body.Contains("Heron: its last day is 24 Nov 2026", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Matrix_AgreesWithTheGatesOwnFacts()
    {
        var rows = await new MatrixStore(_db.App).All(Rules, Now, default);
        var facts = new VelvetGate.Store.Gate.FactLoader(_db.App);
        foreach (var row in rows.Where((_, i) => i % 4 == 0))
        {
            foreach (var machine in new[] { "heron", "wren", "swift", "kestrel" })
            {
                var cell = row.Cells.FirstOrDefault(c => c.Authority == machine);
                var ask = new Core.Gating.GateQuestion(
                    MemberId: row.PersonId,
                    MachineId: machine,
                    Items: [new Core.Gating.GateItem("birch-ply-laser", 3, [Operation.Engrave])],
                    Fixture: null,
                    SupervisorId: null,
                    Start: Now,
                    Minutes: 30
                );
                var training = (await facts.Load(ask, Now, null, null, default)).Value;
                var codes = Core
                    .Gating.Gate.Decide(ask, training)
                    .Reasons.Where(r => r.Code.StartsWith("training.", StringComparison.Ordinal))
                    .Select(r => r.Code)
                    .ToList();
                codes.Contains("training.none").ShouldBe(cell is null && !codes.Contains("training.lapsed"), $"{row.PersonId} {machine}");
                codes
                    .Contains("training.idle")
                    .ShouldBe(cell?.Lapse is { Cause: LapseCause.Idle } lapse && lapse.At < Now, $"{row.PersonId} {machine}");
                codes.Contains("training.review").ShouldBe(cell?.Hold == CertificateHoldKind.Review, $"{row.PersonId} {machine}");
            }
        }
    }

    /// <summary>A supervised run counts once both have said so, and not when it was given up.</summary>
    [Fact]
    public async Task SupervisedRuns_CountOnceConfirmed()
    {
        var paths = new PathStore(_db.App);
        var all = await paths.All(Rules, Now, default);
        async Task<int> Runs() => (await paths.ProgressOf("m-5", all, Now, default)).Runs.Count;
        Task Run(string outcome, bool confirmed, int hoursAgo) =>
            _db.Tamper(
                $"""
                insert into run.log (id, person_id, machine_id, material_id, thickness_mm, operations, during, outcome, logged_by, at,
                    supervisor_id, confirmed_at)
                values (gen_random_uuid(), 'm-5', 'heron', 'mat-board', 1.4, array['cut'], tstzrange('{Now
                    - Duration.FromHours(hoursAgo)}', '{Now
                    - Duration.FromHours(hoursAgo)
                    + Duration.FromMinutes(20)}'), '{outcome}', 'm-5', '{Now}', 'm-3', {(confirmed ? $"'{Now}'" : "null")})
                """
            );
        (await Runs()).ShouldBe(0);
        await Run("clean", false, 9);
        await Run("abandoned", true, 8);
        (await Runs()).ShouldBe(0);
        await Run("charred", true, 7);
        (await Runs()).ShouldBe(1);
    }
}
