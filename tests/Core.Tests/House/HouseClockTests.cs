using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.House;

/// <summary>Europe/London changes on 29 March and 25 October 2026 (IANA tz database).</summary>
public class HouseClockTests
{
    private readonly HouseClock _london = HouseClock.For("Europe/London");

    [Fact]
    public void Read_DoubledHour_OffersBothByName()
    {
        var twice = _london.Read(new LocalDateTime(2026, 10, 25, 1, 30)).ShouldBeOfType<LocalReading.Twice>();
        twice.First.ToInstant().ShouldBe(Instant.FromUtc(2026, 10, 25, 0, 30));
        twice.Second.ToInstant().ShouldBe(Instant.FromUtc(2026, 10, 25, 1, 30));
        twice.First.GetZoneInterval().Name.ShouldBe("BST");
        twice.Second.GetZoneInterval().Name.ShouldBe("GMT");
    }

    [Fact]
    public void Read_MissingHour_OffersTheNext() =>
        _london
            .Read(new LocalDateTime(2026, 3, 29, 1, 30))
            .ShouldBeOfType<LocalReading.Missing>()
            .Next.ToInstant()
            .ShouldBe(Instant.FromUtc(2026, 3, 29, 1, 0));

    [Fact]
    public void Read_OrdinaryTime_IsOneInstant() =>
        _london.Read(new LocalDateTime(2026, 7, 1, 12, 0)).ShouldBe(new LocalReading.Once(Instant.FromUtc(2026, 7, 1, 11, 0)));

    [Theory]
    [InlineData(2026, 3, 29, 23)]
    [InlineData(2026, 10, 25, 25)]
    [InlineData(2026, 11, 24, 24)]
    public void Day_HasItsTrueLength(int year, int month, int day, int hours) =>
        _london.Day(new LocalDate(year, month, day)).Duration.ShouldBe(Duration.FromHours(hours));

    [Fact]
    public void Between_OverAChange_KeepsTrueInstants()
    {
        var open = _london.Between(new LocalDate(2026, 10, 25), new LocalTime(0, 30), new LocalTime(4, 0));
        open.Duration.ShouldBe(Duration.FromHours(4.5));
        _london.Between(new LocalDate(2026, 11, 24), new LocalTime(10, 0), LocalTime.Midnight).Duration.ShouldBe(Duration.FromHours(14));
    }

    [Fact]
    public void Cover_Touching_LeavesNoGap()
    {
        Instant T(int h) => Instant.FromUtc(2026, 1, 1, h, 0);
        Span.Cover([new Span(T(3), T(5)), new Span(T(1), T(3))], T(1), T(5)).ShouldBeTrue();
        Span.Cover([new Span(T(1), T(3)), new Span(T(4), T(6))], T(1), T(5)).ShouldBeFalse();
        Span.Cover([new Span(T(1))], T(1), T(20)).ShouldBeTrue();
        Span.Cover([], T(1), T(2)).ShouldBeFalse();
        new Span(T(1), T(3)).Overlaps(T(3), T(4)).ShouldBeFalse();
    }

    [Theory]
    [InlineData("2026-11-24T10:15Z", true)]
    [InlineData("2026-11-24T10:15:00+01:00", true)]
    [InlineData("2026-11-24T10:15", false)]
    [InlineData("24/11/2026", false)]
    public void Instants_NeedAnOffset(string text, bool ok) => Instants.Parse(text).IsOk.ShouldBe(ok);

    [Theory]
    [InlineData("#ff0000=cut,#0000FF=score", true)]
    [InlineData("#ff0000=slice", false)]
    [InlineData("red=cut", false)]
    [InlineData("", false)]
    [InlineData("#ff0000=0", false)]
    public void ColourMap_Parse(string text, bool ok) => ColourMap.Parse(text).IsOk.ShouldBe(ok);

    [Fact]
    public void Packs_HoldTheirStartingValues()
    {
        var school = Packs.Start(Packs.School, "h", "Europe/London");
        (
            school.AttendFromAge,
            school.AloneFromAge,
            school.IdleLapseDays,
            school.SameDayBooking,
            school.OpenBookingsPerPerson,
            school.AttentionMinutes
        ).ShouldBe((11, 18, 60, false, 2, 2));
        var staffed = Packs.Start(Packs.StaffedWorkshop, "h", "Europe/London");
        (
            staffed.AttendFromAge,
            staffed.AloneFromAge,
            staffed.IdleLapseDays,
            staffed.HoursPerPersonDay,
            staffed.HoursPerPersonWeek
        ).ShouldBe((14, 16, 90, 3m, 8m));
        var members = Packs.Start(Packs.MemberRun, "h", "Europe/London");
        (members.AloneFromAge, members.IdleLapseDays, members.HoursPerPersonWeek, members.Supervision).ShouldBe(
            (18, 120, 10m, Supervision.SecondPersonInCall)
        );
    }
}
