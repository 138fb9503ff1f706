using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.Upkeep;

public class UpkeepUseTests
{
    private static readonly HouseClock Clock = new(DateTimeZoneProviders.Tzdb["Europe/London"]);
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);

    /// <summary>The worked case of a carbon stage: 62 h plain and 14 h heavy come to 90, five more heavy ones to 100.</summary>
    [Theory]
    [InlineData(62, 14, 90, false)]
    [InlineData(62, 18.9, 99.8, false)]
    [InlineData(62, 19, 100, true)]
    public void Weighted_CountsHeavyResidueTwice(double plain, double heavy, double used, bool due)
    {
        var stand = Stand(UpkeepMethods.Carbon, new RunSums(40, (decimal)plain, (decimal)heavy));
        ((double)stand.Used!.Value).ShouldBe(used, 1e-9);
        (stand.Due, stand.Overdue).ShouldBe((due, due), "a carbon stage may not slip");
    }

    /// <summary>The worked case: 34.2 of 40 h, at 9.1 h a week, is due in four and a half days.</summary>
    [Fact]
    public void Mirrors_AreDueAtTheMeanOfTheLastFourWeeks()
    {
        var stand = Stand(UpkeepMethods.Mirrors, new RunSums(30, 34.2m, 0), new RunSums(30, 9.1m * 4, 0));
        (stand.DueFrom!.Value - Now).TotalDays.ShouldBe(4.5, 0.05);
        (stand.Due, stand.IsForecast).ShouldBe((false, true));
    }

    /// <summary>While a machine is out of service its use stands still: the days it ran are what the mean is taken over.</summary>
    [Fact]
    public void Forecast_AfterTwoWeeksOutOfService_GoesByTheDaysItRan()
    {
        var whole = UpkeepUse.Forecast(30, 40, 14, 28, Now)!.Value - Now;
        var half = UpkeepUse.Forecast(30, 40, 14, 14, Now)!.Value - Now;
        half.TotalDays.ShouldBe(whole.TotalDays / 2, 1e-6);
    }

    [Theory]
    [InlineData(0, 28)]
    [InlineData(5, 0)]
    [InlineData(0.01, 28)] // further off than a month of use says anything about
    public void Forecast_WithoutUseOrTooFarOff_SaysNothing(double lately, double days) =>
        UpkeepUse.Forecast(0, 40, (decimal)lately, (decimal)days, Now).ShouldBeNull();

    /// <summary>Held against a house that is played day by day: the same use goes on until the limit is passed.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    public void Forecast_IsWhatPlayingTheSameUseComesTo(int seed)
    {
        var random = new Random(seed);
        for (var round = 0; round < 200; round++)
        {
            var (used, limit) = ((decimal)(random.NextDouble() * 40), 40m);
            var aDay = (decimal)(0.1 + random.NextDouble() * 3);
            var played = 0;
            for (var sum = used; sum < limit; sum += aDay)
                played++;
            var days = (UpkeepUse.Forecast(used, limit, aDay * 28, 28, Now)!.Value - Now).TotalDays;
            days.ShouldBeInRange(played - 1 - 1e-6, played + 1e-6);
        }
    }

    [Theory]
    [InlineData(83, false, false)]
    [InlineData(91, true, true)]
    [InlineData(120, true, true)]
    public void Days_AreDueOnTheirDay(int daysAgo, bool due, bool overdue)
    {
        var stand = Stand(UpkeepMethods.Coolant, RunSums.Nothing, since: Now - Duration.FromDays(daysAgo));
        (stand.Due, stand.Overdue, stand.IsForecast).ShouldBe((due, overdue, false));
    }

    /// <summary>A day of the house, over a change of its clocks: due at midnight there, not at the hour of the last time.</summary>
    [Fact]
    public void Days_OverAClockChange_AreDueAtMidnightOfTheHouse()
    {
        var since = Instant.FromUtc(2026, 10, 20, 22, 30); // 23:30 in London, a Tuesday, summer time
        UpkeepUse.DayDue(since, 10, Clock).ShouldBe(Instant.FromUtc(2026, 10, 30, 0, 0));
        UpkeepUse.DayDue(since, 3, Clock).ShouldBe(Instant.FromUtc(2026, 10, 22, 23, 0));
    }

    [Theory]
    [InlineData(40, true, false)]
    [InlineData(43.9, true, false)]
    [InlineData(44, true, true)]
    public void Use_MaySlipAsFarAsTheTaskSays(double hours, bool due, bool overdue)
    {
        var stand = Stand(UpkeepMethods.Mirrors, new RunSums(50, (decimal)hours, 0));
        (stand.Due, stand.Overdue).ShouldBe((due, overdue));
    }

    /// <summary>Somebody saw a sign of it: due at once, whatever the counter says.</summary>
    [Fact]
    public void Marked_IsDueWhateverTheCounterSays()
    {
        var stand = Stand(UpkeepMethods.Carbon, new RunSums(1, 1, 0), due: Now - Duration.FromHours(1));
        (stand.Due, stand.Overdue, stand.DueFrom).ShouldBe((true, false, Now - Duration.FromHours(1)));
    }

    [Theory]
    [InlineData(null, false)]
    [InlineData(84.9, true)]
    [InlineData(85.0, false)]
    public void Airflow_IsDueBelowItsPart(double? percent, bool due)
    {
        var stand = UpkeepUse.Of(
            plan: UpkeepMethods.Airflow,
            since: Now - Duration.FromDays(10),
            use: RunSums.Nothing,
            lately: (RunSums.Nothing, 28),
            marked: (null, null),
            airflowPercent: (decimal?)percent,
            residueWeight: 2,
            clock: Clock,
            now: Now
        );
        (stand.Due, stand.Used).ShouldBe((due, (decimal?)percent));
    }

    private static UpkeepStand Stand(UpkeepPlan plan, RunSums use, RunSums? lately = null, Instant? since = null, Instant? due = null) =>
        UpkeepUse.Of(
            plan: plan,
            since: since ?? Now - Duration.FromDays(20),
            use: use,
            lately: (lately ?? RunSums.Nothing, UpkeepUse.ForecastDays),
            marked: (due, null),
            airflowPercent: null,
            residueWeight: HouseRules.UsualResidueWeight,
            clock: Clock,
            now: Now
        );
}
