using System.Text.Json;
using Shouldly;
using VelvetGate.Core.Incidents;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Incidents;

/// <summary>Limits and comparisons against scipy, and the command line.</summary>
public class OutsideRateTests
{
    private const string Script = """
        import json, sys
        from scipy.stats import binomtest, chi2
        out = []
        for n, h, m, g in json.load(sys.stdin):
            low = 0.0 if n == 0 else chi2.ppf(0.025, 2 * n) / 2
            high = chi2.ppf(0.975, 2 * n + 2) / 2
            p = 1.0 if n + m == 0 else binomtest(n, n + m, h / (h + g)).pvalue
            out.append([low, high, p])
        json.dump(out, sys.stdout)
        """;

    [Fact]
    public void LimitsAndComparisons_OfRandomCounts_AreThoseOfScipy()
    {
        var random = new Random(1936);
        var cases = Enumerable
            .Range(0, 200)
            .Select(i =>
                new[]
                {
                    random.Next(i < 100 ? 12 : 400),
                    Math.Round(1 + random.NextDouble() * 2000, 1),
                    random.Next(i < 100 ? 12 : 400),
                    Math.Round(1 + random.NextDouble() * 2000, 1),
                }
            )
            .ToList();
        var theirs = JsonSerializer.Deserialize<double[][]>(Outside.Python(Script, JsonSerializer.Serialize(cases)))!;
        theirs.Length.ShouldBe(200);
        foreach (var (c, t) in cases.Zip(theirs))
        {
            var (low, high) = Rate.Limits((int)c[0]);
            low.ShouldBe(t[0], 1e-7 * Math.Max(1, t[0]), $"{c[0]}");
            high.ShouldBe(t[1], 1e-7 * t[1], $"{c[0]}");
            Rate.ByChance((int)c[0], c[1], (int)c[2], c[3]).ShouldBe(t[2], 1e-7, string.Join(", ", c));
        }
        // Both answers come up: that the test was one of nothing would show.
        theirs.Count(t => t[2] < 0.05).ShouldBeInRange(20, 180);
    }

    [Fact]
    public void Calc_PrintsTheRateAsJson()
    {
        var (exit, text, _) = Calc("rate", "--events", "2", "--hours", "412.5");
        exit.ShouldBe(0);
        var rate = JsonDocument.Parse(text).RootElement;
        rate.EnumerateObject().Select(p => p.Name).ShouldBe(["count", "hours", "per100", "low", "high"]);
        rate.GetProperty("count").GetInt32().ShouldBe(2);
        rate.GetProperty("per100").GetDouble().ShouldBe(0.4848, 1e-4);
        rate.GetProperty("low").GetDouble().ShouldBe(0.0587, 1e-4);
        rate.GetProperty("high").GetDouble().ShouldBe(1.7515, 1e-4);
    }

    [Fact]
    public void Calc_AgainstAnother_PrintsBoth_AndHowLikelyChanceIs()
    {
        var (exit, text, _) = Calc("rate", "--events", "11", "--hours", "800", "--against-events", "21", "--against-hours", "3011");
        exit.ShouldBe(0);
        var made = JsonDocument.Parse(text).RootElement;
        made.GetProperty("rate").GetProperty("per100").GetDouble().ShouldBe(1.375, 1e-9);
        made.GetProperty("against").GetProperty("count").GetInt32().ShouldBe(21);
        made.GetProperty("byChance").GetDouble().ShouldBe(0.07967, 5e-6);
    }

    [Theory]
    [InlineData("--against-hours", "rate", "--events", "2", "--hours", "5", "--against-events", "3")]
    [InlineData("--hours", "rate", "--events", "2")]
    [InlineData("--hours", "rate", "--events", "2", "--hours", "0")]
    [InlineData("--hours", "rate", "--events", "2", "--hours", "many")]
    [InlineData("--events", "rate", "--hours", "10")]
    [InlineData("--events", "rate", "--events", "-1", "--hours", "10")]
    [InlineData("--minutes", "rate", "--events", "1", "--minutes", "10")]
    [InlineData("| rate", "nonsense")]
    public void Calc_OfNonsense_SaysWhatToType(string names, params string[] args)
    {
        var (exit, text, error) = Calc(args);
        (exit, text).ShouldBe((2, ""));
        error.ShouldContain(names);
    }

    private static (int Exit, string Out, string Error) Calc(params string[] args) => Outside.Vg(["calc", .. args]);
}
