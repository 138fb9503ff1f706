using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Ledger;

public class LedgerVerifierTests
{
    private static Task<Verification> Verify(TestDatabase db, (long, string)? anchor = null) =>
        new LedgerVerifier(db.Owner).Verify(anchor, default);

    [Fact]
    public async Task Verify_TheDemosRecord_IsWhole()
    {
        await using var db = await TestDatabase.Demo();
        var result = await Verify(db);
        result.Why.ShouldBeNull();
        result.Entries.ShouldBeGreaterThan(500);
        result.Erased.ShouldBe(0);
    }

    /// <summary>What people do while somebody verifies is no break of the chain.</summary>
    [Fact]
    public async Task Verify_WhileOthersWrite_IsWhole()
    {
        await using var db = await TestDatabase.Demo();
        var done = false;
        var writing = Task.Run(async () =>
        {
            await using var connection = await db.Owner.OpenConnectionAsync();
            while (!done)
                await connection.ExecuteAsync("select ledger.append('2026-12-01T00:00:00.000000Z', 'ledger.baseline', '{}')");
        });
        var grown = new List<long>();
        for (var n = 0; n < 12; n++)
        {
            var result = await Verify(db);
            result.Why.ShouldBeNull();
            grown.Add(result.Entries);
        }
        done = true;
        await writing;
        grown[^1].ShouldBeGreaterThan(grown[0], "somebody did write meanwhile");
    }

    /// <summary>Somebody with the owner's password edits the record itself.</summary>
    [Theory]
    [InlineData(
        "update ledger.entry set body = replace(body, 'heron', 'wren') where seq = (select min(seq) from ledger.entry where body "
            + "like '%heron%')",
        null
    )]
    [InlineData("update ledger.entry set at = '2020-01-01T00:00:00.000000Z' where seq = 40", 40L)]
    [InlineData("delete from ledger.entry where seq = 41", 41L)]
    [InlineData(
        "update ledger.entry set seq = -1 where seq = 50; update ledger.entry set seq = 50 where seq = 51; update ledger.entry set "
            + "seq = 51 where seq = -1",
        50L
    )]
    [InlineData(
        "update ledger.entry set seq = seq + 100000 where seq > 60; insert into ledger.entry select 61, at, kind, body, hash, 'x' "
            + "|| hash from ledger.entry where seq = 60; update ledger.entry set seq = seq - 99999 where seq > 100000",
        61L
    )]
    [InlineData("delete from ledger.entry where seq > (select max(seq) - 3 from ledger.entry)", -1L)] // the tail: the head remembers
    public async Task Verify_ChainTampered_NamesTheFirstBadNumber(string sql, long? number)
    {
        await using var db = await TestDatabase.Demo();
        await using var connection = await db.Owner.OpenConnectionAsync();
        var expected = number ?? await connection.ExecuteScalarAsync<long>("select min(seq) from ledger.entry where body like '%heron%'");
        if (expected == -1)
            expected = await connection.ExecuteScalarAsync<long>("select max(seq) - 2 from ledger.entry");
        await db.Tamper(sql);
        (await Verify(db)).FirstBad.ShouldBe(expected);
    }

    [Fact]
    public async Task Verify_WholeChainRewritten_IsCaughtByAnAnchorKeptElsewhere()
    {
        await using var db = await TestDatabase.Demo();
        var kept = await Verify(db);
        await db.Tamper(
            """
            create temp table tail on commit preserve rows as select seq, at, kind, body from ledger.entry where seq > 100 order by seq;
            delete from ledger.entry where seq > 100;
            update ledger.head set seq = 100, hash = (select hash from ledger.entry where seq = 100);
            select count(ledger.append(case when seq = 101 then '2020-01-01T00:00:00.000000Z' else at end, kind, body)) from (select *
                from tail order by seq) t;
            """
        );
        (await Verify(db)).Whole.ShouldBeTrue("by itself a rewritten chain is consistent");
        (await Verify(db, (kept.Entries, kept.Head))).FirstBad.ShouldBe(kept.Entries);
        (await Verify(db, (kept.Entries + 5, kept.Head))).Whole.ShouldBeFalse("a chain shorter than its anchor was cut");
    }

