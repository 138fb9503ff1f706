using System.Reflection;
using System.Text.RegularExpressions;
using Shouldly;
using VelvetGate.Tests.Support;
using VelvetGate.Web.Shared;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

/// <summary>The lists of everything that is refused, one per room, and the page that tells others of them.</summary>
public partial class ProblemCatalogueTests
{
    private static readonly IReadOnlyList<(string Where, string Room, Problem Problem)> All =
    [
        .. new[] { typeof(Problem).Assembly, typeof(RequestProblems).Assembly }
            .SelectMany(a => a.GetTypes())
            .Where(t => t.IsAbstract && t.IsSealed && t.Name.EndsWith("Problems", StringComparison.Ordinal) && t != typeof(Problems))
            .SelectMany(t =>
                t.GetFields(BindingFlags.Public | BindingFlags.Static)
                    .Where(f => f.FieldType == typeof(Problem))
                    .Select(f => ($"{t.Name}.{f.Name}", t.Name[..^"Problems".Length], (Problem)f.GetValue(null)!))
            ),
    ];

    [GeneratedRegex(@"\{\d+(:[^}]*)?\}")]
    private static partial Regex Named();

    private static string Words(string text) => text == "{0}" ? "says why" : Named().Replace(text, "…").Replace("|", "\\|");

    private static string Table() =>
        string.Join(
            '\n',
            All.GroupBy(p => p.Problem.Code)
                .OrderBy(g => g.Key, StringComparer.Ordinal)
                .Select(g => (g.Key, Status: Problems.Status(g.First().Problem.Kind), Texts: g.Select(p => Words(p.Problem.Text))))
                .Select(g => $"| `{g.Key}` | {g.Status} | {string.Join("<br>", g.Texts)} |")
                .Prepend("|---|---|---|")
                .Prepend("| code | status | what people read |")
        );

    /// <summary>docs/problems.md has the same table. VELVETGATE_WRITE=1 rewrites it after a wanted change.</summary>
    [Fact]
    public void Page_HasTheSameTable()
    {
        var file = Repo.Path("docs", "problems.md");
        var text = File.ReadAllText(file);
        var head = text[..text.IndexOf("| code |", StringComparison.Ordinal)];
        if (Environment.GetEnvironmentVariable("VELVETGATE_WRITE") == "1")
            File.WriteAllText(file, head + Table() + "\n");
        File.ReadAllText(file).ShouldBe(head + Table() + "\n");
    }

    [Fact]
    public void Codes_AreOfOneKind_AndSayWhatToDo()
    {
        All.Count.ShouldBeGreaterThan(200);
        All.GroupBy(p => p.Problem.Code)
            .Where(g => g.Select(p => p.Problem.Kind).Distinct().Count() > 1)
            .Select(g => g.Key)
            .ShouldBeEmpty("one code, one kind: a client looks at the code alone");
        All.ShouldAllBe(p => Regex.IsMatch(p.Problem.Code, "^[a-z][a-zA-Z]*([.][a-z][a-zA-Z]*)?$"));
        All.Where(p => p.Problem.Text != "{0}" && !Regex.IsMatch(p.Problem.Text, "^[A-Z“{].*([.]|: [{]0[}])$"))
            .Select(p => p.Where)
            .ShouldBeEmpty("a sentence");
        All.Select(p => p.Problem)
            .ShouldAllBe(p => p.Refuse("field", "a", "b", "c").Code == p.Code, "no sentence names more than three things");
    }

    /// <summary>Others know these codes with these statuses. Frozen before the catalogue; lines are only added.</summary>
    [Fact]
    public void Codes_OfBefore_KeepTheirStatus()
    {
        var now = All.GroupBy(p => p.Problem.Code).ToDictionary(g => g.Key, g => Problems.Status(g.First().Problem.Kind));
        File.ReadAllLines(Repo.Path("tests", "Web.Tests", "Shared", "problems-of-before.txt"))
            .Select(line => line.Split(' '))
            .Where(line => now.GetValueOrDefault(line[1]) != int.Parse(line[0]))
            .Select(line => line[1])
            .ShouldBeEmpty();
    }

