using NodaTime;
using Shouldly;
using VelvetGate.Core.Booking;
using VelvetGate.Core.House;
using VelvetGate.Core.Station;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Booking;

public class EndingTests
{
    private static readonly HouseRules Rules = Packs.Start(Packs.StaffedWorkshop, "House", "Europe/London");

    private static Instant At(int hour, int minute) => Instant.FromUtc(2026, 11, 24, hour, minute);

    [Fact]
    public void WhoIsStillOn_HearsWhenToHaveEnded_WhereSomebodyFollows()
    {
        var (title, body) = Ending.ToRunner("Heron", At(14, 15), 10, new Following(At(14, 15)), Rules);
        title.ShouldBe("Your time on Heron ends at 14:15");
        body.ShouldContain("Begin nothing that does not end before 14:05.");
        body.ShouldContain("The next comes at 14:15.");
        Ending.ToRunner("Heron", At(14, 15), 10, new Following(null), Rules).Body.ShouldContain("Make the booking longer if you need to.");
        Ending.ToRunner("Heron", At(14, 15), 10, new Following(At(16, 0)), Rules).Body.ShouldContain("Make the booking longer");
    }

    /// <summary>The booking and the machine’s screen say the same of what stays on.</summary>
    [Fact]
    public void WhatStaysOn_IsWhatTheScreenAtTheMachineSays()
    {
        var machine = GateCase.Heron;
        foreach (var next in new Instant?[] { At(18, 0), null })
        {
            var said = ClosingPlaces.Lines("fan", machine, residue: false, comesAfter: next is not null);
            new Following(next).Says(Rules).ShouldContain(said[^1]);
        }
    }
}