    /// <summary>The record is left alone, and the table it speaks of is edited.</summary>
    [Theory]
    [InlineData(
        "alter table booking.booking disable trigger booking_holds; "
            + "update booking.booking set machine_id = 'swift' where number = (select min(number) from booking.booking where machine_id "
            + "= 'heron')",
        "booking"
    )]
    [InlineData("update booking.claim set live = false where id = (select min(id) from booking.claim)", "booking")] // one of its two claims
    [InlineData("update booking.booking set cancelled_at = made_at where number = 5", "booking")]
    [InlineData(
        "update training.certificate set held = tstzrange(lower(held), null) where row_id = (select min(row_id) from training.certificate)",
        "certificate"
    )]
    [InlineData("delete from people.pause where row_id = (select min(row_id) from people.pause)", "pause")]
    [InlineData("update house.stop set machine_id = 'heron' where row_id = (select max(row_id) from house.stop)", "stop")]
    [InlineData(
        "insert into training.certificate (id, person_id, authority, signed_by, text_id, held, recorded) values "
            + "(gen_random_uuid(), 'm-5', 'heron', 'm-3', gen_random_uuid(), '[2026-01-01,)', '[2026-01-01,)')",
        "certificate"
    )]
    [InlineData(
        "update gate.decision set facts = replace(facts, 'birch', 'beech'), hash = 'x' where id = (select decision_id from "
            + "booking.booking order by number limit 1)",
        "booking"
    )]
    [InlineData(
        "update ledger.text set body = body || '.' where about = 'm-5' or id = (select text_id from training.certificate order by "
            + "row_id limit 1)",
        "note"
    )]
    [InlineData(
        "insert into people.role (person_id, role, held, recorded) values ('m-5', 'steward', '[2026-01-01,)', '[2026-01-01,)')",
        "role"
    )]
    [InlineData(
        "update people.role set machine_id = 'swift' where row_id = (select min(row_id) from people.role where role = 'trainer' "
            + "and machine_id <> 'swift')",
        "role"
    )]
    [InlineData(
        "update materials.clearance set operations = '{cut,score,engrave}', machine_ids = '{swift}' where row_id = (select "
            + "min(row_id) from materials.clearance)",
        "clearance"
    )]
    [InlineData("delete from materials.quarantine where row_id = (select min(row_id) from materials.quarantine)", "quarantine")]
    [InlineData(
        "update people.consent set held = tstzrange(lower(held), null) where row_id = (select min(row_id) from people.consent)",
        "consent"
    )]
    [InlineData(
        "update materials.ruling set standing = 'permitted' where id = (select min(id) from materials.ruling where standing = 'never')",
        "ruling"
    )]
    [InlineData(
        "insert into gate.lift (id, person_id, machine_id, items, reasons, decision_id, held, recorded) select id, person_id, "
            + "machine_id, '[]', '[]', (select id from gate.decision limit 1), '[2026-01-01,2026-12-01)', '[2026-01-01,)' from gate.ask "
            + "limit 1",
        "lift"
    )]
    [InlineData(
        "insert into training.certificate_hold (id, person_id, authority, kind, set_by, text_id, conditions, held, recorded) "
            + "values (gen_random_uuid(), 'm-5', 'heron', 'review', 'm-3', gen_random_uuid(), '{}', '[2026-01-01,)', '[2026-01-01,)')",
        "hold"
    )]
    public async Task Verify_TableTampered_DoesNotReconcile(string sql, string what)
    {
        await using var db = await TestDatabase.Demo();
        await db.Tamper(sql);
        var result = await Verify(db);
        result.Whole.ShouldBeFalse();
        result.Why!.ShouldContain(what);
    }

    private static async Task EraseByRule(TestDatabase db, string person)
    {
        var now = TestDatabase.Now;
        var rules = (await new Store.House.HouseStore(db.App).Rules(now, default))!;
        foreach (
            var booking in (await new Store.Booking.BookingStore(db.App).Between(now, now + Duration.FromDays(60), person, default)).Where(
                b => b.PersonId == person
            )
        )
            await new Store.Booking.BookingStore(db.App).Cancel(booking.Id, person, false, null, now, default);
        await new AccountStore(db.App).SetEnd(person, now, "m-1", now, default);
        (await new PersonalDataStore(db.App).Erase(person, "m-1", rules, now + Duration.FromDays(800), default)).IsOk.ShouldBeTrue();
    }

    /// <summary>A text that was simply deleted is missed; one that an erasing names is not.</summary>
    [Fact]
    public async Task ATextThatIsGone_WithoutItsErasing_IsFound()
    {
        await using var db = await TestDatabase.Demo();
        await EraseByRule(db, "m-34");
        (await Verify(db)).Why.ShouldBeNull();
        await db.Tamper("delete from ledger.text where id = (select text_id from house.stop where machine_id = 'kestrel' limit 1)");
        (await Verify(db)).Why.ShouldNotBeNull().ShouldContain("no erasing of it stands in the record");
    }

    [Fact]
    public async Task Erase_APerson_LeavesAChainThatVerifiesAndSaysSo()
    {
        await using var db = await TestDatabase.Demo();
        await using var connection = await db.App.OpenConnectionAsync();
        var (given, family) = await connection.QuerySingleAsync<(string, string)>(
            "select given_name, family_name from people.person where id = 'm-34'"
        );
        await EraseByRule(db, "m-34");
        var result = await Verify(db);
        result.Why.ShouldBeNull();
        result.Erased.ShouldBeGreaterThan(0);
        var left = await connection.QueryAsync<string>(
            "select body from ledger.entry union all select body from ledger.text union all select facts from gate.decision union "
                + "all select ask from gate.decision"
        );
        left.ShouldNotContain(t => t.Contains(given, StringComparison.Ordinal) || t.Contains(family, StringComparison.Ordinal));
        (await new PeopleStore(db.App).Find("m-34", TestDatabase.Now, default)).ShouldBeNull();
    }

    [Fact]
    public async Task Append_ByManyAtOnce_NumbersWithoutGapsInCommitOrder()
    {
        await using var db = await TestDatabase.Demo();
        var house = new HouseStore(db.App);
        await Task.WhenAll(
            Enumerable
                .Range(0, 40)
                .Select(i => house.Stop("swift", $"m-{i + 1}", $"Smell {i}.", TestDatabase.Now + Duration.FromSeconds(i), default))
        );
        (await Verify(db)).Why.ShouldBeNull();
    }

    /// <summary>The chain holds numbers, codes, instants and salted hashes: no name of anybody stands in it.</summary>
    [Fact]
    public async Task Entries_HoldNoNames()
    {
        await using var db = await TestDatabase.Demo();
        await using var connection = await db.App.OpenConnectionAsync();
        var names = (
            await connection.QueryAsync<string>(
                "select family_name from people.person where length(family_name) > 4 union select given_name from people.person "
                    + "where length(given_name) > 4 and given_name <> 'Wren'"
            )
        ).ToList();
        var bodies = string.Join('\n', await connection.QueryAsync<string>("select body from ledger.entry"));
        names.Count.ShouldBeGreaterThan(60);
        names.ShouldNotContain(n => bodies.Contains(n, StringComparison.Ordinal));
    }
}