    [Fact]
    public void Everything_InTheLists_IsRefusedSomewhere()
    {
        var used = Sources().SelectMany(s => Regex.Matches(s.Text, @"\b\w+Problems\.\w+").Select(m => m.Value)).ToHashSet();
        All.Select(p => p.Where).Where(w => !used.Contains(w)).ShouldBeEmpty();
    }

    /// <summary>A rule has one home: outside of Core nothing is refused in words of its own.</summary>
    [Fact]
    public void Words_StandInTheLists()
    {
        string[] homes = ["src/Web/Shared/Problems.cs"];
        Sources()
            .Where(s => !s.File.StartsWith("src/Core/", StringComparison.Ordinal) && !homes.Contains(s.File))
            .Where(s => Regex.IsMatch(s.Text, @"new (Refusal|Problem)\(|Refusal\?? \w+\([^)]*\)\s*=>\s*new\("))
            .Select(s => s.File)
            .ShouldBeEmpty();
        Sources()
            .Where(s => Regex.IsMatch(s.Text, @"\.Code (==|is|switch) [""{(]?[^{]*=> ?[45]\d\d|\? [45]\d\d : [45]\d\d"))
            .Select(s => s.File)
            .ShouldBeEmpty("the kind says the status");
    }

    /// <summary>
    /// Outside of Core only this is refused: what is not there, what was changed meanwhile, what the rows say under their lock (a
    /// conflict), and Web's own list. The rest stands in a list with its reason, and the list only shrinks.
    /// </summary>
    [Fact]
    public void Rules_AreDecidedInCore()
    {
        ProblemKind[] byTheRows =
        [
            ProblemKind.NotFound,
            ProblemKind.Conflict,
            ProblemKind.Stale,
            ProblemKind.Unprocessable,
            ProblemKind.TooLarge,
            ProblemKind.Unsupported,
        ];
        var free = All.Where(p => byTheRows.Contains(p.Problem.Kind) || p.Room == "Request").Select(p => p.Where).ToHashSet();
        var file = Repo.Path("tests", "Web.Tests", "Shared", "refused-outside-core.txt");
        var reasons = File.ReadAllLines(file).ToDictionary(l => l.Split(' ')[0]);
        var found = Sources()
            .Where(s => !s.File.StartsWith("src/Core/", StringComparison.Ordinal))
            .SelectMany(s => Regex.Matches(s.Text, @"\b(\w+Problems\.\w+)\s*(\)\s*)?\.Refuse").Select(m => m.Groups[1].Value))
            .Where(w => !free.Contains(w))
            .Distinct()
            .Order(StringComparer.Ordinal)
            .ToList();
        if (Environment.GetEnvironmentVariable("VELVETGATE_WRITE") == "1")
            File.WriteAllLines(file, found.Select(f => reasons.GetValueOrDefault(f, f + " why?")));
        found.ShouldBe(reasons.Keys);
    }

    /// <summary>What is not there is refused as such; nobody has to guess it from a result that is missing.</summary>
    [Fact]
    public void Results_AreNeverMissing() =>
        Sources().Where(s => Regex.IsMatch(s.Text, @"Task<Result<.*>\?>")).Select(s => s.File).ShouldBeEmpty();

    private static IEnumerable<(string File, string Text)> Sources() =>
        new[] { "Core", "Store", "Web", "Cli" }
            .SelectMany(floor => Directory.EnumerateFiles(Repo.Path("src", floor), "*.cs", SearchOption.AllDirectories))
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal))
            .Where(f => !f.EndsWith("Problems.cs", StringComparison.Ordinal) || f.EndsWith("/Shared/Problems.cs", StringComparison.Ordinal))
            .Select(f => (Path.GetRelativePath(Repo.Path(), f).Replace('\\', '/'), File.ReadAllText(f)));
}
