using System.Text.Json;
using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.People;

public sealed class PersonalDataTests : IAsyncLifetime
{
    private static readonly Instant Now = TestDatabase.Now;
    private TestDatabase _db = null!;
    private PersonalDataStore _data = null!;

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        _data = new PersonalDataStore(_db.App);
    }

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    /// <summary>Columns that name a person as the one who did something to others: their act, told in those others' data.</summary>
    private static readonly string[] ActedAs =
    [
        "cleared_by",
        "state_by",
        "arrived_by",
        "cancelled_by",
        "made_by",
        "set_by",
        "returned_by",
        "signed_by",
        "answered_by",
        "logged_by",
        "confirmed_by",
        "ended_by",
        "by",
        "called_by",
        "written_by",
        "heard_by",
    ];

    /// <summary>A table that comes to speak of people has to come into the download too.</summary>
    [Fact]
    public async Task Download_CoversEveryTableThatSpeaksOfPeople()
    {
        await using var connection = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        var columns = (
            await connection.QueryAsync<(string Table, string Column)>(
                """
                select n.nspname || '.' || c.relname, a.attname from pg_constraint k join pg_class c on c.oid = k.conrelid
                    join pg_namespace n on n.oid = c.relnamespace
                join pg_attribute a on a.attrelid = c.oid and a.attnum = k.conkey[1]
                where k.contype = 'f' and k.confrelid = 'people.person'::regclass
                """
            )
        ).ToList();
        columns.Count.ShouldBeGreaterThan(20);
        foreach (var (table, column) in columns.Where(c => !ActedAs.Contains(c.Column)))
            PersonalDataStore.Sections.ShouldContain(
                s => s.From.Contains(table, StringComparison.Ordinal) && s.From.Contains(column, StringComparison.Ordinal),
                $"{table}.{column}"
            );
    }

    [Fact]
    public async Task Download_IsOnesOwnAndWhole()
    {
        var json = (await _data.Download("m-4", TestContext.Current.CancellationToken))!;
        using var document = JsonDocument.Parse(json);
        document.RootElement.GetProperty("person")[0].GetProperty("family_name").GetString().ShouldBe("Calloway");
        document.RootElement.GetProperty("certificates").GetArrayLength().ShouldBe(2);
        document.RootElement.GetProperty("texts").GetArrayLength().ShouldBeGreaterThan(0);
        document.RootElement.GetProperty("runs").EnumerateArray().ShouldAllBe(r => r.GetProperty("person_id").GetString() == "m-4");
        json.ShouldNotContain("password_hash");
        (await _data.Download("nobody", TestContext.Current.CancellationToken)).ShouldBeNull();
    }

    [Fact]
    public async Task Erase_KeepsWhatLawWants_UntilItNoLongerDoes()
    {
        await using (var connection = await _db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken))
        await using (var transaction = await connection.BeginTransactionAsync(TestContext.Current.CancellationToken))
        {
            var text = await LedgerStore.Keep(connection, transaction, "Burned a finger on a hot part.", "m-34");
            await connection.ExecuteAsync(
                "update ledger.text set keep_until = @until where id = @Id",
                new { until = Now + Duration.FromDays(3000), text.Id },
                transaction
            );
            await transaction.CommitAsync(TestContext.Current.CancellationToken);
        }
        var bookings = new Store.Booking.BookingStore(_db.App);
        foreach (var booking in await bookings.Between(Now, Now + Duration.FromDays(60), "m-34", default))
            await bookings.Cancel(booking.Id, "m-34", false, null, Now, default);
        var accounts = new AccountStore(_db.App);
        await accounts.SetEnd("m-34", Now, "m-1", Now, default);
        var rules = (await new HouseStore(_db.App).Rules(Now, default))!;
        (await _data.Erase("m-34", "m-1", rules, Now + Duration.FromDays(30), default)).Refusal!.Code.ShouldBe("erase.retention");
        await accounts.LegalHold("m-34", true, "A claim is open.", "m-1", Now, default);
        (await _data.Erase("m-34", "m-1", rules, Now + Duration.FromDays(800), default)).Refusal!.Code.ShouldBe("erase.legalHold");
        await accounts.LegalHold("m-34", false, "Settled.", "m-1", Now, default);
        (await _data.Erase("m-34", "m-1", rules, Now + Duration.FromDays(800), default)).IsOk.ShouldBeTrue();
        (await Texts()).ShouldBe(["Burned a finger on a hot part."], "the texts of the legal hold go too");
        (await _data.EraseOverdue(Now + Duration.FromDays(2999), default)).ShouldBe(0);
        (await _data.EraseOverdue(Now + Duration.FromDays(3000), default)).ShouldBe(1);
        (await Texts()).ShouldBeEmpty();
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).FirstBad.ShouldBeNull();

        async Task<IReadOnlyList<string>> Texts()
        {
            await using var connection = await _db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
            return [.. await connection.QueryAsync<string>("select body from ledger.text where about = 'm-34'")];
        }
    }

    /// <summary>What no rule finds is shown to a human, who may erase it by itself.</summary>
    [Fact]
    public async Task Mentions_AreShown_AndErasedOneByOne()
    {
        await new HouseStore(_db.App).Stop("swift", "m-2", "Calloway left the lid open.", Now, default);
        var mentions = new MentionStore(_db.App);
        var mention = (await mentions.Of("m-4", default))!.Single(m => m.Body.StartsWith("Calloway left", StringComparison.Ordinal));
        mention.What.ShouldBe("a text about the house, a machine or stock");
        (await mentions.Of("nobody", default)).ShouldBeNull();
        (await mentions.Erase(mention.Text!.Value, "m-1", Now, default)).ShouldBeTrue();
        (await mentions.Erase(mention.Text!.Value, "m-1", Now, default)).ShouldBeFalse();
        (await mentions.Of("m-4", default))!.ShouldNotContain(m => m.Text == mention.Text);
        (await new LedgerVerifier(_db.Owner).Verify(null, default)).Why.ShouldBeNull();
    }

    [Fact]
    public async Task Erase_WhoStillOwnsSomething_IsToldWhat()
    {
        var rules = (await new HouseStore(_db.App).Rules(Now, default))!;
        await new AccountStore(_db.App).SetEnd("m-6", Now, "m-1", Now, default);
        var refusal = (await _data.Erase("m-6", "m-1", rules, Now + Duration.FromDays(900), default)).Refusal!;
        refusal.Code.ShouldBe("erase.owns");
        refusal.Text.ShouldContain("the role steward");
        refusal.Text.ShouldContain("duty in the calendar");
    }
}
