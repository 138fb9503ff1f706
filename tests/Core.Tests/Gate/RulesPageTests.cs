using System.Text.RegularExpressions;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Core.Tests.Gating;

public partial class RulesPageTests
{
    /// <summary>docs/rules.md lists exactly the codes the gate can give, with their standings, who lifts them and their source.</summary>
    [Fact]
    public void RulesPage_AndCodes_SayTheSameBothWays()
    {
        var rows = File.ReadAllLines(Repo.Path("docs", "rules.md"))
            .Select(line => Row().Match(line))
            .Where(m => m.Success)
            .Select(m =>
                $"{m.Groups[1].Value} | {m.Groups[2].Value} | {m.Groups[3].Value} | {m.Groups[4].Value} | {m.Groups[5].Value} | "
                + $"{m.Groups[6].Value}"
            );
        var codes = Codes.All.Select(c =>
            $"{c.Code} | {c.AtBooking.ToString().ToLowerInvariant()} | {c.AtMachine.ToString().ToLowerInvariant()} | "
            + $"{c.LiftedBy.ToString().ToLowerInvariant()} | {c.ChangedIn} | {c.Source}"
        );
        rows.Order(StringComparer.Ordinal).ShouldBe(codes.Order(StringComparer.Ordinal));
    }

    [GeneratedRegex(@"^\| `([a-zA-Z.]+)` \| (\w+) \| (\w+) \| (\w+) \| (\d+) \| (.+?) \|$")]
    private static partial Regex Row();
}
