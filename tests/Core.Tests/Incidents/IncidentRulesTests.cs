using NodaTime;
using Shouldly;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Incidents;

public class IncidentRulesTests
{
    private static readonly HouseClock London = HouseClock.For("Europe/London");

    private static readonly ToldIncident Told = new(
        MachineId: "heron",
        At: GateCase.Now - Duration.FromMinutes(20),
        What: Mishap.Flame,
        Severity: Severity.NoHarm,
        RunId: null,
        Seen: "A flame at the left edge.",
        Damage: null,
        Cost: null,
        FireService: false,
        Marked: null,
        Hurt: false,
        Injury: null,
        PutOut: null,
        Tag: null,
        Facts: new ToldFacts(),
        There: []
    );

    private static string? Wrong(ToldIncident told, MachineSpec? machine = null) =>
        IncidentRules.Check(told, machine ?? GateCase.Heron, London, GateCase.Now).FirstOrDefault()?.Code;

    [Fact]
    public void Times_AreLookedAt()
    {
        Wrong(Told).ShouldBeNull();
        Wrong(Told with { At = GateCase.Now + Duration.FromMinutes(1) }).ShouldBe("incident.future");
        Wrong(Told with { At = GateCase.Now - Duration.FromDays(40 * 366) }).ShouldBe("incident.old");
        Wrong(Told, GateCase.Heron with { HereFrom = new LocalDate(2026, 11, 25) }).ShouldBe("incident.notHere");
        Wrong(Told, GateCase.Heron with { HereUntil = new LocalDate(2026, 11, 23) }).ShouldBe("incident.notHere");
        Wrong(Told, GateCase.Heron with { HereUntil = new LocalDate(2026, 11, 24) }).ShouldBeNull();
    }

    /// <summary>Called to be safe is a tick of its own; somebody hurt is first aid at least.</summary>
    [Fact]
    public void Severity_IsRaisedByAnInjury_AndByNoCall()
    {
        Wrong(Told with { FireService = true, Severity = Severity.NearMiss }).ShouldBeNull();
        Wrong(Told with { Hurt = true }).ShouldBe("incident.severity");
        Wrong(Told with { Hurt = true, Severity = Severity.DamageOrFirstAid }).ShouldBeNull();
    }

    private static readonly ClosingFacts Ready = new(
        CausesTicked: 2,
        OpenActions: 0,
        HoldsSet: 0,
        HoldsProposed: 0,
        LooksLeft: 0,
        WatchWanted: true,
        OtherStewards: ["Yusra Haddad"]
    );

    private static string? Close(
        ClosingFacts facts,
        bool closed = false,
        bool steward = true,
        bool countersigner = false,
        bool involved = false
    ) => IncidentClosing.MayClose(facts, closed, new Closer(steward, countersigner, involved))?.Code;

    [Fact]
    public void Closing_WantsEverything()
    {
        Close(Ready).ShouldBeNull();
        Close(Ready, closed: true).ShouldBe("incident.closed");
        Close(Ready, involved: true).ShouldBe("incident.self");
        Close(Ready, steward: false).ShouldBe("incident.notYours");
        Close(Ready, steward: false, countersigner: true).ShouldBe("incident.notYours", "there is another steward");
        Close(Ready with { OtherStewards = [] }, steward: false, countersigner: true).ShouldBeNull();
        foreach (
            var open in new[]
            {
                Ready with
                {
                    CausesTicked = 0,
                },
                Ready with
                {
                    OpenActions = 1,
                },
                Ready with
                {
                    HoldsSet = 1,
                },
                Ready with
                {
                    HoldsProposed = 1,
                },
                Ready with
                {
                    LooksLeft = 2,
                },
                Ready with
                {
                    LooksLeft = null,
                },
            }
        )
            Close(open).ShouldBe("incident.open");
        Close(Ready with { LooksLeft = null, WatchWanted = false }).ShouldBeNull("no flame, no watch");
    }

    /// <summary>What is refused says what is still to be done.</summary>
    [Fact]
    public void Closing_SaysWhatIsOpen() =>
        IncidentClosing
            .MayClose(Ready with { HoldsSet = 1, LooksLeft = 2 }, false, new Closer(true, false, false))!
            .Text.ShouldBe("It cannot be closed yet: holds: 1 to be ended; fire watch: 2 looks to come.");
}
