using System.Diagnostics;
using NodaTime;
using Shouldly;
using VelvetGate.Core.Watch;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Store.House;
using VelvetGate.Store.Incidents;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Store.Run;
using VelvetGate.Store.Training;
using VelvetGate.Store.Upkeep;
using VelvetGate.Store.Watch;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Watch;

public sealed class WatchStoreTests : IAsyncLifetime
{
    private static readonly IStewardTasks[] Rooms =
    [
        new ParkedTasks(),
        new HouseTasks(),
        new UpkeepTasks(),
        new PeopleTasks(),
        new MaterialTasks(),
        new TrainingTasks(),
        new GateTasks(),
        new BookingTasks(),
        new RunTasks(),
        new IncidentTasks(),
    ];

    private TestDatabase _db = null!;

    private WatchStore Watch => new(_db.App, new TestClock(TestDatabase.Now), Rooms);

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    [Fact]
    public async Task Now_IsOneCommand_OfAtMostTwelveStatements()
    {
        await Watch.Now(null, default);
        var sent = new List<string>();
        using var mine = new Activity("watch");
        using var listener = new ActivityListener
        {
            ShouldListenTo = source => source.Name == "Npgsql",
            Sample = (ref ActivityCreationOptions<ActivityContext> _) => ActivitySamplingResult.AllData,
            ActivityStopped = activity =>
            {
                if (activity.TraceId == mine.TraceId)
                    sent.Add((string)activity.GetTagItem("db.query.text")!);
            },
        };
        ActivitySource.AddActivityListener(listener);
        mine.Start();
        var watch = (await Watch.Now(null, default))!;
        sent.ShouldHaveSingleItem().Split(';').Length.ShouldBeLessThanOrEqualTo(12);
        watch.Bookings.ShouldNotBeEmpty();
        watch.Tasks.Select(t => t.NeedKind).Distinct().Count().ShouldBeGreaterThan(3);
    }

    /// <summary>Every kind of need but that of the disk, which is no row, comes from a room.</summary>
    [Fact]
    public async Task EveryKind_IsOfferedByOneRoom_InTheSameColumns()
    {
        var kinds = Rooms.SelectMany(r => r.Sql).Select(sql => sql.Split('\'')[1]).ToList();
        kinds.ShouldBeUnique();
        kinds
            .Order()
            .ShouldBe(
                Enum.GetNames<NeedKind>()
                    .Where(k => k != nameof(NeedKind.RoomShort))
                    .Select(k => char.ToLowerInvariant(k[0]) + k[1..])
                    .Order()
            );
        foreach (var sql in Rooms.SelectMany(r => r.Sql))
        {
            await using var command = _db.App.CreateCommand($"select * from ({sql}) t limit 0");
            foreach (var name in new[] { "@Now", "@Soon", "@Late", "@AnswerUntil", "@MailSince" })
                command.Parameters.AddWithValue(name[1..], TestDatabase.Now);
            command.Parameters.AddWithValue("Person", NpgsqlTypes.NpgsqlDbType.Text, DBNull.Value);
            command.Parameters.AddWithValue("Today", new LocalDate(2026, 11, 24));
            await using var reader = await command.ExecuteReaderAsync();
            reader.FieldCount.ShouldBe(12, sql);
        }
    }

    [Fact]
    public async Task Now_OfOnePerson_ListsOnlyTheirOwn()
    {
        var all = (await Watch.Now(null, default))!.Tasks;
        var person = all.First(t => t.NeedKind == NeedKind.AskWaiting).PersonId!.Value;
        var own = (await Watch.Now(person, default))!.Tasks;
        own.ShouldNotBeEmpty();
        own.ShouldAllBe(t => t.PersonId == person);
        own.Count.ShouldBeLessThan(all.Count);
    }

    /// <summary>What is remembered is held against what is there: a rule of the house that changed is followed at once.</summary>
    [Fact]
    public async Task Now_AfterTheHousesZoneChanged_ShowsItsDay()
    {
        var before = (await Watch.Now(null, default))!;
        await _db.Tamper("update house.rules set body = jsonb_set(body, '{zoneId}', '\"Pacific/Auckland\"')");
        var after = (await Watch.Now(null, default))!;
        after.Rules.Clock.DateOf(TestDatabase.Now).ShouldBe(before.Rules.Clock.DateOf(TestDatabase.Now));
        after.Rules.Clock.Day(new LocalDate(2026, 11, 24)).Start.ShouldNotBe(before.Rules.Clock.Day(new LocalDate(2026, 11, 24)).Start);
        var day = after.Rules.Clock.Day(new LocalDate(2026, 11, 24));
        after.Bookings.ShouldAllBe(b => b.Start < day.End && b.End > day.Start);
    }
}
