using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Core.Tests.Gating;

/// <summary>docs/rules.md, and what the catalogues of rules, remedies and findings promise each other.</summary>
public class RulesPageTests
{
    private static string Low<T>(T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();

    private static string Label(string setting) => HouseSheets.Rules.Single(f => f.Key == Key(setting)).Label;

    private static string Key(string setting) => char.ToLowerInvariant(setting[0]) + setting[1..];

    private static string Rules() =>
        string.Join(
            "\n\n",
            Codes
                .All.GroupBy(r => r.Post)
                .OrderBy(g => g.Key)
                .Select(g =>
                    $"## {g.Key}\n\n| code | when | booking | standing | machine | lifted by | reads | opened by | "
                    + "soonest | rules | source |\n"
                    + "|---|---|---|---|---|---|---|---|---|---|---|\n"
                    + string.Join('\n', g.OrderBy(r => r.Code, StringComparer.Ordinal).Select(Row))
                )
        );

    private static string Row(Rule r) =>
        $"| `{r.Code}` | {r.Means} | {Low(r.AtBooking)} | {Low(r.AtStanding)} | {Low(r.AtMachine)} | {Low(r.LiftedBy)} | "
        + $"{string.Join(", ", r.Settings.Select(Label))} | {string.Join(", ", r.Remedies.Select(a => $"`{a.Name}`"))} | "
        + $"{(r.Assumed is null ? "" : "yes")} | {r.ChangedIn} | {r.Source} |";

    private static string Actions() =>
        "| remedy | by | what |\n|---|---|---|\n"
        + string.Join(
            '\n',
            Remedies.All.OrderBy(a => a.Name, StringComparer.Ordinal).Select(a => $"| `{a.Name}` | {Low(a.By)} | {a.Means} |")
        );

    private static string Findings() =>
        "| finding | standing | why | reads | source |\n|---|---|---|---|---|\n"
        + string.Join(
            '\n',
            FindingKinds.All.Select(k =>
                $"| `{k.Code}` | {string.Join(" or ", k.Severities.Select(Low))} | {k.Why} | "
                + $"{string.Join(", ", k.Settings.Select(Label))} | {k.Source} |"
            )
        );

    /// <summary>VELVETGATE_WRITE=1 rewrites the tables after a wanted change.</summary>
    [Fact]
    public void Page_HasTheSameTables()
    {
        var file = Repo.Path("docs", "rules.md");
        var wanted = File.ReadAllText(file);
        foreach (var (name, table) in new[] { ("rules", Rules()), ("remedies", Actions()), ("findings", Findings()) })
        {
            var (from, to) = ($"<!-- {name} -->\n", $"<!-- /{name} -->");
            var start = wanted.IndexOf(from, StringComparison.Ordinal) + from.Length;
            wanted = wanted[..start] + table + "\n" + wanted[wanted.IndexOf(to, StringComparison.Ordinal)..];
        }
        if (Environment.GetEnvironmentVariable("VELVETGATE_WRITE") == "1")
            File.WriteAllText(file, wanted);
        File.ReadAllText(file).ShouldBe(wanted);
    }

    [Fact]
    public void Rules_NameHouseRulesThatAKeeperCanSet()
    {
        var keys = HouseSheets.Rules.Select(f => f.Key).ToHashSet();
        Codes
            .All.SelectMany(r => r.Settings)
            .Concat(FindingKinds.All.SelectMany(k => k.Settings))
            .Select(Key)
            .Where(k => !keys.Contains(k))
            .ShouldBeEmpty();
    }

    /// <summary>What a steward lifts has a remedy; what nobody can open has none that is taken as done.</summary>
    [Fact]
    public void Rules_HaveRemediesThatFit()
    {
        Codes.All.Where(r => r.LiftedBy == LiftedBy.Steward && r.Remedies.Count == 0).Select(r => r.Code).ShouldBeEmpty();
        Codes.All.Where(r => r.Assumed is not null && r.Remedies.Count == 0).Select(r => r.Code).ShouldBeEmpty();
        Codes.All.ShouldAllBe(r => r.Means.EndsWith('.') && r.AtStanding <= r.AtBooking);
        Remedies.All.Except(Codes.All.SelectMany(r => r.Remedies)).Select(a => a.Name).ShouldBeEmpty("no remedy without a reason");
        FindingKinds.All.Select(k => k.Code).ShouldBeUnique();
    }
}
