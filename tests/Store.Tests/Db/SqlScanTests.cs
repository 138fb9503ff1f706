using System.Text.RegularExpressions;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Db;

public partial class SqlScanTests
{
    /// <summary>Time comes from the caller's clock, and local time becomes an instant only in Core: no SQL does either.</summary>
    [Fact]
    public void Sql_NeverReadsAClockOrConvertsLocalTime() => Lines(Clock()).ShouldBeEmpty();

    /// <summary>
    /// Two requests meet in another order than their clocks say: the end of a row's record never comes before its beginning.
    /// </summary>
    [Fact]
    public void Sql_EndingARecord_NeverEndsItBeforeItBegan() => Lines(EndsUnguarded()).ShouldBeEmpty();

    private static List<string> Lines(Regex wrong)
    {
        var sources = Directory
            .EnumerateFiles(Repo.Path("src"), "*", SearchOption.AllDirectories)
            .Where(f => f.EndsWith(".cs", StringComparison.Ordinal) || f.EndsWith(".sql", StringComparison.Ordinal))
            .Where(f =>
                !f.Contains("/obj/", StringComparison.Ordinal)
                && !f.Contains("/bin/", StringComparison.Ordinal)
                && !f.Contains("node_modules", StringComparison.Ordinal)
            )
            .ToList();
        sources.Count.ShouldBeGreaterThan(100);
        return
        [
            .. sources
                .SelectMany(f => File.ReadLines(f).Select((line, i) => (f, i, line)))
                .Where(l => !l.line.TrimStart().StartsWith("//", StringComparison.Ordinal) && wrong.IsMatch(l.line))
                .Select(l => $"{l.f}:{l.i + 1} {l.line.Trim()}"),
        ];
    }

    [GeneratedRegex(@"lower\(recorded\), @now\)")]
    private static partial Regex EndsUnguarded();

    [GeneratedRegex(
        @"\bnow\(\)|\bcurrent_(timestamp|date|time)\b|\bclock_timestamp\b|\bat time zone\b|(?-i:\blocaltime(stamp)?\b)|DateTime\.(Utc)?Now|DateTimeOffset\.(Utc)?Now",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Clock();
}
