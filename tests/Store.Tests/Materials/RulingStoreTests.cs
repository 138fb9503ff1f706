using Dapper;
using NodaTime;
using Npgsql;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Materials;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Materials;

/// <summary>Rulings as kept: what holds when, who may loosen, and two hands at once.</summary>
public sealed class RulingStoreTests : IAsyncLifetime
{
    private const string One = "m-2",
        Two = "m-3",
        Three = "m-4";
    private static readonly Instant Now = TestDatabase.Now;
    private TestDatabase _db = null!;
    private RulingStore _store = null!;

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        _store = new RulingStore(_db.App);
    }

    /// <summary>Whatever a test did, the record tells it.</summary>
    public async ValueTask DisposeAsync()
    {
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Why.ShouldBeNull();
        await _db.DisposeAsync();
    }

    private static RulingChange Cork(RulingStatus standing, decimal? maxMm = null) =>
        new(
            "cork",
            [new RulingCell("cork", LaserKind.Co2, Operation.Cut)],
            [
                new Ruling(
                    MaterialId: "cork",
                    Kind: LaserKind.Co2,
                    Operation: Operation.Cut,
                    MinMm: 0,
                    MaxMm: maxMm,
                    Standing: standing,
                    Evidence: Evidence.Declared,
                    Reasons: ["fire-melt"],
                    Hazard: "Smoke.",
                    Handling: "",
                    FilteredNeedsArrangement: false
                ),
            ],
            "",
            new LocalDate(2027, 11, 24)
        );

    private async Task<int> Version() => (await new MaterialStore(_db.App).Shelf(Now, default)).Versions["cork"];

    private async Task<RulingStatus> At(Instant instant) =>
        (await new MaterialStore(_db.App).Shelf(instant, default))
            .Rulings.Single(r => r is { MaterialId.Value: "cork", Kind: LaserKind.Co2, Operation: Operation.Cut })
            .Standing;

    [Fact]
    public async Task Stricter_HoldsAtOnce_AndWhatHeldBeforeStaysOnRecord()
    {
        var made = await _store.Change(Cork(RulingStatus.Banned), Now, await Version(), "Binder unknown.", One, Now, default);
        made.Value.Proposal.ShouldBeNull();
        (await At(Now)).ShouldBe(RulingStatus.Banned);
        (await At(Now - Duration.FromDays(1))).ShouldBe(RulingStatus.Permitted);
        var cell = (await _store.History("cork", default))
            .Where(v => v.Ruling is { Kind: LaserKind.Co2, Operation: Operation.Cut })
            .ToList();
        cell.Select(v => v.Until).ShouldBe([Now, null]);
        cell[^1].Why.ShouldBe("Binder unknown.");
    }

    [Fact]
    public async Task Stricter_FromADayToCome_HoldsThenAndNotBefore()
    {
        var day = Now + Duration.FromDays(9);
        (await _store.Change(Cork(RulingStatus.Banned), day, await Version(), "From the new term.", One, Now, default)).IsOk.ShouldBeTrue();
        (await At(day - Duration.FromMinutes(1))).ShouldBe(RulingStatus.Permitted);
        (await At(day)).ShouldBe(RulingStatus.Banned);
    }

    [Fact]
    public async Task TwoHands_OnOneVersion_TheSecondIsTold()
    {
        var version = await Version();
        var both = await Task.WhenAll(
            _store.Change(Cork(RulingStatus.Banned), Now, version, "One.", One, Now, default),
            _store.Change(Cork(RulingStatus.Banned), Now, version, "Two.", Two, Now, default)
        );
        both.Count(b => b.IsOk).ShouldBe(1);
        both.Single(b => !b.IsOk).Refusal!.Code.ShouldBe("stale");
    }

    [Fact]
    public async Task Milder_WaitsForAnother_WhomTheDatabaseWantsToo()
    {
        await _store.Change(Cork(RulingStatus.Banned), Now, await Version(), "Binder unknown.", One, Now, default);
        var id = (await _store.Change(Cork(RulingStatus.Permitted), Now, await Version(), "Binder is known now.", One, Now, default))
            .Value
            .Proposal!
            .Value;
        (await At(Now)).ShouldBe(RulingStatus.Banned);
        (await _store.Answer(id, agree: true, "I agree with me.", One, mayRule: true, Now, default)).Refusal!.Code.ShouldBe("ruling.self");
        var bent = await Should.ThrowAsync<PostgresException>(() =>
            _db.Tamper($"update materials.proposal set state = 'agreed', answered_by = '{One}', answered_at = now() where id = '{id}'")
        );
        bent.SqlState.ShouldBe(PostgresErrorCodes.CheckViolation);

        var later = Now + Duration.FromHours(2);
        var answers = await Task.WhenAll(
            _store.Answer(id, agree: true, "Seen the statement.", Two, mayRule: true, later, default),
            _store.Answer(id, agree: false, "Not yet.", Three, mayRule: true, later, default)
        );
        answers.Count(a => a.IsOk).ShouldBe(1, "one answer counts");
        (await At(later)).ShouldBe(answers[0].IsOk ? RulingStatus.Permitted : RulingStatus.Banned);
        (await At(later - Duration.FromMinutes(1))).ShouldBe(RulingStatus.Banned, "never from before it was agreed to");
    }

    [Fact]
    public async Task Never_IsLoosenedByNobody_AndNothingIsLeftBehind()
    {
        var vinyl = new RulingChange(
            "pvc-sheet",
            [new RulingCell("pvc-sheet", LaserKind.Co2, Operation.Cut)],
            [
                new Ruling(
                    MaterialId: "pvc-sheet",
                    Kind: LaserKind.Co2,
                    Operation: Operation.Cut,
                    MinMm: 0,
                    MaxMm: null,
                    Standing: RulingStatus.ByArrangement,
                    Evidence: Evidence.ClearedTag,
                    Reasons: ["chlorine"],
                    Hazard: "Acid.",
                    Handling: "",
                    FilteredNeedsArrangement: false
                ),
            ],
            "",
            new LocalDate(2027, 11, 24)
        );
        var version = (await new MaterialStore(_db.App).Shelf(Now, default)).Versions["pvc-sheet"];
        (await _store.Change(vinyl, Now, version, "Just once.", One, Now, default)).Refusal!.Code.ShouldBe("ruling.never");
        await using var connection = await _db.App.OpenConnectionAsync();
        (await connection.ExecuteScalarAsync<int>("select count(*)::int from materials.proposal where material_id = 'pvc-sheet'")).ShouldBe(
            0
        );
    }
}
