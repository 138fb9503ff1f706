using NodaTime;
using Shouldly;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.Upkeep;

public class AirflowTrendTests
{
    private static readonly HouseClock Clock = HouseClock.For("Europe/London");
    private static readonly LocalDate Today = new(2026, 11, 24);
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);

    /// <summary>Of 650 at commissioning cleaning is due below 552.5: from 580 today at 4 a day it comes there after 6.9 days.</summary>
    [Fact]
    public void Fall_OfFourADay_CrossesWhereTheLineSays()
    {
        var fall = AirflowTrend.Fall(650, Readings(20, d => 580 - 4 * d), Today)!;
        (fall.PerDay, fall.Crosses).ShouldBe((-4, new LocalDate(2026, 12, 1)));
        (fall.Soonest, fall.Latest, fall.BySquares).ShouldBe(
            (fall.Crosses, fall.Crosses, fall.Crosses),
            "readings on a line leave no doubt"
        );
        fall.Says("Heron").ShouldBe("The airflow of Heron falls by 4 m³/h a day: cleaning is due around 1 December. Plan it before then.");
    }

    /// <summary>A gauge misread once, as litres a second, turns the line of least squares and not the one that is gone by.</summary>
    [Fact]
    public void Fall_WithOneReadingInAnotherUnit_StaysWhereItWas()
    {
        var days = Readings(20, d => d == -3 ? 164 : 580 - 4 * d);
        var fall = AirflowTrend.Fall(650, days, Today)!;
        Math.Abs(Period.DaysBetween(fall.Crosses, new LocalDate(2026, 12, 1))).ShouldBeLessThanOrEqualTo(1);
        fall.Says("Heron").ShouldEndWith("look whether one of them is off.");
    }

    [Theory]
    [InlineData(580, -1, "later than a fortnight")]
    [InlineData(540, -4, "under the limit already: it is due, not foreseen")]
    [InlineData(580, 0, "steady")]
    [InlineData(580, 3, "rising")]
    public void Fall_WhereThereIsNothingToForesee_SaysNothing(int today, int perDay, string why) =>
        AirflowTrend.Fall(650, Readings(20, d => today + perDay * d), Today).ShouldBeNull(why);

    /// <summary>Readings that scatter as much as they fall foretell nothing.</summary>
    [Fact]
    public void Fall_LostInItsScatter_SaysNothing() =>
        AirflowTrend.Fall(650, Readings(12, d => 570 - d + (d % 2 == 0 ? 45 : -45)), Today).ShouldBeNull();

    /// <summary>Where they scatter somewhat, the interval is said, and holds the day itself.</summary>
    [Fact]
    public void Fall_WithSomeScatter_SaysItsInterval()
    {
        var fall = AirflowTrend.Fall(650, Readings(20, d => 580 - 4 * d + (d * 7919 % 13 - 6)), Today)!;
        fall.Soonest.ShouldBeLessThan(fall.Latest);
        fall.Crosses.ShouldBeInRange(fall.Soonest, fall.Latest);
        fall.Says("Heron").ShouldContain(", between ");
    }

    [Fact]
    public void Fall_OfFourDays_OrOfAMachineNeverMeasured_SaysNothing()
    {
        AirflowTrend.Fall(650, Readings(4, d => 560 - 4 * d), Today).ShouldBeNull();
        AirflowTrend.Fall(0, Readings(20, d => 580 - 4 * d), Today).ShouldBeNull();
    }

    /// <summary>A day counts once: its middle, so that a day of many runs weighs no more, by the house’s own midnight.</summary>
    [Fact]
    public void ByDay_TakesTheMiddleOfEachHouseDay()
    {
        var summer = Instant.FromUtc(2026, 7, 1, 22, 50);
        var days = AirflowTrend.ByDay(
            [
                new(summer, 600, false),
                new(summer + Duration.FromMinutes(5), 580, false),
                new(summer + Duration.FromMinutes(8), 500, true),
                new(summer + Duration.FromMinutes(15), 400, false),
            ],
            Clock
        );
        days.ShouldBe([new(new(2026, 7, 1), 580, 500, 3), new(new(2026, 7, 2), 400, 400, 1)]);
    }

    [Theory]
    [InlineData(583, 530, false)] // 53 is a tenth
    [InlineData(584, 530, true)]
    [InlineData(470, 530, true)]
    public void Drift_IsSaidBeyondATenthOfWhatWasReadByHand(int sensor, int hand, bool said)
    {
        AirflowRead[] reads =
        [
            new(Now - Duration.FromDays(20), 300, false), // too long before to be held against it
            new(Now - Duration.FromDays(2), sensor, false),
            new(Now - Duration.FromDays(1), hand, true),
        ];
        (AirflowTrend.Drift("Heron", reads) is not null).ShouldBe(said);
    }

    [Fact]
    public void Drift_WithoutAReadingByHand_SaysNothing() => AirflowTrend.Drift("Heron", [new(Now, 300, false)]).ShouldBeNull();

    /// <summary>One reading a day, up to today.</summary>
    private static DayOfReadings[] Readings(int days, Func<int, int> m3PerHour) =>
        [.. Enumerable.Range(1 - days, days).Select(d => new DayOfReadings(Today.PlusDays(d), m3PerHour(d), m3PerHour(d), 1))];
}
