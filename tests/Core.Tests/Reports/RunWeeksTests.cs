using NodaTime;
using Shouldly;
using VelvetGate.Core.Reports;
using Xunit;

namespace VelvetGate.Core.Tests.Reports;

public class RunWeeksTests
{
    /// <summary>Weeks begin on Monday by the house’s clock; one without runs stands there too; what was given up is no try.</summary>
    [Fact]
    public void Of_CountsEachWeek_AndLeavesNoneOut()
    {
        var clock = HouseClock.For("Europe/London");
        var summer = Instant.FromUtc(2026, 7, 5, 23, 30); // Monday 6 July, 00:30
        var weeks = RunWeeks.Of(
            [
                Run(summer - Duration.FromHours(2), 30, true, 1.2),
                Run(summer, 60, true, 0.9),
                Run(summer + Duration.FromDays(1), 30, false, 1.1),
                Run(summer + Duration.FromDays(2), 90, null, null),
            ],
            new(2026, 7, 2),
            new(2026, 7, 15),
            clock
        );
        weeks.ShouldBe([new(new(2026, 6, 29), 0.5, 1, 0, 1.2), new(new(2026, 7, 6), 3, 2, 1, 1.0), new(new(2026, 7, 13), 0, 0, 0, null)]);
    }

    private static WeighedRun Run(Instant start, int minutes, bool? through, double? ratio) =>
        new(start, start + Duration.FromMinutes(minutes), through, ratio);
}
