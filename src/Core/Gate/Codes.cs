using System.Reflection;

namespace VelvetGate.Core.Gating;

/// <summary>Who may lift a reason once, for one person, machine, item and window. Nobody ever lifts for themselves.</summary>
public enum LiftedBy
{
    Nobody,
    Steward,
}

/// <summary>One rule of the gate: its code, how hard it is at booking and at the machine, who may lift it, where it comes from.</summary>
/// <param name="ChangedIn">The version of the rules (<see cref="Gate.RulesVersion"/>) in which the same facts could first bring another
/// answer from this rule.</param>
public sealed record Rule(
    string Code,
    Post Post,
    Standing AtBooking,
    Standing AtMachine,
    LiftedBy LiftedBy,
    string Source,
    int ChangedIn = 1
)
{
    public Standing At(Phase phase) => phase == Phase.AtMachine ? AtMachine : AtBooking;
}

/// <summary>Every reason the gate can give. docs/rules.md lists the same; a test keeps the two in step.</summary>
public static class Codes
{
    private const string HouseRule = "house rule";
    private const string Common = "common practice";
    private const string NoLoosening = "common practice; no house can loosen it";

    public static readonly Rule PersonInactive = Shut("person.inactive", Post.Person, HouseRule);
    public static readonly Rule PersonPaused = Shut("person.paused", Post.Person, "a steward's pause");
    public static readonly Rule PersonElsewhere = Shut(
        "person.elsewhere",
        Post.Person,
        "one person attends one machine at a time (common practice)"
    );
    public static readonly Rule PersonAgreement = Shut("person.agreement", Post.Person, HouseRule);
    public static readonly Rule PersonTooYoung = Shut("person.tooYoung", Post.Person, HouseRule);
    public static readonly Rule PersonUnderAge = Ask("person.underAge", Post.Person, HouseRule);
    public static readonly Rule PersonWithAdult = Caution("person.withAdult", Post.Person, HouseRule);
    public static readonly Rule PersonNoConsent = Shut("person.noConsent", Post.Person, "a guardian's dated consent under 18 (house rule)");
    public static readonly Rule PersonUnknown = Shut("person.unknown", Post.Person, "unknown is never clear");

    public static readonly Rule TrainingNone = Shut("training.none", Post.Training, "only inducted people (common practice)");
    public static readonly Rule TrainingLapsed = Shut("training.lapsed", Post.Training, HouseRule);
    public static readonly Rule TrainingIdle = Shut("training.idle", Post.Training, HouseRule);
    public static readonly Rule TrainingAddOn = Shut("training.addOn", Post.Training, "add-ons are signed separately (common practice)");
    public static readonly Rule TrainingSupervised = Caution(
        "training.supervised",
        Post.Training,
        "first runs supervised (common practice)"
    );
    public static readonly Rule TrainingFounding = Caution(
        "training.founding",
        Post.Training,
        "a first authority is confirmed or shown as unconfirmed (house rule)"
    );
    public static readonly Rule TrainingSuspended = Shut("training.suspended", Post.Training, "a suspended certificate (house practice)");
    public static readonly Rule TrainingReview = Ask(
        "training.review",
        Post.Training,
        "a certificate that is looked at again (house practice)"
    );
    public static readonly Rule TrainingUnread = Shut("training.unread", Post.Training, "the current procedure is read (common practice)");
    public static readonly Rule TrainingReadBy = Caution(
        "training.readBy",
        Post.Training,
        "the current procedure is read; until its day the one before counts (house practice)"
    );
    public static readonly Rule TrainingUnknown = Shut("training.unknown", Post.Training, "unknown is never clear");

