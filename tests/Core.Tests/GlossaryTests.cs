using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Core.Tests;

/// <summary>One word, one meaning, on every screen.</summary>
public class GlossaryTests
{
    private static readonly string[] Page = File.ReadAllLines(Repo.Path("docs", "glossary.md"));

    private static IEnumerable<string[]> Rows(IEnumerable<string> lines) =>
        lines
            .Where(l => l.StartsWith("| ", StringComparison.Ordinal))
            .Skip(1)
            .Select(l => l.Trim('|', ' ').Split('|', StringSplitOptions.TrimEntries));

    public static TheoryData<string> NotUsed() =>
        [.. Rows(Page.SkipWhile(l => !l.StartsWith("## Not used", StringComparison.Ordinal))).Select(r => r[0])];

    /// <summary>What a screen shows comes from the client's sources and from texts in the server's.</summary>
    [Theory]
    [MemberData(nameof(NotUsed))]
    public void Word_IsOnNoScreen(string word)
    {
        var used = new[] { Repo.Path("src", "Client", "src"), Repo.Path("src", "Core"), Repo.Path("src", "Store"), Repo.Path("src", "Web") }
            .SelectMany(folder => Directory.EnumerateFiles(folder, "*.*", SearchOption.AllDirectories))
            .Where(f => Path.GetExtension(f) is ".cs" or ".tsx" or ".ts" && !f.Contains("/obj/", StringComparison.Ordinal))
            .SelectMany(f =>
                File.ReadLines(f)
                    .Where(Shown)
                    .Where(l => l.Contains(word, StringComparison.Ordinal))
                    .Select(l => $"{Path.GetFileName(f)}: {l.Trim()}")
            );
        used.ShouldBeEmpty();
    }

    [Fact]
    public void Words_StandOnceEach() =>
        Rows(Page.TakeWhile(l => !l.StartsWith("## Not used", StringComparison.Ordinal))).Select(r => r[0]).ShouldBeUnique();

    private static bool Shown(string line) => line.TrimStart() is var text && !text.StartsWith('/') && !text.StartsWith('*');
}
