using NodaTime;
using Shouldly;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.Upkeep;

public class UpkeepCalendarTests
{
    private static readonly Instant Now = GateCase.Now;
    private static readonly HouseClock Clock = GateCase.Open().Facts.Rules.Clock;

    private static DueTask Task(UpkeepStand stand) =>
        new("t-1", "Heron", UpkeepMethods.Lens, UpkeepWho.Member, Now - Duration.FromDays(9), stand);

    private static Core.House.Calendars.FeedEntry One(UpkeepStand stand, Instant? now = null) =>
        UpkeepCalendar.Entries([Task(stand)], "Ropewalk", Clock, now ?? Now).ShouldHaveSingleItem();

    [Fact]
    public void DueTask_StandsToday_AndSaysSinceWhen()
    {
        var entry = One(new UpkeepStand(22, true, false, Now - Duration.FromDays(3), false));
        (entry.Day, entry.Title).ShouldBe((new LocalDate(2026, 11, 24), "Heron: Lens: look, and clean if it needs it (due)"));
        entry.Description.ShouldContain("Due since 21 Nov 2026.");
        entry.Description.ShouldContain("By whoever may run the machine.");
        One(new UpkeepStand(40, true, true, Now - Duration.FromDays(3), false)).Title.ShouldEndWith("(overdue)");
    }

    [Fact]
    public void ForetoldTask_StandsOnItsDay_AndMovesWithTheUse()
    {
        var entry = One(new UpkeepStand(10, false, false, Now + Duration.FromDays(5), true));
        (entry.Day, entry.End - entry.Start).ShouldBe((new LocalDate(2026, 11, 29), Duration.FromDays(1)));
        entry.Description.ShouldContain("it moves with it");
        var tomorrow = One(new UpkeepStand(12, false, false, Now + Duration.FromDays(4), true), Now + Duration.FromDays(1));
        (tomorrow.Uid, tomorrow.Sequence).ShouldBe((entry.Uid, entry.Sequence + 1), "the same entry, later said");
    }

    [Fact]
    public void TaskNobodyCanForesee_HasNoDay() =>
        UpkeepCalendar.Entries([Task(new UpkeepStand(0, false, false, null, true))], "Ropewalk", Clock, Now).ShouldBeEmpty();

    [Fact]
    public void DayTask_IsTheSameAllDay()
    {
        var stand = new UpkeepStand(3, false, false, Now + Duration.FromDays(40), false);
        One(stand).ShouldBe(One(stand, Now + Duration.FromHours(5)), "calendars elsewhere fetch nothing anew");
    }
}
