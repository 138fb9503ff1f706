using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Store.Founding;
using VelvetGate.Store.House;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.House;

public sealed class SheetStoreTests : IAsyncLifetime
{
    private static readonly Instant Now = TestDatabase.Now;
    private static readonly Duration Day = Duration.FromDays(1);
    private TestDatabase _db = null!;
    private SheetStore _sheets = null!;
    private HouseRules _rules = null!;

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        _sheets = new SheetStore(_db.App);
        _rules = (await new HouseStore(_db.App).Rules(Now, default))!;
    }

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private Task Change(int grace, Instant from, Instant at) =>
        _sheets.ChangeRules(_rules with { NoShowGraceMinutes = grace }, "Tried it.", from, "m-1", at, default);

    private async Task<int?> Grace(Instant at) => (await new HouseStore(_db.App).Rules(at, default))?.NoShowGraceMinutes;

    /// <summary>Now, scheduled, and one put between: each instant has one version, and what held before is not rewritten.</summary>
    [Fact]
    public async Task ChangeRules_NowLaterAndInBetween_LeavesOneVersionForEveryInstant()
    {
        await Change(10, Now + 10 * Day, Now);
        await Change(20, Now, Now);
        await Change(30, Now + 5 * Day, Now + Day);
        (await Grace(Now - Day)).ShouldBe(15);
        (await Grace(Now)).ShouldBe(20);
        (await Grace(Now + 6 * Day)).ShouldBe(30);
        (await Grace(Now + 11 * Day)).ShouldBe(10);
        var versions = await _sheets.Rules(default);
        versions.Select(v => v.Rules.NoShowGraceMinutes).ShouldBe([15, 20, 30, 10]);
        foreach (var (a, b) in versions.Zip(versions.Skip(1)))
            a.Until.ShouldBe(b.From);
        versions[^1].Until.ShouldBeNull();
    }

    [Fact]
    public async Task ChangeRules_AgainForTheSameInstant_TakesTheLaterWord()
    {
        await Change(10, Now + Day, Now);
        await Change(12, Now + Day, Now);
        (await Grace(Now + 2 * Day)).ShouldBe(12);
    }

    [Fact]
    public async Task ChangeRules_ByManyAtOnce_NeverOverlap()
    {
        await Task.WhenAll(Enumerable.Range(1, 12).Select(i => Task.Run(() => Change(i, Now + i % 4 * Day, Now))));
        var versions = await _sheets.Rules(default);
        foreach (var (a, b) in versions.Zip(versions.Skip(1)))
            a.Until.ShouldBe(b.From);
    }

    [Fact]
    public async Task SetKit_Twice_KeepsWhatWasKnownBefore()
    {
        await _sheets.SetKit(new KitItem("co2", "CO2 extinguisher by the door", Now + 3 * Day), "m-1", Now, default);
        await _sheets.SetKit(new KitItem("co2", "CO2 extinguisher by the door", Now + 400 * Day), "m-1", Now + Day, default);
        (await _sheets.Kit(Now + Day, default)).Single(k => k.Id == "co2").InDateUntil.ShouldBe(Now + 400 * Day);
        await using var connection = await _db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
        (
            await connection.ExecuteScalarAsync<Instant>(
                "select in_date_until from house.fire_kit where id = 'co2' and held @> @at and recorded @> @at",
                new { at = Now + Duration.FromHours(2) }
            )
        ).ShouldBe(Now + 3 * Day);
    }

    [Fact]
    public async Task ChangeMachine_FromAnOldVersion_ChangesNothing()
    {
        var heron = (await _sheets.Machines(default)).Single(m => m.Spec.Id == "heron");
        (
            await _sheets.ChangeMachine(heron.Spec with { PowerW = 90, Fixtures = ["pins"] }, heron.Version, "m-1", Now, default)
        ).Value.ShouldBe(heron.Version + 1);
        (await _sheets.ChangeMachine(heron.Spec with { PowerW = 10 }, heron.Version, "m-1", Now, default)).Refusal!.Code.ShouldBe("stale");
        var now = (await _sheets.Machines(default)).Single(m => m.Spec.Id == "heron");
        (now.Spec.PowerW, now.Version).ShouldBe((90m, heron.Version + 1));
        await using var connection = await _db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
        (await connection.QueryAsync<string>("select id from house.fixture where machine_id = 'heron'")).ShouldBe(["pins"]);
        (await _sheets.ChangeMachine(heron.Spec with { Id = "gull" }, 1, "m-1", Now, default)).Refusal!.Code.ShouldBe("notFound");
    }

    /// <summary>Ten people press at once: one house, one keeper.</summary>
    [Fact]
    public async Task Found_ByTenAtOnce_FoundsOneHouse()
    {
        await using var empty = await TestDatabase.Empty();
        var founding = new FoundingOfHouse(empty.App);
        var rules = Packs.Start(Packs.School, "The Annex", "Europe/Paris");
        var tries = await Task.WhenAll(
            Enumerable
                .Range(0, 10)
                .Select(i =>
                    Task.Run(() =>
                        founding.Found(
                            rules,
                            new(
                                GivenName: "Ada",
                                FamilyName: $"Number{i}",
                                BirthDate: null,
                                Band: null,
                                Email: null,
                                SignInName: $"ada{i}",
                                AccountEnds: null
                            ),
                            "hash",
                            i % 2 == 0,
                            Now,
                            default
                        )
                    )
                )
        );
        tries.Count(t => t.IsOk).ShouldBe(1);
        tries.Where(t => !t.IsOk).ShouldAllBe(t => t.Refusal!.Code == "house.founded");
        (await founding.IsEmpty(default)).ShouldBeFalse();
    }
}

