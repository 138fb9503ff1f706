using NodaTime;
using Shouldly;
using VelvetGate.Core.Booking;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.Booking;

/// <summary>Tuesday 24 November 2026 in London, open from 10:00 to 21:00.</summary>
public class WallDayTests
{
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");

    private static Instant At(int hour, int minute = 0) => Instant.FromUtc(2026, 11, 24, hour, minute);

    private static WallDay Of(Instant now, bool stopped, params WallDay.Time[] times) =>
        WallDay.Of(Rules, [("heron", "Heron", stopped)], times, ["Tamsin O."], [], now);

    private static WallDay.Time Time(int from, int to, bool arrived = false, string? who = "Ines C.") =>
        new("heron", who, At(from), At(to), arrived);

    [Theory]
    [InlineData(11, false, "Free until 12:00")]
    [InlineData(12, false, "Booked until 14:00, nobody here yet")]
    [InlineData(12, true, "In use until 14:00")]
    [InlineData(14, true, "Free for the rest of the day")]
    public void AMachine_SaysWhatIsSoNow(int hour, bool arrived, string says) =>
        Of(At(hour), false, Time(12, 14, arrived)).Machines[0].Says.ShouldBe(says);

    [Fact]
    public void Bookings_StandWhereTheDayHasThem_AndAMinorHasNoName()
    {
        var wall = Of(At(15, 30), false, Time(10, 21, who: null));
        var booking = wall.Machines[0].Bookings.ShouldHaveSingleItem();
        (booking.Who, booking.Left, booking.Width).ShouldBe((WallDay.Booked, 0, 1));
        wall.NowAt.ShouldBe(0.5);
        wall.Marks.Select(m => m.Hour).ShouldBe(["10", "11", "12", "13", "14", "15", "16", "17", "18", "19", "20", "21"]);
        (wall.Day, wall.Clock, wall.Hours, wall.OnDuty).ShouldBe(
            ("Tuesday 24 November", "15:30", "Open 10:00 to 21:00", "On duty: Tamsin O.")
        );
    }

    [Fact]
    public void WhatIsStopped_AndADayThatIsClosed_SaySo()
    {
        Of(At(12), true, Time(12, 14)).Machines[0].Says.ShouldBe("Out of service");
        var closed = Rules with { Hours = [] };
        var wall = WallDay.Of(closed, [("heron", "Heron", false)], [], [], [], At(12));
        (wall.Hours, wall.OnDuty, wall.NowAt).ShouldBe(("Closed today", "No steward on duty", 0.5));
        Of(At(22), false).NowAt.ShouldBeNull();
    }
}
