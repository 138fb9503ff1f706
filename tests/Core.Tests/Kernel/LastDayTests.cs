using NodaTime;
using Shouldly;
using Xunit;

namespace VelvetGate.Core.Tests.Kernel;

/// <summary>Until and including a day, over the clock changes of the tz database (Europe/London: 25 October 2026, 28 March 2027).</summary>
public class LastDayTests
{
    private static readonly HouseClock London = HouseClock.For("Europe/London");

    [Theory]
    [InlineData(2026, 10, 25, "2026-10-26T00:00:00Z")]
    [InlineData(2026, 10, 24, "2026-10-24T23:00:00Z")]
    [InlineData(2027, 3, 28, "2027-03-28T23:00:00Z")]
    [InlineData(2026, 12, 31, "2027-01-01T00:00:00Z")]
    public void End_IsTheBeginningOfTheNextDay_AndLeadsBack(int year, int month, int day, string end)
    {
        var last = new LastDay(new LocalDate(year, month, day));
        var ends = Instants.Parse(end).Value;
        last.End(London).ShouldBe(ends);
        LastDay.Before(ends, London).ShouldBe(last, "the end itself no longer belongs to it");
        LastDay.Before(ends + Duration.Epsilon, London).Date.ShouldBe(last.Date.PlusDays(1));
    }

    [Fact]
    public void Words_AreThoseOfThePaper() => new LastDay(new LocalDate(2027, 5, 31)).ToString().ShouldBe("31 May 2027");
}
