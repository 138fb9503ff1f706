using NodaTime;
using NodaTime.Text;
using Shouldly;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.House;

public class RecurrenceTests
{
    private static readonly HouseClock NewYork = HouseClock.For("America/New_York");

    private static string Dates(Recurrence line, HouseClock clock) =>
        string.Join(' ', line.Occurrences(clock).Value.Select(o => clock.DateOf(o.Start).ToString("MMdd", null)));

    /// <summary>
    /// Worked examples of RFC 5545, section 3.8.5.3, all starting 2 September 1997 at 09:00 in New York unless they say otherwise.
    /// </summary>
    [Theory]
    [InlineData("1997-09-02", "FREQ=DAILY;COUNT=10", "0902 0903 0904 0905 0906 0907 0908 0909 0910 0911")]
    [InlineData("1997-09-02", "FREQ=DAILY;INTERVAL=10;COUNT=5", "0902 0912 0922 1002 1012")]
    [InlineData("1997-09-02", "FREQ=WEEKLY;COUNT=10", "0902 0909 0916 0923 0930 1007 1014 1021 1028 1104")]
    [InlineData("1997-09-02", "FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH", "0902 0904 0909 0911 0916 0918 0923 0925 0930 1002")]
    [InlineData(
        "1997-09-01",
        "FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR",
        "0901 0903 0905 0915 0917 0919 0929 1001 1003 1013 1015 1017 1027 1029 1031 1110 1112 1114 1124 1126 1128 1208 1210 1212 1222"
    )]
    [InlineData("1997-09-02", "FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH", "0902 0904 0916 0918 0930 1002 1014 1016")]
    [InlineData("1997-09-05", "FREQ=MONTHLY;COUNT=10;BYDAY=1FR", "0905 1003 1107 1205 0102 0206 0306 0403 0501 0605")]
    [InlineData("1997-09-02", "FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15", "0902 0915 1002 1015 1102 1115 1202 1215 0102 0115")]
    public void Occurrences_OfTheStandardsExamples_AreItsDates(string first, string rule, string dates) =>
        Dates(new Recurrence(LocalDatePattern.Iso.Parse(first).Value, new LocalTime(9, 0), new LocalTime(10, 0), rule), NewYork)
            .ShouldBe(dates);

    /// <summary>Wall-clock times stay; the lengths in real hours are what the clocks make of them.</summary>
    [Fact]
    public void Occurrences_OverBothClockChanges_KeepTheWallClock()
    {
        var london = HouseClock.For("Europe/London");
        var spring = new Recurrence(new LocalDate(2027, 3, 27), new LocalTime(0, 0), new LocalTime(3, 0), "FREQ=DAILY;COUNT=3")
            .Occurrences(london)
            .Value;
        spring.Select(o => o.Duration.TotalHours).ShouldBe([3, 2, 3]);
        spring.Select(o => london.At(o.Start).Hour).ShouldBe([0, 0, 0]);
        var autumn = new Recurrence(new LocalDate(2027, 10, 30), new LocalTime(0, 0), new LocalTime(3, 0), "FREQ=DAILY;COUNT=3")
            .Occurrences(london)
            .Value;
        autumn.Select(o => o.Duration.TotalHours).ShouldBe([3, 4, 3]);
    }

    [Fact]
    public void Occurrences_PastMidnight_EndOnTheNextDay_AndAWholeDayIsOne()
    {
        var london = HouseClock.For("Europe/London");
        new Recurrence(new LocalDate(2026, 12, 1), new LocalTime(22, 0), new LocalTime(2, 0))
            .Occurrences(london)
            .Value.ShouldHaveSingleItem()
            .Duration.ShouldBe(Duration.FromHours(4));
        new Recurrence(new LocalDate(2027, 3, 28), LocalTime.Midnight, LocalTime.Midnight)
            .Occurrences(london)
            .Value.ShouldHaveSingleItem()
            .Duration.ShouldBe(Duration.FromHours(23));
    }

    [Fact]
    public void Occurrences_WithExceptions_LeaveThoseDaysOut() =>
        Dates(
                new Recurrence(
                    new LocalDate(2026, 12, 1),
                    new LocalTime(9, 0),
                    new LocalTime(10, 0),
                    "FREQ=DAILY;COUNT=4",
                    [new LocalDate(2026, 12, 2)]
                ),
                NewYork
            )
            .ShouldBe("1201 1203 1204");

    [Theory]
    [InlineData("FREQ=WEEKLY;BYDAY=TU")]
    [InlineData("FREQ=SECONDLY;COUNT=3")]
    [InlineData("every Tuesday")]
    [InlineData("FREQ=WEEKLY;UNTIL=20200101")]
    [InlineData("FREQ=;COUNT=3")]
    public void Occurrences_OfARuleThatCannotBeTaken_SayWhatToWrite(string rule)
    {
        var refusal = new Recurrence(new LocalDate(2026, 12, 1), new LocalTime(9, 0), new LocalTime(10, 0), rule)
            .Occurrences(NewYork)
            .Refusal.ShouldNotBeNull();
        refusal.Field.ShouldBe("rule");
    }

    [Fact]
    public void Occurrences_WithoutEndInSight_StopAtTheHorizon() =>
        new Recurrence(new LocalDate(2026, 12, 1), new LocalTime(9, 0), new LocalTime(10, 0), "FREQ=DAILY;UNTIL=20991231")
            .Occurrences(NewYork)
            .Value.Count.ShouldBe(Recurrence.HorizonDays + 1);

    [Theory]
    [InlineData(null, "1 Dec 2026, 09:00 to 10:30")]
    [InlineData("FREQ=WEEKLY;INTERVAL=1;BYDAY=SA;UNTIL=20270206", "every Saturday, 09:00 to 10:30, until 6 Feb 2027")]
    [InlineData("FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,TH;COUNT=8", "every 2 weeks on Tuesday and Thursday, 09:00 to 10:30, 8 times")]
    [InlineData("FREQ=DAILY;INTERVAL=4;UNTIL=20261215", "every 4 days, 09:00 to 10:30, until 15 Dec 2026")]
    public void Words_SayTheLine(string? rule, string words) =>
        new Recurrence(new LocalDate(2026, 12, 1), new LocalTime(9, 0), new LocalTime(10, 30), rule).Words().ShouldBe(words);
}
