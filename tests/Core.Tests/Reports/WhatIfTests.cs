using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Reports;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Reports;

/// <summary>A week in November 2026 on one machine: 10:00 to 21:00, the last run until 20:00.</summary>
public class WhatIfTests
{
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London") with
    {
        HoursPerPersonDay = 4,
        HoursPerPersonWeek = 8,
        OpenBookingsPerPerson = 3,
    };

    private static readonly Dictionary<MachineId, MachineSpec> Machines = new() { [GateCase.Heron.Id] = GateCase.Heron };

    private static Instant At(int day, int hour, int minute = 0) => Instant.FromUtc(2026, 11, day, hour, minute);

    private static AskedTime Booked(string person, Instant at, Instant start, int minutes, Instant? freed = null, bool noShow = false) =>
        new(person, GateCase.Heron.Id, at, start, minutes, Booked: true, FreedAt: freed, NoShow: noShow, Codes: []);

    private static AskedTime Refused(string person, Instant at, Instant start, int minutes, params string[] codes) =>
        new(person, GateCase.Heron.Id, at, start, minutes, Booked: false, FreedAt: null, NoShow: false, Codes: codes);

    private static IReadOnlyList<PlayedTime> Play(HouseRules rules, params AskedTime[] asked) =>
        WhatIf.Play(asked, rules, Machines, [], _ => { }, CancellationToken.None);

    private static WhatIfResult Try(HouseRules changed, params AskedTime[] asked) =>
        WhatIf.Compare(Play(Rules, asked), Play(changed, asked), changed);

    [Fact]
    public void AShorterWeek_RefusesWhoHadMost_AndServesWhoFoundTheTimeTaken()
    {
        // A books four hours on Tuesday and on Wednesday; B wanted Wednesday’s and was told it was taken.
        AskedTime[] asked =
        [
            Booked("a", At(20, 12), At(24, 12), 240),
            Booked("a", At(20, 13), At(25, 12), 240),
            Refused("b", At(21, 12), At(25, 13), 60, Codes.TimeTaken.Code),
        ];
        var result = Try(Rules with { HoursPerPersonWeek = 6 }, asked);
        (result.Asked, result.Booked, result.Tries, result.Other).ShouldBe((3, 2, 1, 0));
        (result.Now.Served, result.Now.Refused, result.Now.Hours).ShouldBe((2, 1, 8.0));
        (result.Changed.Served, result.Changed.Refused, result.Changed.Hours).ShouldBe((2, 1, 5.0));
        (result.PeopleRefused, result.PeopleServed).ShouldBe((1, 1));
        var reason = result.Reasons.ShouldHaveSingleItem();
        (reason.Code, reason.Setting, reason.Count).ShouldBe(("time.limit", nameof(HouseRules.HoursPerPersonWeek), 1));
        result.Refused.ShouldHaveSingleItem().Start.ShouldBe(At(25, 12));
        result.Served.ShouldHaveSingleItem().Start.ShouldBe(At(25, 13));
        result.Changed.Gini!.Value.ShouldBe(0.3, 1e-9, "four hours and one: (4 - 1) / (2 x 5)");
        result.CannotKnow.Count.ShouldBeGreaterThan(3);
    }

    /// <summary>Under the rules as they are, whatever was booked by them is served: the play invents no refusal.</summary>
    [Fact]
    public void UnderTheSameRules_NothingChanges()
    {
        AskedTime[] asked =
        [
            Booked("a", At(20, 12), At(24, 12), 60, freed: At(21, 9)),
            Booked("b", At(21, 10), At(24, 12), 60),
            Booked("c", At(22, 10), At(24, 13), 120, freed: At(24, 13, 15), noShow: true),
            Booked("d", At(24, 13, 20), At(24, 13, 30), 60),
        ];
        Play(Rules, asked).ShouldAllBe(p => p.Served);
        var same = Try(Rules, asked);
        (same.PeopleRefused, same.PeopleServed, same.Reasons.Count).ShouldBe((0, 0, 0));
    }

    /// <summary>What a certificate or a sheet refused stays refused, whatever the hours.</summary>
    [Fact]
    public void WhatNoCalendarDecides_StaysRefused()
    {
        var result = Try(
            Rules with
            {
                OpenBookingsPerPerson = 9,
            },
            Refused("a", At(20, 12), At(24, 12), 60, Codes.TimeLimit.Code, "training.none"),
            Refused("b", At(20, 12), At(24, 14), 60, Codes.TimeLimit.Code)
        );
        (result.Other, result.Changed.Served).ShouldBe((1, 1));
    }

    /// <summary>Two no-shows, and no booking for a week; a walk-up is nobody’s loss.</summary>
    [Fact]
    public void NoShows_ClosePlayedBookings_WhereTheHouseWouldSaySo()
    {
        AskedTime[] asked =
        [
            Booked("a", At(16, 12), At(17, 12), 60, freed: At(17, 12, 20), noShow: true),
            Booked("a", At(17, 13), At(18, 12), 60, freed: At(18, 12, 20), noShow: true),
            Booked("a", At(19, 12), At(20, 12), 60),
            Booked("a", At(26, 12), At(27, 12), 60),
        ];
        var result = Try(Rules with { NoShowsBeforePause = 2, NoShowPauseDays = 7 }, asked);
        result.Refused.ShouldHaveSingleItem().Start.ShouldBe(At(20, 12));
        result.Reasons.ShouldHaveSingleItem().Code.ShouldBe("time.noShows");
    }

    [Fact]
    public void OnePerson_IsInOnePlace()
    {
        var other = GateCase.Heron with { Id = "wren", Name = "Wren" };
        var machines = new Dictionary<MachineId, MachineSpec>(Machines) { [other.Id] = other };
        AskedTime[] asked =
        [
            Booked("a", At(20, 12), At(24, 12), 60),
            Refused("a", At(20, 13), At(24, 12), 60, Codes.PersonElsewhere.Code) with
            {
                MachineId = other.Id,
            },
        ];
        var played = WhatIf.Play(asked, Rules, machines, [], _ => { }, CancellationToken.None);
        played[1].Against.ShouldHaveSingleItem().Code.ShouldBe(Codes.PersonElsewhere.Code);
    }

    [Fact]
    public void Closures_Stay_WhateverTheRules()
    {
        var closed = new ClosedTime(new Interval(At(24, 0), At(25, 0)), []);
        var asked = new[] { Refused("a", At(20, 12), At(24, 12), 60, Codes.TimeClosure.Code) };
        WhatIf
            .Play(asked, Rules with { HoursPerPersonDay = 9, HoursPerPersonWeek = 9 }, Machines, [closed], _ => { }, default)[0]
            .Against.ShouldHaveSingleItem()
            .Code.ShouldBe(Codes.TimeClosure.Code);
    }

    [Fact]
    public void CalledOff_ItStops_AndTellsHowFarItIs()
    {
        var asked = Enumerable
            .Range(0, 200)
            .Select(n => Booked($"p{n}", At(20, 12), At(24, 10) + Duration.FromMinutes(15 * n), 15))
            .ToArray();
        using var off = new CancellationTokenSource();
        var told = new List<int>();
        Should.Throw<OperationCanceledException>(() =>
            WhatIf.Play(
                asked,
                Rules,
                Machines,
                [],
                done =>
                {
                    told.Add(done);
                    if (done >= 60)
                        off.Cancel();
                },
                off.Token
            )
        );
        told.ShouldBe([0, 20, 40, 60]);
    }
}
