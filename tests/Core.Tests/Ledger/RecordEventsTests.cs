using System.Text.RegularExpressions;
using Shouldly;
using VelvetGate.Core.Ledger;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Core.Tests.Ledger;

/// <summary>The catalogue of what the record tells.</summary>
public class RecordEventsTests
{
    private static string Table() =>
        string.Join(
            '\n',
            RecordEvents
                .All.Select(e => $"| `{e.Kind}` | {e.Words} | {ImpactWords(e.Impact)} |")
                .Prepend("|---|---|---|")
                .Prepend("| kind | words | bookings looked at again |")
        );

    private static string ImpactWords(Impact impact) =>
        impact switch
        {
            Impact.Nobody => "none",
            Impact.People => "of the people it names",
            Impact.Machine => "on the machine it names",
            _ => "all",
        };

    [Fact]
    public void Kinds_AreEachThereOnce_WithWordsOfTheirOwn()
    {
        RecordEvents.All.Count.ShouldBeGreaterThan(80);
        RecordEvents.All.Select(e => e.Kind).ShouldBeUnique();
        RecordEvents.All.Select(e => e.Words).ShouldBeUnique();
        RecordEvents.All.ShouldAllBe(e => Regex.IsMatch(e.Kind, "^[a-z]+[.][a-zA-Z]+$") && char.IsUpper(e.Words[0]));
        RecordEvents.Find("machine.melted").ShouldBeNull();
    }

    /// <summary>Old entries keep their kinds: a new spelling would make them unreadable. Frozen before the first renaming; lines are only added.</summary>
    [Fact]
    public void Kinds_OfBefore_AreSpelledAsTheyWere() =>
        File.ReadAllLines(Repo.Path("tests", "Core.Tests", "Ledger", "kinds-of-before.txt"))
            .Except(RecordEvents.All.Select(e => e.Kind))
            .ShouldBeEmpty();

    /// <summary>docs/events.md has the same table. VELVETGATE_WRITE=1 rewrites it after a wanted change.</summary>
    [Fact]
    public void Page_HasTheSameTable()
    {
        var file = Repo.Path("docs", "events.md");
        var text = File.ReadAllText(file);
        var head = text[..text.IndexOf("| kind |", StringComparison.Ordinal)];
        if (Environment.GetEnvironmentVariable("VELVETGATE_WRITE") == "1")
            File.WriteAllText(file, head + Table() + "\n");
        File.ReadAllText(file).ShouldBe(head + Table() + "\n");
    }
}
