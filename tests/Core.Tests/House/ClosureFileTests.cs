using System.Text;
using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Calendars;
using Xunit;

namespace VelvetGate.Core.Tests.House;

public class ClosureFileTests
{
    private static readonly HouseClock London = HouseClock.For("Europe/London");
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);

    private static string File(params string[] events) =>
        string.Join(
            "\r\n",
            [
                "BEGIN:VCALENDAR",
                "VERSION:2.0",
                "PRODID:-//test//EN",
                .. events.Select(e => $"BEGIN:VEVENT\r\n{e}\r\nEND:VEVENT"),
                "END:VCALENDAR",
                "",
            ]
        );

    private static string Event(string lines, string uid = "a", string title = "Holiday") =>
        $"UID:{uid}\r\nSUMMARY:{title}\r\nDTSTAMP:20261101T000000Z\r\n{lines.Replace("\n", "\r\n", StringComparison.Ordinal)}";

    private static ClosuresRead Read(string file, Instant? now = null, HouseClock? clock = null) =>
        ClosureFile.Read(file, clock ?? London, now ?? Now).Value;

    private static string Times(ClosureLine line, HouseClock clock) =>
        string.Join(' ', line.Times.Select(t => clock.At(t.Start).ToString("MMdd'T'HH", null)));

    /// <summary>
    /// Worked examples of RFC 5545: the events of section 3.6.1 (an all-day party of eleven days, an anniversary that repeats) and rules of
    /// section 3.8.5.3, told in September 1997 in New York.
    /// </summary>
    [Theory]
    [InlineData("DTSTART;TZID=America/New_York:19970902T090000\nDURATION:PT1H\nRRULE:FREQ=DAILY;COUNT=3", "0902T09 0903T09 0904T09")]
    [InlineData(
        "DTSTART;TZID=America/New_York:19970905T090000\nDURATION:PT1H\nRRULE:FREQ=MONTHLY;COUNT=10;BYDAY=1FR",
        "0905T09 1003T09 1107T09 1205T09 0102T09 0206T09 0306T09 0403T09 0501T09 0605T09"
    )]
    [InlineData(
        "DTSTART;TZID=America/New_York:19970902T090000\nDURATION:PT1H\nEXDATE;TZID=America/New_York:19970902T090000\n"
            + "RRULE:FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13",
        "0213T09 0313T09"
    )]
    [InlineData(
        "DTSTART;TZID=America/New_York:19970902T090000\nDURATION:PT1H\nRRULE:FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH",
        "0902T09 0904T09 0909T09 0911T09 0916T09 0918T09 0923T09 0925T09 0930T09 1002T09"
    )]
    [InlineData("DTSTART;VALUE=DATE:19971102\nRRULE:FREQ=YEARLY", "1102T00")]
    public void Rules_OfTheStandardsExamples_CloseOnItsDays(string lines, string times)
    {
        var newYork = HouseClock.For("America/New_York");
        var line = Read(File(Event(lines)), Instant.FromUtc(1997, 9, 1, 12, 0), newYork).Lines.ShouldHaveSingleItem();
        Times(line, newYork).ShouldBe(times);
    }

    /// <summary>RFC 5545, section 3.6.1: “from June 28, 2007 through July 8, 2007”, whose DTEND is the 9th.</summary>
    [Fact]
    public void DaysOnEnd_AreOneClosure_ToTheMidnightOfTheLast()
    {
        var line = Read(
            File(
                Event(
                    "DTSTART;VALUE=DATE:20070628\nDTEND;VALUE=DATE:20070709\nTRANSP:TRANSPARENT",
                    title: "Festival International de Jazz de Montreal"
                )
            ),
            Instant.FromUtc(2007, 4, 23, 12, 34),
            HouseClock.For("America/Toronto")
        )
            .Lines.ShouldHaveSingleItem();
        line.Times.ShouldHaveSingleItem().Duration.ShouldBe(Duration.FromDays(11));
        line.Says.ShouldBe("28 Jun 2007 to 8 Jul 2007, all day");
    }

    [Theory]
    // A day is the house’s own: 23 and 25 hours where the clocks change.
    [InlineData("DTSTART;VALUE=DATE:20270328", 23)]
    [InlineData("DTSTART;VALUE=DATE:20271031", 25)]
    // No zone is the house’s; the hour that comes twice ends the second time.
    [InlineData("DTSTART:20271031T000000\nDTEND:20271031T013000", 2.5)]
    [InlineData("DTSTART:20270328T000000\nDTEND:20270328T030000", 2)]
    [InlineData("DTSTART:20271031T000000Z\nDTEND:20271031T033000Z", 3.5)]
    [InlineData("DTSTART;TZID=America/New_York:20270328T000000\nDTEND;TZID=America/New_York:20270328T030000", 3)]
    public void ClockChanges_MakeADayWhatItIs(string lines, double hours) =>
        Read(File(Event(lines))).Lines.ShouldHaveSingleItem().Times.ShouldHaveSingleItem().Duration.TotalHours.ShouldBe(hours);

    [Theory]
    [InlineData("DTSTART;VALUE=DATE:20270405\nRRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30", "Its rule comes on no day.")]
    [InlineData("DTSTART:20261201T000000\nDTEND:20261201T000001\nRRULE:FREQ=SECONDLY", "It comes again more often than daily.")]
    [InlineData("DTSTART:20261201T000000\nDTEND:20261201T010000\nRRULE:FREQ=HOURLY;COUNT=9", "It comes again more often than daily.")]
    [InlineData(
        "DTSTART;TZID=Middle-earth/Bree:20261201T100000\nDTEND;TZID=Middle-earth/Bree:20261201T110000",
        "Its time zone “Middle-earth/Bree” is not known here. Write it as Europe/London is written."
    )]
    [InlineData("DTSTART:20261202T100000\nDTEND:20261201T110000", "It ends before it starts.")]
    [InlineData("DTSTART:20261202T100000", "Its end is missing.")]
    [InlineData("DTEND:20261202T100000", "Its start is missing.")]
    [InlineData("DTSTART;VALUE=DATE:20251224", "All of it is past.")]
    [InlineData("DTSTART;VALUE=DATE:20261224\nSTATUS:CANCELLED", "It is cancelled in the file.")]
    public void WhatCannotBeTaken_IsNamed_AndTheRestIsTaken(string lines, string why)
    {
        var read = Read(File(Event(lines, "bad", "Odd one"), Event("DTSTART;VALUE=DATE:20261225", "good", "Christmas Day")));
        read.Left.ShouldHaveSingleItem().ShouldBe(new ClosureLeft("Odd one", why));
        read.Lines.ShouldHaveSingleItem().Title.ShouldBe("Christmas Day");
    }

    [Fact]
    public void ARuleWithoutEnd_IsFollowedAsFarAsTheCalendarGoes()
    {
        var line = Read(File(Event("DTSTART;VALUE=DATE:20260105\nRRULE:FREQ=WEEKLY"))).Lines.ShouldHaveSingleItem();
        line.Endless.ShouldBeTrue();
        line.Times.Count.ShouldBeInRange(57, 58);
        line.Times[^1].End.ShouldBeLessThanOrEqualTo(Now + Duration.FromDays(Recurrence.HorizonDays + 2));
        line.Says.ShouldEndWith("it goes on in the file");
    }

    /// <summary>RFC 5545, section 3.8.4.4: one time of a line that repeats is moved by an event of the same id.</summary>
    [Fact]
    public void AMovedTime_TakesThePlaceOfItsOwn()
    {
        const string Weekly = "DTSTART:20261201T100000\nDTEND:20261201T120000\nRRULE:FREQ=WEEKLY;COUNT=3";
        const string Moved = "RECURRENCE-ID:20261208T100000\nDTSTART:20261209T140000\nDTEND:20261209T150000";
        var line = Read(File(Event(Weekly), Event(Moved))).Lines.ShouldHaveSingleItem();
        Times(line, London).ShouldBe("1201T10 1209T14 1215T10");
    }

    [Fact]
    public void TimesThatOverlap_AreOne()
    {
        const string Daily = "DTSTART;VALUE=DATE:20261224\nDTEND;VALUE=DATE:20261226\nRRULE:FREQ=DAILY;COUNT=3";
        Read(File(Event(Daily))).Lines.ShouldHaveSingleItem().Times.ShouldHaveSingleItem().Duration.ShouldBe(Duration.FromDays(4));
    }

    [Theory]
    [InlineData("")]
    [InlineData("title,from,to")]
    [InlineData("BEGIN:VCALENDAR")]
    [InlineData("BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n")]
    [InlineData("BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nBEGIN:VEVENT\r\n")]
    [InlineData("\u0000\u0001\u0002 not a calendar")]
    public void WhatIsNoCalendar_IsRefused(string text) =>
        ClosureFile.Read(text, London, Now).Refusal!.Code.ShouldBe("calendar.noCalendar");

    [Fact]
    public void TenMegabytes_AndAThousandAndOneLines_AreTooMuch()
    {
        var line = Event("DTSTART;VALUE=DATE:20261225");
        var large = new StringBuilder("BEGIN:VCALENDAR\r\n");
        while (large.Length < 10_000_000)
            large.Append("BEGIN:VEVENT\r\n").Append(line).Append("\r\nEND:VEVENT\r\n");
        ClosureFile.Read(large.ToString(), London, Now).Refusal!.Problem.Kind.ShouldBe(ProblemKind.TooLarge);
        var many = Enumerable.Range(0, ClosureFile.MostLines + 1).Select(n => $"UID:{n}\r\nDTSTART;VALUE=DATE:20261225");
        ClosureFile.Read(File([.. many]), London, Now).Refusal!.Code.ShouldBe("calendar.tooLong");
    }

    /// <summary>Files with a few letters broken at random: read or refused, never an error of the program.</summary>
    [Fact]
    public void BrokenFiles_AreReadOrRefused()
    {
        var whole = File(
            Event(
                "DTSTART;TZID=Europe/London:20261201T100000\nDTEND;TZID=Europe/London:20261201T120000\nRRULE:FREQ=WEEKLY;COUNT=3;BYDAY=TU"
            ),
            Event("DTSTART;VALUE=DATE:20261224\nDURATION:P3D\nEXDATE;VALUE=DATE:20261225\nRDATE;VALUE=DATE:20270101", "b")
        );
        const string letters = ":;=,TZ0129\r\n -+PYMWDHX\"";
        var random = new Random(5545);
        for (var i = 0; i < 3000; i++)
        {
            var broken = whole.ToCharArray();
            for (var n = random.Next(1, 6); n > 0; n--)
                broken[random.Next(broken.Length)] = letters[random.Next(letters.Length)];
            var read = ClosureFile.Read(new string(broken), London, Now);
            if (read.Refusal is null)
                read.Value.Lines.ShouldAllBe(l => l.Times.Count > 0 && l.Times.All(t => t.End > t.Start && t.End > Now));
        }
    }
}
