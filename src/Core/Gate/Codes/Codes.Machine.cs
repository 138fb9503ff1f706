using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating;

/// <summary>What the posts sheet, drawing and machine can say.</summary>
public static partial class Codes
{
    public static readonly Rule MachineNotHere = Shut(
        "machine.notHere",
        Post.Machine,
        "The machine is not in this house for the whole time.",
        "its first and last day, on its form",
        changedIn: 2
    ) with
    {
        Remedies = [Remedies.MachineOther],
    };

    public static readonly Rule MachineStopped = Shut(
        "machine.stopped",
        Post.Machine,
        "Somebody stopped the machine.",
        "stopping is everyone's, restarting is few's"
    ) with
    {
        Remedies = [Remedies.MachineReturn],
        Assumed = Assumption.Returned,
    };

    public static readonly Rule HoldIncident = Shut(
        "hold.incident",
        Post.Machine,
        "An incident keeps the machine out of service.",
        "after any flame somebody looks into bed, lens, wiring, filter and duct (common practice)"
    ) with
    {
        Remedies = [Remedies.IncidentEnd],
        Assumed = Assumption.Returned,
    };

    public static readonly Rule MachineLook = Caution(
        "machine.look",
        Post.Machine,
        "Somebody told of fire or smoke here without a name, and nobody has looked yet.",
        "a near miss is worth a look before the next start (house practice)"
    ) with
    {
        Remedies = [Remedies.IncidentLook],
    };

    public static readonly Rule MachineUpkeepOverdue = Ask(
        "machine.upkeepOverdue",
        Post.Machine,
        "Upkeep of the machine is overdue.",
        HouseRule
    ) with
    {
        Remedies = [Remedies.UpkeepLog],
        Assumed = Assumption.Upkept,
    };

    public static readonly Rule UpkeepDue = Caution(
        "upkeep.due",
        Post.Machine,
        "A task of upkeep is due on the machine, and may slip a little longer.",
        "counters and dates of the house (house practice; the maker’s manual comes first)",
        changedIn: 6
    ) with
    {
        Remedies = [Remedies.UpkeepLog],
        Assumed = Assumption.Upkept,
    };

    public static readonly Rule FaultOpen = Caution(
        "fault.open",
        Post.Machine,
        "Somebody told of a fault that one can work with, with care.",
        "faults by what is seen (common practice)",
        changedIn: 6
    ) with
    {
        Remedies = [Remedies.FaultClose],
    };

    public static readonly Rule FaultAsks = Ask(
        "fault.asks",
        Post.Machine,
        "Somebody told of a fault, and a steward decides what may still run.",
        "faults by what is seen (common practice)",
        changedIn: 6
    ) with
    {
        Remedies = [Remedies.FaultClose],
        Assumed = Assumption.Mended,
    };

    public static readonly Rule FaultStops = Shut(
        "fault.stops",
        Post.Machine,
        "Somebody told of a fault that stops the machine.",
        "stopping is everyone's, restarting is few's",
        changedIn: 6
    ) with
    {
        Remedies = [Remedies.MachineReturn],
        Assumed = Assumption.Returned,
    };

    private const string SetUp = "commissioning by a sheet with evidence (common practice; the maker’s manual and local rules come first)";

    public static readonly Rule MachineCommissioning = Ask(
        "machine.commissioning",
        Post.Machine,
        "The machine has no commissioning sheet, or one older than the house allows.",
        SetUp,
        changedIn: 7
    ) with
    {
        Remedies = [Remedies.MachineCommission],
        Settings = [nameof(HouseRules.CommissioningMonths)],
        Assumed = (_, _, facts) => Assumption.SetUp(facts, s => s with { On = facts.Now }),
    };

    public static readonly Rule MachineGaps = Caution(
        "machine.gaps",
        Post.Machine,
        "The commissioning sheet leaves something open.",
        SetUp,
        changedIn: 7
    ) with
    {
        Remedies = [Remedies.MachineCommission],
    };

    public static readonly Rule MachineInterlocks = Ask(
        "machine.interlocks",
        Post.Machine,
        "The interlocks were not tried lately, or our controller’s wiring is not shown: the machine counts as class 4.",
        "a class rests on interlocks that were tried (common practice)",
        changedIn: 7
    ) with
    {
        Remedies = [Remedies.InterlocksTry, Remedies.MachineCommission],
        Settings = [nameof(HouseRules.InterlockDays)],
        Assumed = (_, _, facts) => Assumption.SetUp(facts, s => s with { InterlocksAt = facts.Now, ControllerShown = true }),
    };

    public static readonly Rule MachineAfterBreak = new Rule(
        Code: "machine.afterBreak",
        Post: Post.Machine,
        Means: "Nothing has run on the machine for as long as the house calls a break.",
        AtBooking: Standing.Caution,
        AtMachine: Standing.Shut,
        LiftedBy: LiftedBy.Nobody,
        Source: "after a long break coolant, airflow, interlocks, duct and kit come first (common practice)",
        ChangedIn: 7
    ) with
    {
        Remedies = [Remedies.BreakCheck],
        Settings = [nameof(HouseRules.BreakDays)],
        Assumed = (_, _, facts) => facts with { Machine = facts.Machine with { UsedAt = facts.Now } },
    };

    public static readonly Rule MachineFixture = Shut(
        "machine.fixture",
        Post.Machine,
        "The machine has no such fixture.",
        "fixtures are single items (common practice)"
    ) with
    {
        Remedies = [Remedies.MachineOther],
    };

