using System.Text.RegularExpressions;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Db;

public partial class SqlScanTests
{
    /// <summary>Time comes from the caller's clock, and local time becomes an instant only in Core: no SQL does either.</summary>
    [Fact]
    public void Sql_NeverReadsAClockOrConvertsLocalTime()
    {
        var sources = Directory.EnumerateFiles(Repo.Path("src"), "*", SearchOption.AllDirectories)
            .Where(f => f.EndsWith(".cs", StringComparison.Ordinal) || f.EndsWith(".sql", StringComparison.Ordinal))
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal) && !f.Contains("/bin/", StringComparison.Ordinal) && !f.Contains("node_modules", StringComparison.Ordinal))
            .ToList();
        sources.Count.ShouldBeGreaterThan(100);
        var found = sources.SelectMany(f => File.ReadLines(f).Select((line, i) => (f, i, line)))
            .Where(l => !l.line.TrimStart().StartsWith("//", StringComparison.Ordinal) && Clock().IsMatch(l.line))
            .Select(l => $"{l.f}:{l.i + 1} {l.line.Trim()}");
        found.ShouldBeEmpty();
    }

    [GeneratedRegex(@"\bnow\(\)|\bcurrent_(timestamp|date|time)\b|\bclock_timestamp\b|\bat time zone\b|(?-i:\blocaltime(stamp)?\b)|DateTime\.(Utc)?Now|DateTimeOffset\.(Utc)?Now", RegexOptions.IgnoreCase)]
    private static partial Regex Clock();
}
