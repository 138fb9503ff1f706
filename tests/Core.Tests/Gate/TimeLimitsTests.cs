using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using Xunit;
using static VelvetGate.Core.Tests.Gating.GateCase;

namespace VelvetGate.Core.Tests.Gating;

/// <summary>
/// Each limit says its value, what it comes to, and from when it would pass. Wednesday 25 November, 14:00, for 90 minutes.
/// </summary>
public class TimeLimitsTests
{
    private static (string Text, string Remedy) Says(GateCase c)
    {
        var reason = c.Decide().Reasons.ShouldHaveSingleItem();
        return (reason.Text, reason.Remedy!.Text);
    }

    private static GateCase Booked(params Span[] spans) => Open().With(f => f with { Time = f.Time with { PersonBooked = Spans(spans) } });

    private static Span On(int day, int hour, int hours) =>
        new(Instant.FromUtc(2026, 11, day, hour, 0), Instant.FromUtc(2026, 11, day, hour + hours, 0));

    [Fact]
    public void HoursADay_PassOnTheNextDayWithRoom() =>
        Says(Booked(On(25, 10, 2), On(26, 10, 2)))
            .ShouldBe(
                ("3 hours a day are allowed for one person, and with this it is 3.5.", "Choose another day. From 27 Nov 2026 on it passes.")
            );

    [Fact]
    public void LongerThanAnyDay_PassesOnNone() =>
        Says(Open().Asking(a => a with { Minutes = 195 })).Remedy.ShouldBe("Split the job: it would pass on no day.");

    [Fact]
    public void HoursAWeek_PassFromAMonday() =>
        Says(Booked(On(23, 10, 3), On(24, 14, 3), On(26, 10, 1)).Rules(r => r with { OpenBookingsPerPerson = 5 }))
            .ShouldBe(
                (
                    "8 hours a week are allowed for one person, and with this it is 8.5.",
                    "Choose another week. From 30 Nov 2026 on it passes."
                )
            );

    [Fact]
    public void OpenBookings_PassOnceOneIsOver() =>
        Says(Booked(On(24, 12, 1), On(26, 12, 1), On(27, 12, 1)))
            .ShouldBe(("3 bookings may be open at once, and 3 are.", "Cancel one, or ask again from Tue 24 Nov 13:00 on."));

    [Fact]
    public void PeakHours_CountOnlyWhatLiesInThem()
    {
        var evening = Booked(On(24, 18, 1)).Asking(a => a with { Start = Instant.FromUtc(2026, 11, 25, 16, 0) });
        Says(evening.Rules(r => r with { PeakHoursPerPersonWeek = 1.25m }))
            .ShouldBe(
                (
                    "1.25 hours a week between 17:00 and 21:00 are allowed for one person, and with this it is 1.5.",
                    "Choose a time outside these hours. From 30 Nov 2026 on it passes."
                )
            );
        evening.Rules(r => r with { PeakHoursPerPersonWeek = 1.5m }).Decide().Verdict.ShouldBe(Verdict.Open);
        evening
            .Rules(r => r with { PeakHoursPerPersonWeek = 1, PeakFromHour = 21, PeakToHour = 24 })
            .Decide()
            .Verdict.ShouldBe(Verdict.Open);
    }

    [Theory]
    [InlineData(29, null)]
    [InlineData(31, "time.lead")]
    [InlineData(120, null)]
    public void Notice_IsAskedOfBookings_NotOfWalkUps(int minutesAhead, string? code) =>
        Open()
            .Rules(r => r with { BookLeadMinutes = 120 })
            .With(f => f with { Now = Start - Duration.FromMinutes(minutesAhead) })
            .Decide()
            .Reasons.Select(r => r.Code)
            .SingleOrDefault()
            .ShouldBe(code);

    [Theory]
    [InlineData(0, null)]
    [InlineData(2, "Ask again from Sat 28 Nov 10:15 on, or walk up when a machine stands free.")]
    [InlineData(3, null)]
    public void NoShows_PauseForAWhile(int most, string? remedy) =>
        Open()
            .Rules(r => r with { NoShowsBeforePause = most, NoShowPauseDays = 7 })
            .With(f =>
                f with
                {
                    Time = f.Time with { NoShows = [Now - Duration.FromDays(31), Now - Duration.FromDays(9), Now - Duration.FromDays(3)] },
                }
            )
            .Decide()
            .Reasons.SingleOrDefault()
            ?.Remedy!.Text.ShouldBe(remedy);
}
