using NodaTime;
using Shouldly;
using VelvetGate.Core.House.Calendars;
using Xunit;

namespace VelvetGate.Core.Tests.House;

public class WrittenEntriesTests
{
    private static readonly Instant At = Instant.FromUtc(2026, 11, 24, 10, 0);

    private static FeedEntry Entry(int n, string title = "Heron") =>
        new($"b{n}", At + Duration.FromHours(n), At + Duration.FromHours(n + 1), title, "3 mm ply", "Rope Walk", false, 0, At);

    /// <summary>What was written before is what is written anew, and what changed is written anew.</summary>
    [Fact]
    public void Feed_WithWhatWasWrittenBefore_IsTheSameFile()
    {
        var written = new WrittenEntries();
        FeedEntry[] entries = [.. Enumerable.Range(0, 40).Select(n => Entry(n))];
        var anew = FeedCalendar.Write("Heron", "Europe/London", entries);
        FeedCalendar.Write("Heron", "Europe/London", entries, written).ShouldBe(anew);
        FeedCalendar.Write("Heron", "Europe/London", entries, written).ShouldBe(anew);
        written.Count.ShouldBe(40);
        FeedEntry[] changed = [Entry(0, "Wren"), .. entries[1..]];
        FeedCalendar.Write("Heron", "Europe/London", changed, written).ShouldBe(FeedCalendar.Write("Heron", "Europe/London", changed));
        FeedCalendar
            .Write("Heron", "America/New_York", entries, written)
            .ShouldBe(FeedCalendar.Write("Heron", "America/New_York", entries));
    }

    [Fact]
    public void Kept_AreNoMoreThanSaid()
    {
        var written = new WrittenEntries(10);
        for (var n = 0; n < 35; n++)
            written.Of("UTC", Entry(n), e => e.Uid).ShouldBe($"b{n}");
        written.Count.ShouldBeLessThanOrEqualTo(10);
    }
}
