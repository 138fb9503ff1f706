using ArchUnitNET.Domain;
using ArchUnitNET.Loader;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

/// <summary>Arrows point down only: Web → Store → Core. Core knows no file, clock, database or web.</summary>
public class ArchitectureTests
{
    private static readonly System.Reflection.Assembly Core = typeof(VelvetGate.Core.Gating.Gate).Assembly;
    private static readonly System.Reflection.Assembly Store = typeof(VelvetGate.Store.Db.Database).Assembly;
    private static readonly System.Reflection.Assembly Web = typeof(Program).Assembly;

    private static readonly ArchUnitNET.Domain.Architecture Loaded = new ArchLoader().LoadAssemblies(Core, Store, Web).Build();

    [Fact]
    public void Core_ReferencesNothingButItsOwnKind()
    {
        var references = Core.GetReferencedAssemblies()
            .Select(a => a.Name!)
            .Where(n => !n.StartsWith("System", StringComparison.Ordinal) && n != "netstandard")
            .Order(StringComparer.Ordinal);
        // SkiaSharp decodes pictures from their bytes, as ExCSS reads styles; MathNet gives quantiles: no file, no screen.
        references.ShouldBe([
            "CsvHelper",
            "ExCSS",
            "Ical.Net",
            "MathNet.Numerics",
            "NodaTime",
            "NodaTime.Serialization.SystemTextJson",
            "SkiaSharp",
        ]);
    }

    [Theory]
    [InlineData("System.IO.File")]
    [InlineData("System.IO.FileStream")]
    [InlineData("System.Net.Http.HttpClient")]
    [InlineData("System.DateTime")]
    [InlineData("NodaTime.SystemClock")]
    [InlineData("System.Diagnostics.Stopwatch")]
    [InlineData("System.Environment")]
    public void Core_NeverUses(string type)
    {
        var users = Loaded
            .Types.Where(t => t.Assembly.Name.StartsWith(Core.GetName().Name!, StringComparison.Ordinal))
            .Where(t => t.Dependencies.Any(d => d.Target.FullName == type))
            .Select(t => t.FullName)
            .ToList();
        users.ShouldBeEmpty();
    }

    [Fact]
    public void Store_DoesNotKnowTheWeb() => Store.GetReferencedAssemblies().Select(a => a.Name).ShouldNotContain(Web.GetName().Name);

    /// <summary>SQL stands in Store, beside the method that runs it. The web's own key ring is the one exception.</summary>
    [Fact]
    public void Web_HasNoSqlOfItsOwn()
    {
        var users = Loaded
            .Types.Where(t =>
                t.Assembly.Name.StartsWith(Web.GetName().Name!, StringComparison.Ordinal)
                && t.Dependencies.Any(d => d.Target.FullName == "Dapper.SqlMapper")
            )
            .Select(t => t.Name)
            .ToList();
        users.ShouldBe(["DataProtectionKeys"]);
    }

    /// <summary>Posts are small pieces that do not know each other.</summary>
    [Fact]
    public void Posts_DoNotCallOneAnother()
    {
        var posts = Loaded
            .Types.Where(t => t.Namespace.FullName == "VelvetGate.Core.Gating.Posts" && t.Name.EndsWith("Post", StringComparison.Ordinal))
            .ToList();
        posts.Count.ShouldBe(7);
        foreach (var post in posts)
            post.Dependencies.Select(d => d.Target).OfType<IType>().Where(t => posts.Contains(t) && t != post).ShouldBeEmpty();
    }

    /// <summary>Rooms of Core by tier: a room knows the tiers below its own.</summary>
    private static readonly string[][] Tiers =
    [
        ["Kernel", "Ledger"],
        ["House", "People", "Machines"],
        ["Materials", "Drawings", "Training", "Settings"],
        ["Gating"],
        ["Booking", "Run", "Upkeep", "Incidents"],
        ["Station"],
        ["Watch", "Reports"],
    ];