    public static readonly Rule FixtureOut = Shut(
        "fixture.out",
        Post.Machine,
        "The fixture is handed out to somebody else, or came back damaged.",
        "fixtures are single items (common practice)",
        changedIn: 5
    ) with
    {
        Remedies = [Remedies.TimeOther, Remedies.FixtureBack],
        Assumed = (_, _, facts) => facts with { Machine = facts.Machine with { Fixture = null } },
    };

    public static readonly Rule FixtureOverdue = Ask(
        "fixture.overdue",
        Post.Machine,
        "The fixture should be back, is not, and is wanted within a day.",
        "fixtures are single items (common practice)",
        changedIn: 5
    ) with
    {
        Remedies = [Remedies.FixtureBack],
        Assumed = (_, _, facts) => facts with { Machine = facts.Machine with { Fixture = null } },
    };

    public static readonly Rule FixtureCutOnly = Shut(
        "fixture.cutOnly",
        Post.Machine,
        "The cutting grid is asked for by a job that does not cut.",
        "the grid is for work that is cut through (common practice)",
        changedIn: 5
    ) with
    {
        Remedies = [Remedies.MachineOther],
    };

    public static readonly Rule MachineNotClosed = Shut(
        "machine.notClosed",
        Post.Machine,
        "The machine is not class 1 as used, and the house runs closed machines only.",
        "closed machines only (house rule; schools must)"
    ) with
    {
        Remedies = [Remedies.MachineClose],
        Settings = [nameof(HouseRules.ClosedMachinesOnly)],
    };

    public static readonly Rule MachineReadings = new Rule(
        Code: "machine.readings",
        Post: Post.Machine,
        Means: "The gauges are read at the machine.",
        AtBooking: Standing.Caution,
        AtMachine: Standing.Shut,
        LiftedBy: LiftedBy.Nobody,
        Source: "coolant and airflow are read at the machine (common practice)",
        ChangedIn: 2
    ) with
    {
        Remedies = [Remedies.MachineRead],
    };

    private const string Airflow = "airflow against that at commissioning (house practice; the extraction engineer decides)";
    private const string Coolant = "coolant limits of the machine (house practice; the maker’s manual comes first)";

    public static readonly Rule MachineAirflowDue = Read(
        Caution("machine.airflowDue", Post.Machine, "The airflow is below 85 % of commissioning.", Airflow, changedIn: 3)
    );
    public static readonly Rule MachineAirflowLow = Read(
        Ask("machine.airflowLow", Post.Machine, "The airflow is below 75 % of commissioning.", Airflow, changedIn: 3)
    );
    public static readonly Rule MachineAirflowOut = Read(
        Shut("machine.airflowOut", Post.Machine, "The airflow is below 65 % of commissioning, or not read.", Airflow, changedIn: 3)
    );
    public static readonly Rule MachineCoolantWarm = Read(
        Caution("machine.coolantWarm", Post.Machine, "The coolant is warm.", Coolant, changedIn: 3)
    );
    public static readonly Rule MachineCoolantHot = Read(
        Ask("machine.coolantHot", Post.Machine, "The coolant is hot.", Coolant, changedIn: 3)
    );
    public static readonly Rule MachineCoolantOut = Read(
        Shut("machine.coolantOut", Post.Machine, "The coolant is out of its limits, does not flow, or is not read.", Coolant, changedIn: 3)
    );
    public static readonly Rule MachineCoolantCold = Read(
        Caution("machine.coolantCold", Post.Machine, "The coolant is cold, or near the dew point.", Coolant, changedIn: 3)
    );
    public static readonly Rule MachineRoomCold = Read(
        Caution(
            "machine.roomCold",
            Post.Machine,
            "The room is colder than the machine takes.",
            "least room temperature of the machine (its manual)",
            changedIn: 7
        )
    );
    public static readonly Rule MachineRoomFreezing = Read(
        Shut(
            "machine.roomFreezing",
            Post.Machine,
            "The room is so cold that the water of a tube may freeze.",
            "ice cracks a water-cooled tube (common practice)",
            changedIn: 7
        )
    );

    private static Rule Read(Rule rule) => rule with { Remedies = [Remedies.MachineRead, Remedies.ReadingLog] };

    public static readonly Rule MachineAirflow = new Rule(
        Code: "machine.airflow",
        Post: Post.Machine,
        Means: "Nobody measured the airflow of the machine.",
        AtBooking: Standing.Ask,
        AtMachine: Standing.Shut,
        LiftedBy: LiftedBy.Steward,
        Source: "unknown is never clear: airflow says how long the lid stays shut",
        ChangedIn: 2
    ) with
    {
        Remedies = [Remedies.MachineMeasure],
        Assumed = Assumption.Measured,
    };

    public static readonly Rule MachineEnclosure = new Rule(
        Code: "machine.enclosure",
        Post: Post.Machine,
        Means: "Nobody said how the machine is enclosed.",
        AtBooking: Standing.Ask,
        AtMachine: Standing.Shut,
        LiftedBy: LiftedBy.Steward,
        Source: "unknown is never clear: an open or unproven enclosure is class 4",
        ChangedIn: 2
    ) with
    {
        Remedies = [Remedies.MachineDescribe],
        Assumed = Assumption.Enclosed,
    };

    public static readonly Rule MachineUnknown = Shut(
        "machine.unknown",
        Post.Machine,
        "Something about the machine could not be loaded.",
        "unknown is never clear"
    ) with
    {
        Remedies = [Remedies.HouseLook],
    };
}
