using NodaTime;
using Shouldly;
using VelvetGate.Core.Booking;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.Booking;

public class WaitingRulesTests
{
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "h", "Europe/London");

    private static Instant At(int day, int hour, int minute = 0) => Instant.FromUtc(2026, 11, day, hour, minute);

    /// <summary>Made when, for a start when, holds until when; winter in London is UTC.</summary>
    [Theory]
    [InlineData(24, 13, 0, 24, 13, 15, 24, 13, 15)] // a no-show released: a quarter of an hour
    [InlineData(24, 10, 0, 24, 14, 0, 24, 10, 15)] // four hours are near still
    [InlineData(24, 10, 0, 24, 14, 30, 24, 12, 0)] // farther: two hours, or half of what is left
    [InlineData(24, 10, 0, 24, 15, 0, 24, 12, 0)]
    [InlineData(24, 8, 0, 24, 12, 2, 24, 10, 0)]
    [InlineData(24, 10, 0, 27, 10, 0, 24, 12, 0)]
    [InlineData(24, 21, 0, 26, 10, 0, 25, 7, 0)] // it would run out at night: until the morning
    [InlineData(24, 21, 30, 25, 7, 10, 24, 23, 30)] // which would be too late to come
    public void Until_HoldsForAShortWhileOnly(
        int day,
        int hour,
        int minute,
        int onDay,
        int onHour,
        int onMinute,
        int to,
        int toHour,
        int toMinute
    ) => Waiting.Until(At(day, hour, minute), At(onDay, onHour, onMinute), Rules).ShouldBe(At(to, toHour, toMinute));

    [Theory]
    [InlineData(6, 59, false)]
    [InlineData(7, 0, true)]
    [InlineData(21, 59, true)]
    [InlineData(22, 0, false)]
    public void MayOffer_NotAtNight(int hour, int minute, bool may) => Waiting.MayOffer(At(24, hour, minute), Rules).ShouldBe(may);

    [Fact]
    public void MayTake_OnceAndInTime()
    {
        Waiting.MayTake(false, At(24, 14), At(24, 13, 15), At(24, 13, 14)).ShouldBeNull();
        Waiting.MayTake(false, At(24, 14), At(24, 13, 15), At(24, 13, 15))!.Code.ShouldBe("offer.over");
        Waiting.MayTake(true, At(24, 14), At(24, 13, 15), At(24, 13))!.Code.ShouldBe("offer.over");
        Waiting.MayTake(false, At(24, 14), At(24, 15), At(24, 14))!.Code.ShouldBe("offer.late");
    }

    [Fact]
    public void May_AWindowToCome_AndNotEverything()
    {
        Waiting.May(At(25, 9), At(25, 17), 4, At(24, 9)).ShouldBeNull();
        Waiting.May(At(25, 9), At(25, 17), 5, At(24, 9))!.Code.ShouldBe("waiting.many");
        Waiting.May(At(25, 9), At(25, 9), 0, At(24, 9))!.Code.ShouldBe("waiting.window");
        Waiting.May(At(23, 9), At(23, 17), 0, At(24, 9))!.Code.ShouldBe("waiting.past");
    }
}