public sealed class CalendarStoreTests : IAsyncLifetime
{
    private static readonly Instant Now = TestDatabase.Now;
    private static readonly HouseClock London = HouseClock.For("Europe/London");
    private TestDatabase _db = null!;
    private CalendarStore _calendar = null!;

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        _calendar = new CalendarStore(_db.App);
    }

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    private static NewPlan Lesson(string adult, string machine, int hour) =>
        new(
            Kind: PlanKind.Class,
            Title: "Evening class",
            When: new Recurrence(new LocalDate(2026, 12, 2), new LocalTime(hour, 0), new LocalTime(hour + 2, 0), "FREQ=WEEKLY;COUNT=3"),
            PersonId: adult,
            MachineIds: [machine],
            Roster: [],
            AtOnce: 1
        );

    /// <summary>An adult teaches one class at a time, and a machine has one: the database says so, whoever is faster.</summary>
    [Fact]
    public async Task Add_TwoClassesForOneAdultOrMachineAtOnce_TakesOne()
    {
        var both = await Task.WhenAll(
            Enumerable
                .Range(0, 6)
                .Select(i => Task.Run(() => _calendar.Add(Lesson("m-9", i % 2 == 0 ? "heron" : "wren", 18), London, "m-1", Now, default)))
        );
        both.Count(b => b.IsOk).ShouldBe(1);
        both.Where(b => !b.IsOk).ShouldAllBe(b => b.Refusal!.Code == "calendar.overlap");
        (await _calendar.Add(Lesson("m-10", "kestrel", 18), London, "m-1", Now, default)).IsOk.ShouldBeTrue();
        (await _calendar.Add(Lesson("m-11", "kestrel", 19), London, "m-1", Now, default)).Refusal!.Code.ShouldBe("calendar.overlap");
    }

    [Fact]
    public async Task End_FreesWhatIsToCome_AndOnlyOnce()
    {
        var id = (await _calendar.Add(Lesson("m-9", "heron", 18), London, "m-1", Now, default)).Value;
        (await _calendar.End(id, "m-1", Now + Duration.FromHours(1), default)).ShouldBeTrue();
        (await _calendar.End(id, "m-1", Now + Duration.FromHours(1), default)).ShouldBeFalse();
        (await _calendar.Add(Lesson("m-9", "heron", 18), London, "m-1", Now + Duration.FromHours(2), default)).IsOk.ShouldBeTrue();
    }

    [Theory]
    [InlineData("m-4", "heron", "personId")]
    [InlineData("m-2", "gull", "machineIds")]
    public async Task Add_WithSomebodyOrSomethingUnknown_NamesTheField(string steward, string machine, string field)
    {
        var plan =
            machine == "gull"
                ? Lesson("m-9", "gull", 18)
                : Lesson(steward, machine, 18) with
                {
                    Kind = PlanKind.Duty,
                    MachineIds = [],
                    AtOnce = null,
                };
        (await _calendar.Add(plan, London, "m-1", Now, default)).Refusal!.Field.ShouldBe(field);
    }

    [Fact]
    public async Task Add_OnlyThePast_IsRefused() =>
        (
            await _calendar.Add(
                Lesson("m-9", "heron", 18) with
                {
                    When = new Recurrence(new LocalDate(2026, 11, 1), new LocalTime(9, 0), new LocalTime(10, 0)),
                },
                London,
                "m-1",
                Now,
                default
            )
        ).Refusal!.Field.ShouldBe("firstDay");
}
