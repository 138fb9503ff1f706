using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Reports;
using Xunit;

namespace VelvetGate.Core.Tests.Reports;

public class UseFiguresTests
{
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");
    private static readonly MachineId Heron = "heron";
    private static readonly MachineId Wren = "wren";

    private static UsedTime Booked(
        Instant start,
        int minutes,
        string person = "a",
        string machine = "heron",
        bool cancelled = false,
        bool noShow = false,
        int atMachine = 0,
        double askedHoursBefore = 24
    ) =>
        new(
            PersonId: person,
            MachineId: machine,
            Start: start,
            End: start + Duration.FromMinutes(minutes),
            AskedAt: start - Duration.FromMinutes(askedHoursBefore * 60),
            Cancelled: cancelled || noShow,
            NoShow: noShow,
            At: atMachine > 0 ? new Interval(start, start + Duration.FromMinutes(atMachine)) : default(Interval?)
        );

    private static UseFigures Of(IReadOnlyList<UsedTime> bookings, LocalDate first, LocalDate last, params ClosedTime[] closed) =>
        UseFigures.Of(bookings, [Heron, Wren], closed, first, last, Rules);

    /// <summary>Tuesday 24 November 2026, London: 10:45 to 12:15 lies in three hours of the week.</summary>
    [Fact]
    public void ABooking_CountsInEachHourItTouches()
    {
        var day = new LocalDate(2026, 11, 24);
        var use = Of([Booked(Instant.FromUtc(2026, 11, 24, 10, 45), 90)], day, day);
        use.Hours.Where(h => h.BookedMinutes > 0)
            .Select(h => (h.Day, h.Hour, h.BookedMinutes))
            .ShouldBe([(IsoDayOfWeek.Tuesday, 10, 15), (IsoDayOfWeek.Tuesday, 11, 60), (IsoDayOfWeek.Tuesday, 12, 15)]);
        // Two machines, from 10:00 to 21:00.
        use.Hours.Sum(h => h.OpenMinutes).ShouldBe(2 * 11 * 60);
        use.Hours.Single(h => h.Hour == 10).OpenMinutes.ShouldBe(120);
        use.Machines.Select(m => (m.MachineId, m.Bookings, m.BookedHours, m.OpenHours)).ShouldBe([(Heron, 1, 1.5, 11), (Wren, 0, 0, 11)]);
    }

    /// <summary>Hours of the wall clock: on 25 October 2026 the hour from one to two comes twice, on 29 March it never comes.</summary>
    [Theory]
    [InlineData(2026, 10, 25, 0, 0, 180, 1, 120)]
    [InlineData(2026, 3, 29, 0, 30, 90, 1, 0)]
    public void TheHourOfAClockChange_IsWhatTheWallClockShows(int y, int m, int d, int hour, int minute, int minutes, int at, double booked)
    {
        var day = new LocalDate(y, m, d);
        var start = Rules.Clock.Day(day).Start + Duration.FromMinutes(60 * hour + minute);
        var use = Of([Booked(start, minutes)], day, day);
        use.Hours.Sum(h => h.BookedMinutes).ShouldBe(minutes);
        use.Hours.Where(h => h.Hour == at).Sum(h => h.BookedMinutes).ShouldBe(booked);
    }

    [Fact]
    public void WhatIsClosed_IsNotOpen_AndTwoClosuresOverOneTimeCountOnce()
    {
        var day = new LocalDate(2026, 11, 24);
        Instant At(int hour) => Instant.FromUtc(2026, 11, 24, hour, 0);
        var use = Of(
            [],
            day,
            day.PlusDays(1),
            new ClosedTime(new Interval(At(9), At(12)), []),
            new ClosedTime(new Interval(At(11), At(13)), []),
            new ClosedTime(new Interval(At(20), At(23)), [Wren])
        );
        use.Machines.Select(m => m.OpenHours).ShouldBe([8 + 11, 7 + 11]);
        use.Hours.Where(h => h.Day == IsoDayOfWeek.Tuesday).Select(h => (h.Hour, h.OpenMinutes)).ShouldContain((20, 60));
        use.Hours.ShouldNotContain(h => h.Day == IsoDayOfWeek.Tuesday && h.Hour < 13);
    }

    [Fact]
    public void NoShowsAndWhatWasGivenBack_AreCounted_AndAreNobodysTime()
    {
        var start = Instant.FromUtc(2026, 11, 24, 12, 0);
        var use = Of(
            [
                Booked(start, 60, "a", atMachine: 40, askedHoursBefore: 2),
                Booked(start + Duration.FromHours(1), 60, "b", atMachine: 30, askedHoursBefore: 6),
                Booked(start + Duration.FromHours(2), 120, "b", "wren", askedHoursBefore: 4),
                Booked(start + Duration.FromHours(5), 60, "c", noShow: true),
                Booked(start + Duration.FromHours(6), 60, "d", cancelled: true),
            ],
            new LocalDate(2026, 11, 24),
            new LocalDate(2026, 11, 24)
        );
        (use.Bookings, use.NoShows, use.Cancelled).ShouldBe((3, 1, 1));
        use.BookedToNeeded.ShouldBe(new Spread(2, 1.75, use.BookedToNeeded!.Low, use.BookedToNeeded.High));
        use.WaitHours!.Median.ShouldBe(4);
        // One hour and three: Gini (3 - 1) / (2 x 4).
        use.Fairness.ShouldBe(new FairnessFigures(2, 4, 0.25, 1));
    }

    [Fact]
    public void Days_AreEightWeeksUnlessAsked_AndNeverBackwards()
    {
        var today = new LocalDate(2026, 11, 24);
        ReportDays.Of(null, null, today).Value.ShouldBe(new ReportDays(new LocalDate(2026, 9, 30), today));
        ReportDays.Of(today, today, today).Value.Span(Rules.Clock).Duration.ShouldBe(Duration.FromDays(1));
        ReportDays.Of(today, today.PlusDays(-1), today).Refusal!.Code.ShouldBe("use.backwards");
        ReportDays.Of(today.PlusDays(-400), today, today).Refusal!.Code.ShouldBe("use.tooLong");
        ReportDays.Of(today.PlusDays(-399), today, today).Refusal.ShouldBeNull();
    }
}
