using Dapper;
using NodaTime;
using Npgsql;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Store.Drawings;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Drawings;

/// <summary>Drawings and their files: one file for equal bytes, clamps that no window loses.</summary>
public sealed class DrawingStoreTests : IAsyncLifetime
{
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 0);

    private TestDatabase _db = null!;

    private DrawingStore _store = null!;

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        _store = new DrawingStore(_db.App);
    }

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private async Task<KeptDrawing> Add(string person, string name, byte[] bytes, int minutes = 0) =>
        (
            await _store.Add(
                person,
                name,
                bytes,
                "image/png",
                DrawingReading.Summarise(
                    name,
                    new Drawing(Format: "svg", WidthMm: 100, HeightMm: 50, Shapes: [], TextAt: [], Images: 0, Broken: 0)
                ),
                Now + Duration.FromMinutes(minutes),
                default
            )
        ).Value;

    [Fact]
    public async Task EqualBytes_AreOneFile_OfTwoDrawings()
    {
        byte[] bytes = [1, 2, 3, 250];
        var (one, two) = (await Add("m-20", "one.png", bytes), await Add("m-21", "two.png", bytes, 1));
        two.Sha256.ShouldBe(one.Sha256);
        two.Id.ShouldNotBe(one.Id);
        (await _store.Bytes(one.Sha256, default)).ShouldBe(bytes);
        await using var connection = await _db.Owner.OpenConnectionAsync();
        (
            await connection.ExecuteScalarAsync<int>("select count(*)::int from bench.file where sha256 = @Sha256", new { one.Sha256 })
        ).ShouldBe(1);
    }

    [Fact]
    public async Task Found_WithAllThatWasMeasured()
    {
        var kept = await Add("m-20", "lantern — panel.png", [7]);
        var found = (await _store.Find(kept.Id, default)).ShouldNotBeNull();
        (found.Name, found.PersonId, found.At, found.Summary.WidthMm, found.Summary.HeightMm).ShouldBe(
            ("lantern — panel.png", "m-20", Now, 100, 50)
        );
        found.Clamps.ShouldBeEmpty();
        (await _store.Find(Guid.NewGuid(), default)).ShouldBeNull();
        (await _store.Bytes("nothing", default)).ShouldBeNull();
    }

    [Fact]
    public async Task OfAPerson_NewestFirst_AndNoOneElses()
    {
        await Add("m-22", "first", [1], 1);
        await Add("m-22", "third", [2], 3);
        await Add("m-22", "second", [3], 2);
        await Add("m-23", "another's", [4], 4);
        (await _store.Of("m-22", 2, default)).Select(d => d.Name).ShouldBe(["third", "second"]);
    }

    [Fact]
    public async Task Clamps_AreKeptOnlyFromWhatWasSeen()
    {
        var id = (await Add("m-20", "held", [1])).Id;
        Clamp[] one = [new(10.5, -3, 20)],
            two = [.. one, new(0, 1e-3, 35.25)];
        (await _store.Mark(id, [], one, default)).ShouldBeTrue();
        (await _store.Mark(id, [], two, default)).ShouldBeFalse("another window marked one before");
        (await _store.Mark(id, one, two, default)).ShouldBeTrue();
        (await _store.Find(id, default))!.Clamps.ShouldBe(two);
        (await _store.Mark(id, [new(10.5, -3, 21)], [], default)).ShouldBeFalse("not what stands there");
        (await _store.Mark(id, two, [], default)).ShouldBeTrue();
        (await _store.Find(id, default))!.Clamps.ShouldBeEmpty();
        (await _store.Mark(Guid.NewGuid(), [], one, default)).ShouldBeFalse();
    }

    /// <summary>Twelve at once, each from what it saw last: none is lost, whoever comes first.</summary>
    [Fact]
    public async Task Clamps_OfTwelveWindows_AllArrive()
    {
        var id = (await Add("m-20", "held", [1])).Id;
        await Task.WhenAll(
            Enumerable
                .Range(0, 12)
                .Select(i =>
                    Task.Run(async () =>
                    {
                        while (true)
                        {
                            var before = (await _store.Find(id, default))!.Clamps;
                            if (await _store.Mark(id, before, [.. before, new Clamp(i, i, 20)], default))
                                return;
                        }
                    })
                )
        );
        (await _store.Find(id, default))!.Clamps.Select(c => c.X).Order().ShouldBe(Enumerable.Range(0, 12).Select(i => (double)i));
    }

    [Fact]
    public async Task Colours_OfADrawing_AreReadWithIt_AndStandInTheRecord()
    {
        var drawing = await Add("m-20", "one", [1]);
        await _store.Colour(drawing, "#12ab34", StrokeMeaning.Cut, "m-20", Now, default);
        await _store.Colour(drawing, "#abcdef", StrokeMeaning.Ignore, "m-20", Now, default);
        await _store.Colour(drawing, "#abcdef", null, "m-20", Now, default);
        var read = (await _store.Find(drawing.Id, default))!.Summary;
        read.Own!.Strokes.ShouldBe([new("#12ab34", StrokeMeaning.Cut)]);
        await using var connection = await _db.Owner.OpenConnectionAsync();
        (await connection.ExecuteScalarAsync<int>("select count(*)::int from ledger.entry where kind = 'drawing.coloured'")).ShouldBe(3);
        (await _store.Find((await Add("m-20", "two", [2])).Id, default))!.Summary.Own.ShouldBeNull();
    }

    [Fact]
    public async Task Deleted_TakesItsFileWithIt_UnlessSomebodyKeepsTheSame()
    {
        var (one, two) = (await Add("m-20", "one", [9]), await Add("m-21", "two", [9]));
        (await _store.Delete(one, Now, default)).IsOk.ShouldBeTrue();
        (await _store.Bytes(two.Sha256, default)).ShouldBe([9]);
        (await _store.Delete(two, Now, default)).IsOk.ShouldBeTrue();
        (await _store.Bytes(two.Sha256, default)).ShouldBeNull();
    }

    /// <summary>Twenty put in and delete the same file at once: whoever keeps a drawing has its file.</summary>
    [Fact]
    public async Task Deleted_AndPutInAtOnce_LosesNoFile()
    {
        await using var connection = await _db.App.OpenConnectionAsync();
        // The demo keeps drawings of its own.
        var before = await connection.QuerySingleAsync<long>(DrawingStore.BytesKept.Sql);
        await Task.WhenAll(
            Enumerable
                .Range(0, 20)
                .Select(i =>
                    Task.Run(async () =>
                    {
                        for (var round = 0; round < 5; round++)
                        {
                            var drawing = await Add($"m-{20 + i}", "same", [7, 7]);
                            (await _store.Bytes(drawing.Sha256, default)).ShouldNotBeNull();
                            (await _store.Delete(drawing, Now, default)).IsOk.ShouldBeTrue();
                        }
                    })
                )
        );
        (await connection.QuerySingleAsync<long>(DrawingStore.BytesKept.Sql)).ShouldBe(before);
    }

    [Fact]
    public async Task Older_AreDeleted_NewerStay()
    {
        var (old, young) = (await Add("m-20", "old", [1]), await Add("m-20", "young", [2], 60));
        await _store.DeleteOlder(Now + Duration.FromMinutes(30), Now + Duration.FromDays(1), default);
        (await _store.Find(old.Id, default)).ShouldBeNull();
        (await _store.Bytes(old.Sha256, default)).ShouldBeNull();
        (await _store.Find(young.Id, default)).ShouldNotBeNull();
    }

    [Fact]
    public async Task Room_OfOnePerson_HoldsAgainstManyAtOnce()
    {
        await using (var connection = await _db.Owner.OpenConnectionAsync())
            await connection.ExecuteAsync(
                """
                insert into bench.file (sha256, media_type, length, bytes) values ('filler', 'image/png', @length, '');
                insert into bench.drawing (id, person_id, name, sha256, summary, at)
                    values (gen_random_uuid(), 'm-20', 'large', 'filler', '{}', now());
                """,
                new { length = DrawingRoom.PerPerson - 2 }
            );
        var made = await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(i =>
                    Task.Run(() =>
                        _store.Add(
                            "m-20",
                            "x",
                            [(byte)i],
                            "image/png",
                            DrawingReading.Summarise(
                                "x",
                                new Drawing(Format: "svg", WidthMm: 100, HeightMm: 50, Shapes: [], TextAt: [], Images: 0, Broken: 0)
                            ),
                            Now,
                            default
                        )
                    )
                )
        );
        made.Count(m => m.IsOk).ShouldBe(2);
        made.Where(m => !m.IsOk).ShouldAllBe(m => m.Refusal!.Code == "drawings.full");
    }

    /// <summary>The running app changes clamps and colours of a drawing, and nothing else of it.</summary>
    [Theory]
    [InlineData("update bench.drawing set name = 'x'")]
    [InlineData("update bench.drawing set summary = '{}'")]
    [InlineData("update bench.drawing set person_id = 'm-21'")]
    [InlineData("update bench.file set bytes = ''")]
    public async Task App_MayNotChangeTheRest(string sql)
    {
        await using var connection = await _db.App.OpenConnectionAsync();
        (await Should.ThrowAsync<PostgresException>(() => connection.ExecuteAsync(sql))).SqlState.ShouldBe(
            PostgresErrorCodes.InsufficientPrivilege
        );
    }
}