    /// <summary>Arrows within a tier, each with its reason.</summary>
    private static readonly Dictionary<(string From, string To), string> Within = new()
    {
        [("People", "House")] = "retention, conduct and second factors follow house rules",
        [("Machines", "House")] = "an emergency card is worded from machine, workshop room and house rules",
        [("Settings", "Materials")] = "what no ruling permits has no setting",
        [("Settings", "Drawings")] = "run time is estimated from a drawing's lines",
        [("Training", "Materials")] = "add-ons are named after stock that wants one",
    };

    /// <summary>Rooms of Store by tier.</summary>
    private static readonly string[][] StoreTiers =
    [
        ["Db", "Ledger"],
        ["House", "People"],
        ["Materials", "Drawings", "Training"],
        ["Gate", "Settings"],
        ["Upkeep"],
        ["Booking", "Run", "Incidents", "Founding"],
        ["Station"],
        ["Watch", "Reports"],
        ["Demo"],
    ];

    private static readonly Dictionary<(string From, string To), string> WithinStore = new()
    {
        [("Ledger", "Db")] = "what background work could not do waits in the form that every room's tasks have",
        [("House", "People")] = "who stops a machine is told of it, and stewards are",
        [("Run", "Incidents")] = "a run at which a flame stayed opens its incident in the same transaction",
        [("Db", "Training")] = "a database that is brought up gets the course that ships",
    };

    /// <summary>Rooms of Web by tier.</summary>
    private static readonly string[][] WebTiers =
    [
        ["Shared"],
        ["Ledger", "Metrics"],
        ["House", "People", "Machines", "Upkeep"],
        ["Materials", "Drawings", "Training", "Settings"],
        ["Gate"],
        ["Booking", "Run", "Incidents"],
        ["Station"],
        ["Watch", "Public", "Reports"],
    ];

    private static readonly Dictionary<(string From, string To), string> WithinWeb = new();

    [Fact]
    public void Rooms_OfCore_KnowOnlyWhatLiesBelow() => Arrows(Core, Tiers, Within).ShouldBeEmpty();

    [Fact]
    public void Rooms_OfStore_KnowOnlyWhatLiesBelow() => Arrows(Store, StoreTiers, WithinStore).ShouldBeEmpty();

    [Fact]
    public void Rooms_OfWeb_KnowOnlyWhatLiesBelow() => Arrows(Web, WebTiers, WithinWeb).ShouldBeEmpty();

    private static List<string> Arrows(
        System.Reflection.Assembly floor,
        string[][] tiers,
        Dictionary<(string From, string To), string> within
    )
    {
        var tier = tiers.SelectMany((rooms, n) => rooms.Select(r => (Room: r, Tier: n))).ToDictionary(r => r.Room, r => r.Tier);
        var prefix = floor.GetName().Name + ".";
        string? Room(string name) =>
            name.StartsWith(prefix, StringComparison.Ordinal) ? name[prefix.Length..].Split('.')[0].Split('+', '/')[0] : null;
        return Loaded
            .Types.Where(t =>
                t.Assembly.Name.StartsWith(floor.GetName().Name!, StringComparison.Ordinal)
                && Room(t.FullName) is { } r
                && tier.ContainsKey(r)
            )
            .SelectMany(t =>
                t.Dependencies.Select(d => (From: Room(t.FullName)!, To: Room(d.Target.FullName), Who: $"{t.Name} → {d.Target.Name}"))
            )
            .Where(a => a.To is not null && tier.ContainsKey(a.To) && a.From != a.To)
            .Where(a => tier[a.To!] >= tier[a.From] && !within.ContainsKey((a.From, a.To!)))
            .Select(a => $"{a.From} → {a.To}: {a.Who}")
            .Distinct()
            .Order(StringComparer.Ordinal)
            .ToList();
    }

    [Fact]
    public void EveryRoom_HasItsTier()
    {
        foreach (var (floor, tiers) in new[] { (Core, Tiers), (Store, StoreTiers), (Web, WebTiers) })
            floor
                .GetTypes()
                .Select(t => t.Namespace)
                .OfType<string>()
                .Where(n => n.StartsWith(floor.GetName().Name + ".", StringComparison.Ordinal))
                .Select(n => n.Split('.')[2])
                .Distinct()
                .Except(tiers.SelectMany(t => t))
                .ShouldBeEmpty(floor.GetName().Name);
    }
}
