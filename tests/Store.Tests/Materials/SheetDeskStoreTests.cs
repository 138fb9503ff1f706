using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Materials;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Materials;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Materials;

/// <summary>Sheets when two people do something at the same moment.</summary>
public sealed class SheetDeskStoreTests : IAsyncLifetime
{
    private const string Bringer = "m-8",
        Steward = "m-2",
        Other = "m-3";
    private static readonly Instant Now = TestDatabase.Now;
    private static readonly Clearing ForCutting = new([Operation.Cut], [], Now + Duration.FromDays(30), "The label says so.");
    private TestDatabase _db = null!;
    private SheetDeskStore _store = null!;

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        _store = new SheetDeskStore(_db.App);
    }

    /// <summary>Whatever a test did, the record tells it.</summary>
    public async ValueTask DisposeAsync()
    {
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Why.ShouldBeNull();
        await _db.DisposeAsync();
    }

    private async Task<IReadOnlyList<SheetTag>> Register(int count, string batch) =>
        (
            await _store.Register(
                [
                    new NewSheet(
                        MaterialId: "poplar-ply-laser",
                        ThicknessMm: 3,
                        WidthMm: 600,
                        HeightMm: 400,
                        Supplier: "Harbour Sheet Supply",
                        Batch: batch,
                        BroughtBy: Bringer,
                        Count: count
                    ),
                ],
                Bringer,
                Now,
                default
            )
        ).Value;

    [Fact]
    public async Task Registering_AtTheSameMoment_GivesEachSheetItsOwnTag()
    {
        var all = await Task.WhenAll(Enumerable.Range(0, 12).Select(i => Register(5, $"order {i}")));
        all.SelectMany(t => t).Distinct().Count().ShouldBe(60);
    }

    [Fact]
    public async Task Offcuts_AtTheSameMoment_GetNumbersOneAfterTheOther()
    {
        var tag = (await Register(1, ""))[0];
        await _store.Clear(tag, ForCutting, false, Steward, Now, default);
        var pieces = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => _store.CutOff(tag, 200, 100, Bringer, Now, default)));
        pieces.Select(p => p.Value.Value).Order(StringComparer.Ordinal).ShouldBe(Enumerable.Range(1, 6).Select(i => $"{tag}-{i}"));
        (await _store.Find($"{tag}-3", Now, default))!.ClearedUntil.ShouldBe(ForCutting.Until, "an offcut inherits the clearance");
    }

    [Fact]
    public async Task Clearing_WhileSomebodyReportsTheBatch_NeverLeavesASheetClearedInQuarantine()
    {
        for (var round = 0; round < 8; round++)
        {
            var tags = await Register(3, $"round {round}");
            await Task.WhenAll(
                _store.Report(tags[1], "It smelled of chlorine.", Other, Now, default),
                _store.Clear(tags[0], ForCutting, wholeBatch: true, Steward, Now + Duration.FromMilliseconds(5), default)
            );
            foreach (var tag in tags)
            {
                var sheet = (await _store.Find(tag, Now + Duration.FromSeconds(1), default))!;
                sheet.Quarantined.ShouldBeTrue($"{tag} of round {round}");
                sheet.ClearedUntil.ShouldBeNull($"{tag} of round {round}");
            }
        }
    }

    [Fact]
    public async Task WholeBatch_ClearsThoseThatWait_AndLeavesOtherPeoplesAlone()
    {
        var tags = await Register(3, "spring");
        var others = (
            await _store.Register(
                [
                    new NewSheet(
                        MaterialId: "poplar-ply-laser",
                        ThicknessMm: 3,
                        WidthMm: 600,
                        HeightMm: 400,
                        Supplier: "",
                        Batch: "spring",
                        BroughtBy: Other,
                        Count: 1
                    ),
                ],
                Other,
                Now,
                default
            )
        ).Value;
        await _store.Move(tags[2], SheetState.Refused, "Glue not stated.", Steward, Now, default);
        (await _store.Clear(tags[0], ForCutting, wholeBatch: true, Steward, Now, default)).Value.ShouldBe(tags.Take(2));
        (await _store.Find(others[0], Now, default))!.State.ShouldBe("waiting");
    }

    [Fact]
    public async Task OwnSheet_IsDecidedByAnother_AndNothingChanges()
    {
        var tag = (
            await _store.Register(
                [
                    new NewSheet(
                        MaterialId: "cork",
                        ThicknessMm: 3,
                        WidthMm: 300,
                        HeightMm: 200,
                        Supplier: "",
                        Batch: "",
                        BroughtBy: Steward,
                        Count: 1
                    ),
                ],
                Steward,
                Now,
                default
            )
        ).Value[0];
        (await _store.Clear(tag, ForCutting, false, Steward, Now, default)).Refusal!.Code.ShouldBe("sheet.self");
        (await _store.Move(tag, SheetState.Refused, "No.", Steward, Now, default)).Refusal!.Code.ShouldBe("sheet.self");
        var sheet = (await _store.Find(tag, Now, default))!;
        (sheet.State, sheet.Version).ShouldBe(("waiting", 1));
    }

    [Fact]
    public async Task Report_FollowsOffcutsToTheirBatch_AndTheSameEvidenceToOtherBatches()
    {
        var (first, second) = (await Register(2, "north"), await Register(1, "south"));
        var page = "%PDF-1.4 one order page"u8.ToArray();
        foreach (var tag in new[] { first[1], second[0] })
        {
            await _store.AddEvidence(tag, "page.pdf", "application/pdf", page, Bringer, Now, default);
            await _store.Clear(tag, ForCutting, false, Steward, Now, default);
        }
        await _store.Clear(first[0], ForCutting, false, Steward, Now, default);
        var piece = (await _store.CutOff(first[0], 200, 100, Bringer, Now, default)).Value;
        var hits = (await _store.Report(piece, "Green flame on copper.", Other, Now + Duration.FromMinutes(1), default)).Value;
        hits.Quarantined.ShouldBe([first[0], piece, first[1]], ignoreOrder: true);
        hits.Recheck.ShouldBe([second[0]]);
        var again = (await _store.Find(second[0], Now + Duration.FromMinutes(2), default))!;
        (again.State, again.Quarantined, again.ClearedUntil).ShouldBe(("recheck", false, (Instant?)null));
        await using var connection = await _db.App.OpenConnectionAsync();
        (await connection.ExecuteScalarAsync<string>("select kind from ledger.entry order by seq desc limit 1")).ShouldBe("sheet.reported");
    }
}