    public static readonly Rule MaterialNever = Shut("material.never", Post.Sheet, NoLoosening);
    public static readonly Rule MaterialBanned = Shut("material.banned", Post.Sheet, "house ruling");
    public static readonly Rule MaterialByArrangement = Ask("material.byArrangement", Post.Sheet, "house ruling");
    public static readonly Rule MaterialNoRuling = Shut("material.noRuling", Post.Sheet, "what is not known is not cut (common practice)");
    public static readonly Rule MaterialCannot = Shut("material.cannot", Post.Sheet, "what this kind of laser can do (common practice)");
    public static readonly Rule MaterialTooThick = Shut("material.tooThick", Post.Sheet, "ruling and the machine's limit");
    public static readonly Rule MaterialExtraction = Ask(
        "material.extraction",
        Post.Sheet,
        "a filter removes no carbon monoxide (common practice)"
    );
    public static readonly Rule MaterialDeclared = Caution("material.declared", Post.Sheet, "house ruling");
    public static readonly Rule SheetUntagged = Ask("sheet.untagged", Post.Sheet, "each brought-in sheet is cleared (common practice)");
    public static readonly Rule SheetNotCleared = Ask("sheet.notCleared", Post.Sheet, "each brought-in sheet is cleared (common practice)");
    public static readonly Rule SheetWrong = Shut(
        "sheet.wrong",
        Post.Sheet,
        "material and measured thickness have to match (common practice)"
    );
    public static readonly Rule SheetQuarantined = Shut("sheet.quarantined", Post.Sheet, "a reported sheet stays out (common practice)");
    public static readonly Rule SheetUnknown = Shut("sheet.unknown", Post.Sheet, "unknown is never clear");

    public static readonly Rule DrawingNone = Caution("drawing.none", Post.Drawing, "frame the job first (common practice)");
    public static readonly Rule DrawingUnknown = Shut("drawing.unknown", Post.Drawing, "unknown is never clear");
    public static readonly Rule DrawingStop = Shut("drawing.stop", Post.Drawing, "faults people look for (common practice)", changedIn: 2);
    public static readonly Rule DrawingWarn = Caution(
        "drawing.warn",
        Post.Drawing,
        "faults people look for (common practice)",
        changedIn: 2
    );
    public static readonly Rule DrawingAsks = Ask("drawing.asks", Post.Drawing, "meant so by design, or a fault (common practice)");
    public static readonly Rule DrawingOffBed = Shut("drawing.offBed", Post.Drawing, "the machine's usable bed");
    public static readonly Rule DrawingOffSheet = Shut("size.offSheet", Post.Drawing, "the size on the sheet's tag", changedIn: 2);
    public static readonly Rule DrawingOperations = Shut("drawing.operations", Post.Drawing, "the sheet is judged for what is asked");

    public static readonly Rule MachineStopped = Shut("machine.stopped", Post.Machine, "stopping is everyone's, restarting is few's");
    public static readonly Rule MachineUpkeepOverdue = Ask("machine.upkeepOverdue", Post.Machine, HouseRule);
    public static readonly Rule MachineFixture = Shut("machine.fixture", Post.Machine, "fixtures are single items (common practice)");
    public static readonly Rule MachineNotClosed = Shut(
        "machine.notClosed",
        Post.Machine,
        "closed machines only (house rule; schools must)"
    );
    public static readonly Rule MachineReadings = new(
        "machine.readings",
        Post.Machine,
        Standing.Caution,
        Standing.Shut,
        LiftedBy.Nobody,
        "coolant and airflow are read at the machine (common practice)",
        ChangedIn: 2
    );
    public static readonly Rule MachineAirflow = new(
        "machine.airflow",
        Post.Machine,
        Standing.Ask,
        Standing.Shut,
        LiftedBy.Steward,
        "unknown is never clear: airflow says how long the lid stays shut",
        ChangedIn: 2
    );
    public static readonly Rule MachineEnclosure = new(
        "machine.enclosure",
        Post.Machine,
        Standing.Ask,
        Standing.Shut,
        LiftedBy.Steward,
        "unknown is never clear: an open or unproven enclosure is class 4",
        ChangedIn: 2
    );
    public static readonly Rule MachineUnknown = Shut("machine.unknown", Post.Machine, "unknown is never clear");

