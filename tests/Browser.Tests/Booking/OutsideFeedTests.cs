using System.Diagnostics;
using System.Text.Json;
using NodaTime;
using NodaTime.Text;
using Shouldly;
using VelvetGate.Core.House.Calendars;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Browser.Tests.Booking;

public class OutsideFeedTests
{
    private static readonly string[] Texts =
    [
        "Heron: box; lid, 3 mm birch ply",
        "Ünï © 😀 " + new string('x', 200),
        "back\\slash, comma; semicolon: colon",
        "  spaces  ",
        "\"quoted\"",
    ];

    /// <summary>
    /// Feeds as the npm package ical.js reads them: with nothing but the zones written in the file, every time is the same instant, on both
    /// sides of each clock change and in the hour that comes twice, and every word comes through.
    /// </summary>
    [Theory]
    [InlineData("Europe/London")]
    [InlineData("America/New_York")]
    [InlineData("Australia/Lord_Howe")]
    [InlineData("Asia/Kolkata")]
    [InlineData("UTC")]
    public async Task Feeds_AreReadByAnIndependentProgram_AsTheyWereMeant(string zoneId)
    {
        var zone = DateTimeZoneProviders.Tzdb[zoneId];
        var random = new Random(7986);
        var from = Instant.FromUtc(2026, 9, 25, 0, 0);
        var changes = zone.GetZoneIntervals(from, from + Duration.FromDays(460)).Skip(1).Select(i => i.Start);
        var starts = changes
            .SelectMany(c => new[] { -90, -60, -45, -30, -15, 0, 15, 30, 60, 90 }.Select(m => c + Duration.FromMinutes(m)))
            .Concat(Enumerable.Range(0, 300).Select(_ => from + Duration.FromMinutes(15 * random.Next(96 * 460))))
            .ToList();
        var entries = starts
            .Select(
                (s, i) =>
                    new FeedEntry(
                        Uid: $"booking-{i}@velvet-gate",
                        Start: s,
                        End: s + Duration.FromMinutes(15 * random.Next(1, 30)),
                        Title: Texts[i % Texts.Length].Trim(),
                        Description: i % 3 == 0 ? "" : $"line one\nline {i}",
                        Location: "Rope Walk",
                        Cancelled: i % 7 == 0,
                        Sequence: i % 4,
                        ChangedAt: from - Duration.FromMinutes(i)
                    )
            )
            .ToList();
        var theirs = await Read(FeedCalendar.Write("Rope Walk: my machine time", zoneId, entries));
        theirs.GetProperty("name").GetString().ShouldBe("Rope Walk: my machine time");
        var events = theirs.GetProperty("events").EnumerateArray().ToList();
        events.Count.ShouldBe(entries.Count);
        foreach (var (entry, read) in entries.Zip(events))
        {
            Text("uid").ShouldBe(entry.Uid);
            Moment("start").ShouldBe(entry.Start, entry.Uid);
            Moment("end").ShouldBe(entry.End, entry.Uid);
            Moment("stamp").ShouldBe(entry.ChangedAt);
            Text("title").ShouldBe(entry.Title);
            Text("description").ShouldBe(entry.Description);
            Text("zone").ShouldBe(IsTwice(entry.Start) ? "UTC" : zoneId);
            Text("status").ShouldBe(entry.Cancelled ? "CANCELLED" : "CONFIRMED");
            read.GetProperty("sequence").GetInt32().ShouldBe(entry.Sequence);

            string Text(string name) => read.GetProperty(name).GetString()!;
            bool IsTwice(Instant at) => zone.MapLocal(at.InZone(zone).LocalDateTime).Count == 2;
            Instant Moment(string name) => InstantPattern.ExtendedIso.Parse(Text(name)).Value;
        }
    }

    /// <summary>Whole days of upkeep: a day of the house, whatever the zone and however long it is; the day after it ends it.</summary>
    [Theory]
    [InlineData("Europe/London")]
    [InlineData("America/New_York")]
    [InlineData("Australia/Lord_Howe")]
    public async Task WholeDays_AreReadByAnIndependentProgram_AsTheyWereMeant(string zoneId)
    {
        var clock = HouseClock.For(zoneId);
        // From a Saturday on over a clock change each: days of 23, 24 and 25 hours.
        var first = new LocalDate(2026, 10, 24);
        var entries = Enumerable
            .Range(0, 200)
            .Select(i =>
            {
                var day = first.PlusDays(i);
                return new FeedEntry(
                    Uid: $"upkeep-{i}@velvet-gate",
                    Start: clock.Day(day).Start,
                    End: clock.Day(day).End,
                    Title: "Heron: Lens",
                    Description: "",
                    Location: "Rope Walk",
                    Cancelled: false,
                    Sequence: i,
                    ChangedAt: clock.Day(first).Start,
                    Day: day
                );
            })
            .ToList();
        var events = (await Read(FeedCalendar.Write("Rope Walk: upkeep", zoneId, entries))).GetProperty("events").EnumerateArray().ToList();
        events.Count.ShouldBe(entries.Count);
        foreach (var (entry, read) in entries.Zip(events))
        {
            read.GetProperty("day").GetString().ShouldBe(LocalDatePattern.Iso.Format(entry.Day!.Value), entry.Uid);
            read.GetProperty("lastDay").GetString().ShouldBe(LocalDatePattern.Iso.Format(entry.Day!.Value.PlusDays(1)));
        }
    }

    private static async Task<JsonElement> Read(string file)
    {
        var start = new ProcessStartInfo("node", ["feed.mjs"])
        {
            WorkingDirectory = Repo.Path("tests", "outside"),
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
        };
        using var node = Process.Start(start)!;
        var reading = node.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        await node.StandardInput.WriteAsync(file);
        node.StandardInput.Close();
        var text = await reading;
        await node.WaitForExitAsync(TestContext.Current.CancellationToken);
        return JsonDocument.Parse(text).RootElement.Clone();
    }
}
