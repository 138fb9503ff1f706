using Dapper;
using NodaTime;
using Npgsql;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;
using VelvetGate.Store.Training;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Training;

/// <summary>Holds on certificates, conduct and appeals: what the database keeps apart, and what happens at once.</summary>
public sealed class HoldsAndConductTests : IAsyncLifetime
{
    private const string Member = "m-4",
        Steward = "m-2",
        Other = "m-6";
    private static readonly Instant Now = TestDatabase.Now;
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");
    private TestDatabase _db = null!;
    private CertificateHoldStore _holds = null!;
    private ConductStore _conduct = null!;

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        (_holds, _conduct) = (new CertificateHoldStore(_db.App), new ConductStore(_db.App));
    }

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private async Task<Guid> Suspended(HoldConditions? conditions = null) =>
        (
            await _holds.Set(
                Member,
                "heron",
                CertificateHoldKind.Suspended,
                conditions ?? new HoldConditions(),
                "Why.",
                Steward,
                Now,
                default
            )
        ).Value;

    private async Task<T> GateQuestion<T>(string sql, object? parameters = null)
    {
        await using var connection = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        return (await connection.ExecuteScalarAsync<T>(sql, parameters))!;
    }

    [Fact]
    public async Task End_ByWhoSetIt_OrTwoOthers_NeverByThePersonThemselves()
    {
        var id = await Suspended();
        (await _holds.End(id, "I say so.", Member, Now + Duration.FromMinutes(1), default)).Refusal!.Code.ShouldBe("hold.self");
        (await _holds.End(id, "First word.", Other, Now + Duration.FromMinutes(2), default)).Value.ShouldBe(HoldEnding.NeedsAnother);
        (await _holds.Now(Member, Now + Duration.FromMinutes(2), default)).ShouldHaveSingleItem();
        (await _holds.End(id, "Second word.", "m-7", Now + Duration.FromMinutes(3), default)).Value.ShouldBe(HoldEnding.Ends);
        (await _holds.Now(Member, Now + Duration.FromMinutes(4), default)).ShouldBeEmpty();
        (await _holds.End(id, "Again.", Steward, Now + Duration.FromMinutes(5), default)).Refusal!.Code.ShouldBe("notFound");
        (await GateQuestion<int>("select count(*)::int from training.certificate_hold where id = @id", new { id })).ShouldBe(
            2,
            "the row of before stays"
        );
    }

    [Fact]
    public async Task End_ByManyAtOnce_EndsOnce()
    {
        var id = await Suspended();
        var ended = await Task.WhenAll(
            Enumerable.Range(0, 8).Select(_ => _holds.End(id, "At once.", Steward, Now + Duration.FromMinutes(1), default))
        );
        ended.Count(e => e.IsOk).ShouldBe(1);
        (await GateQuestion<int>("select count(*)::int from ledger.entry where kind = 'training.reinstated'")).ShouldBe(1);
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Whole.ShouldBeTrue();
    }

    [Fact]
    public async Task Conditions_CountSupervisedRunsSinceThen_ThatTheSupervisorConfirmed()
    {
        var id = await Suspended(new HoldConditions(1));
        (await _holds.End(id, "Done?", Steward, Now + Duration.FromMinutes(1), default)).Refusal!.Text.ShouldBe(
            "Not yet: 0 of 1 supervised runs are logged."
        );
        await Run(Now - Duration.FromHours(3), confirmed: true);
        await Run(Now + Duration.FromMinutes(5), confirmed: false);
        (await _holds.Now(Member, Now + Duration.FromHours(2), default)).Single().Unmet.ShouldHaveSingleItem();
        await Run(Now + Duration.FromMinutes(40), confirmed: true);
        (await _holds.End(id, "Ran well.", Steward, Now + Duration.FromHours(2), default)).Value.ShouldBe(HoldEnding.Ends);

        Task Run(Instant start, bool confirmed) =>
            _db.Tamper(
                $"""
                insert into run.log (id, person_id, machine_id, material_id, thickness_mm, operations, during, outcome, logged_by, at,
                    supervisor_id, confirmed_at)
                values (gen_random_uuid(), '{Member}', 'heron', 'mat-board', 1.4, array['cut'], tstzrange('{start}', '{start
                    + Duration.FromMinutes(20)}'), 'clean', '{Member}', '{start + Duration.FromMinutes(20)}', 'm-3', {(
                    confirmed ? $"'{start + Duration.FromMinutes(25)}'" : "null"
                )})
                """
            );
    }

    [Fact]
    public async Task Review_LeavesOutWhoAsks_AndWhatIsHeldAlready()
    {
        await Suspended();
        var hit = await _holds.Review("m-3", Now - Duration.FromDays(400), Now, "Looked at again.", false, Other, Now, default);
        hit.ShouldNotContain((Member, "heron"), "suspended already");
        hit.ShouldNotContain(h => h.PersonId == Other);
        (await _holds.Review("m-3", Now - Duration.FromDays(400), Now, "Looked at again.", true, Other, Now, default)).ShouldBe(hit);
        (await _holds.Now(null, Now, default)).Count(h => h.Kind == CertificateHoldKind.Review).ShouldBe(hit.Count + 1, "one stood before");
    }

    [Fact]
    public async Task Entries_WrittenAtOnce_ClimbTheLadder_AndNoneIsLost()
    {
        var written = await Task.WhenAll(
            Enumerable
                .Range(0, 3)
                .Select(i =>
                    _conduct.Write(Member, null, ConductMatter.Other, ConductStep.Note, $"Entry {i}.", Steward, Rules, Now, default)
                )
        );
        written.ShouldAllBe(w => w.IsOk);
        (await _conduct.Of(Member, default))
            .Select(e => e.ByRule)
            .ShouldBe([ConductStep.Note, ConductStep.Warning, ConductStep.Warning], ignoreOrder: true);
        (await _conduct.Next(Member, ConductMatter.Other, Rules, Now, default)).ShouldBe(
            ConductStep.Warning,
            "the steps taken count, not those the ladder said"
        );
    }

    [Fact]
    public async Task Appeal_OncePerEntry_HeardOnce_ByTheDatabasesWordToo()
    {
        var id = (
            await _conduct.Write(Member, "heron", ConductMatter.LeftRunning, ConductStep.Pause, "Left it.", Steward, Rules, Now, default)
        ).Value;
        (await _conduct.Appeal(id, "Not mine.", Other, Now, default)).Refusal!.Code.ShouldBe("notFound", "only the person themselves");
        var appeals = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => _conduct.Appeal(id, "I was there.", Member, Now, default)));
        appeals.Count(a => a.IsOk).ShouldBe(1);
        (
            await Should.ThrowAsync<PostgresException>(() =>
                _db.Tamper(
                    $"update people.appeal set heard_by = '{Steward}', heard_on = '2026-11-24', heard_at = now(), outcome = "
                        + $"'upheld', outcome_text_id = gen_random_uuid() where conduct_id = '{id}'"
                )
            )
        ).SqlState.ShouldBe("23514", "who wrote the entry does not hear it, whatever the code says");
        var heard = await Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(_ =>
                    _conduct.Hear(id, true, new LocalDate(2026, 11, 24), "They were there.", Other, Now + Duration.FromMinutes(1), default)
                )
        );
        heard.Count(h => h.IsOk).ShouldBe(1);
        (
            await GateQuestion<int>(
                "select count(*)::int from people.pause where person_id = @Member and upper_inf(recorded) and held @> @at",
                new { Member, at = Now + Duration.FromMinutes(2) }
            )
        ).ShouldBe(0);
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Whole.ShouldBeTrue();
    }

    [Fact]
    public async Task Standing_OfAPaper_FollowsWhatHappenedSince()
    {
        var matrix = new MatrixStore(_db.App);
        var id = await GateQuestion<Guid>(
            "select id from training.certificate where person_id = @Member and authority = 'heron' and upper_inf(recorded)",
            new { Member }
        );
        (await matrix.Standing(id, Rules, Now, default))!.Now!.Hold.ShouldBeNull();
        await Suspended();
        (await matrix.Standing(id, Rules, Now, default))!.Now!.Hold.ShouldBe(CertificateHoldKind.Suspended);
        (await matrix.Standing(id, Rules, Now + Duration.FromDays(400), default))!.Now.ShouldBeNull("it has ended");
        (await matrix.Standing(Guid.NewGuid(), Rules, Now, default)).ShouldBeNull();
    }
}