    public static readonly Rule TimeTaken = Shut("time.taken", Post.Time, "one job at a time");
    public static readonly Rule TimePast = Shut("time.past", Post.Time, "the clock");
    public static readonly Rule TimeClosed = Shut("time.closed", Post.Time, "opening hours");
    public static readonly Rule TimeClosure = Shut("time.closure", Post.Time, "a closure in the house calendar");
    public static readonly Rule TimeClass = Shut("time.class", Post.Time, "a class in the house calendar");
    public static readonly Rule TimeClassFull = Shut(
        "time.classFull",
        Post.Time,
        "how many of a class may run at once (house rule)",
        changedIn: 2
    );
    public static readonly Rule TimeLastRun = Shut("time.lastRun", Post.Time, "embers start fires after closing (common practice)");
    public static readonly Rule TimeTooShort = Shut("time.tooShort", Post.Time, "booking length (common practice)", changedIn: 2);
    public static readonly Rule TimeUnknownRun = new(
        "time.unknownRun",
        Post.Time,
        Standing.Ask,
        Standing.Shut,
        LiftedBy.Steward,
        "unknown is never clear: the run decides how long a booking has to be",
        ChangedIn: 2
    );
    public static readonly Rule TimeSameDay = Shut("time.sameDay", Post.Time, HouseRule);
    public static readonly Rule TimeLimit = Ask("time.limit", Post.Time, HouseRule, changedIn: 2);
    public static readonly Rule TimeUnknown = Shut("time.unknown", Post.Time, "unknown is never clear");

    public static readonly Rule RoomKitOut = Shut("room.kitOut", Post.Room, "fire kit present and in date (common practice)");
    public static readonly Rule RoomNoSupervisor = Shut("room.noSupervisor", Post.Room, HouseRule);
    public static readonly Rule RoomRotaOpen = new("room.rotaOpen", Post.Room, Standing.Caution, Standing.Shut, LiftedBy.Nobody, HouseRule);
    public static readonly Rule RoomSecondPerson = Caution("room.secondPerson", Post.Room, HouseRule);
    public static readonly Rule RoomFreshAir = Caution(
        "room.freshAir",
        Post.Room,
        "a filter removes no carbon monoxide: fresh air and an alarm (common practice)",
        changedIn: 2
    );
    public static readonly Rule RoomEyewear = Shut(
        "room.eyewear",
        Post.Room,
        "optical density for the beam (ANSI Z136.1 / IEC 60825-1, from memory)",
        changedIn: 2
    );
    public static readonly Rule EyewearNotCovered = Shut(
        "eyewear.notCovered",
        Post.Room,
        "exposure limits are known here from 400 to 1400 nm and at 10.6 µm; elsewhere a laser safety officer works it out",
        changedIn: 2
    );
    public static readonly Rule RoomWearEyewear = Caution("room.wearEyewear", Post.Room, "an open beam (common practice)", changedIn: 2);
    public static readonly Rule RoomUnknown = Shut("room.unknown", Post.Room, "unknown is never clear");

    public static IReadOnlyList<Rule> All { get; } =
    [
        .. typeof(Codes)
            .GetFields(BindingFlags.Public | BindingFlags.Static)
            .Where(f => f.FieldType == typeof(Rule))
            .Select(f => (Rule)f.GetValue(null)!),
    ];

    private static readonly Dictionary<string, Rule> ByCode = All.ToDictionary(r => r.Code);

    /// <exception cref="KeyNotFoundException">No such code.</exception>
    public static Rule Of(string code) => ByCode[code];

    /// <returns>Null for a code that no rule has any more.</returns>
    public static Rule? Find(string code) => ByCode.GetValueOrDefault(code);

    private static Rule Shut(string code, Post post, string source, int changedIn = 1) =>
        new(code, post, Standing.Shut, Standing.Shut, LiftedBy.Nobody, source, changedIn);

    private static Rule Ask(string code, Post post, string source, int changedIn = 1) =>
        new(code, post, Standing.Ask, Standing.Ask, LiftedBy.Steward, source, changedIn);

    private static Rule Caution(string code, Post post, string source, int changedIn = 1) =>
        new(code, post, Standing.Caution, Standing.Caution, LiftedBy.Nobody, source, changedIn);
}
