namespace VelvetGate.Core.Upkeep;

/// <summary>What is refused about the upkeep of machines, each once.</summary>
public static class UpkeepProblems
{
    public static readonly Problem NotYours = new("upkeep.notYours", ProblemKind.Forbidden, "This task is done by {0}.");

    public static readonly Problem DoneJustNow = new(
        "upkeep.doneJustNow",
        ProblemKind.Conflict,
        "Somebody wrote it down within this minute. Look again before you add to it."
    );

    public static readonly Problem Note = new("upkeep.note", ProblemKind.Invalid, "Write at most {0} letters.");

    public static readonly Problem BreakIncomplete = new(
        "upkeep.breakIncomplete",
        ProblemKind.Invalid,
        "Still to do before its first run after the break: {0}."
    );

    public static readonly Problem KitUnsaid = new(
        "kit.unsaid",
        ProblemKind.Invalid,
        "Say that it is in order, or choose what is wrong with it."
    );

    public static readonly Problem EyewearDamaged = new(
        "eyewear.damaged",
        ProblemKind.Invalid,
        "Count the pairs that are damaged: 0 to {0}."
    );

    public static readonly Problem PhotoNotYours = new(
        "upkeep.photoNotYours",
        ProblemKind.Forbidden,
        "Photos of faults and work are for staff, and for whoever took them."
    );

    public static readonly Problem StockName = new("stock.name", ProblemKind.Invalid, "Give it a name of at most {0} letters.");

    public static readonly Problem StockUnit = new(
        "stock.unit",
        ProblemKind.Invalid,
        "Say in what it is counted, such as pieces or l, in at most {0} letters."
    );

    public static readonly Problem StockReorder = new("stock.reorder", ProblemKind.Invalid, "Enter 0 to {0}: at so much it is ordered.");

    public static readonly Problem StockWaste = new(
        "stock.waste",
        ProblemKind.Invalid,
        "Say where the used one goes, such as “closed bag, hazardous waste”."
    );

    public static readonly Problem StockTwice = new(
        "stock.twice",
        ProblemKind.Conflict,
        "There is stock of this name already, for the same machine. Change that, or choose another name."
    );

    public static readonly Problem StockChanged = new(
        "stock.changed",
        ProblemKind.Stale,
        "Somebody changed it meanwhile. Look at it again, then save."
    );

    public static readonly Problem StockAmount = new("stock.amount", ProblemKind.Invalid, "Enter an amount above 0, at most {0}.");

    public static readonly Problem StockShort = new(
        "stock.short",
        ProblemKind.Conflict,
        "Only {0} are there by the record. Count the shelf first if there are more."
    );

    public static readonly Problem StockCounted = new("stock.counted", ProblemKind.Invalid, "Enter what you counted: 0 to {0}.");

    public static readonly Problem StockSame = new("stock.same", ProblemKind.Invalid, "So many stand in the record already.");

    public static readonly Problem StockStaff = new(
        "stock.staff",
        ProblemKind.Forbidden,
        "Stock is kept by trainers, stewards and repairers."
    );

    public static readonly Problem LockWhere = new(
        "lock.where",
        ProblemKind.Invalid,
        "Say which lock hangs where, in at most {0} letters, such as “padlock 4 on the plug”."
    );

    public static readonly Problem LockRuns = new(
        "lock.runs",
        ProblemKind.Conflict,
        "The machine is in service. Stop it first, then lock it."
    );

    public static readonly Problem LockTwice = new("lock.twice", ProblemKind.Conflict, "A lock hangs there already by the record.");

    public static readonly Problem LockNotYours = new(
        "lock.notYours",
        ProblemKind.Forbidden,
        "Whoever has the key takes it off; in their absence a steward, with a reason."
    );

    public static readonly Problem LockWhy = new(
        "lock.why",
        ProblemKind.Invalid,
        "You are not who has the key. Say why it comes off all the same, and that you reached them or why not, in at most {0} letters."
    );

    public static readonly Problem Locked = new(
        "return.locked",
        ProblemKind.Conflict,
        "A lock hangs on it: {0}. Whoever has the key takes it off first."
    );

    public static readonly Problem ReadingWanted = new(
        "upkeep.readingWanted",
        ProblemKind.Invalid,
        "Read the airflow after the work, extraction on and lid shut, and enter it in m³/h."
    );

    public static readonly Problem NoReading = new(
        "upkeep.noReading",
        ProblemKind.Invalid,
        "Only tasks about airflow take a reading. Leave it empty."
    );

    public static readonly Problem PlanName = new("upkeep.name", ProblemKind.Invalid, "Give the task a name of at most {0} letters.");

    public static readonly Problem PlanLimit = new("upkeep.limit", ProblemKind.Invalid, "Enter a limit above 0, at most {0} {1}.");

    public static readonly Problem PlanSlip = new("upkeep.slip", ProblemKind.Invalid, "Enter 0 to {0} %.");

    public static readonly Problem PlanSlipAirflow = new(
        "upkeep.slipAirflow",
        ProblemKind.Invalid,
        "Airflow has limits of its own. Leave this at 0."
    );

    public static readonly Problem PlanRoom = new(
        "upkeep.roomDays",
        ProblemKind.Invalid,
        "A task of the room counts days. Choose days, or a machine."
    );

    public static readonly Problem PlanSteps = new(
        "upkeep.steps",
        ProblemKind.Invalid,
        "Write at most {0} steps, each of at most {1} letters."
    );

    public static readonly Problem PlanWords = new("upkeep.words", ProblemKind.Invalid, "Write at most {0} letters.");

    public static readonly Problem PlanTwice = new(
        "upkeep.twice",
        ProblemKind.Conflict,
        "There is a task of this name already, for the same machine. Change that one, or choose another name."
    );

    public static readonly Problem PlanChanged = new(
        "upkeep.changed",
        ProblemKind.Stale,
        "Somebody changed or did this task meanwhile. Look at it again, then save."
    );

    public static readonly Problem NothingRead = new("reading.nothing", ProblemKind.Invalid, "Enter at least one reading.");

    public static readonly Problem AirflowNegative = new("reading.airflow", ProblemKind.Invalid, "Airflow is 0 or more, in m³/h.");

    public static readonly Problem AirflowUnknown = new(
        "reading.airflowUnknown",
        ProblemKind.Conflict,
        "The airflow of {0} at commissioning was never written down. A keeper enters it on the form of the machine first."
    );

    public static readonly Problem AirflowOdd = new(
        "reading.airflowOdd",
        ProblemKind.Invalid,
        "More than twice the {0} m³/h that {1} had at commissioning. Is it another unit? 1 l/s is 3.6 m³/h, 1 cfm is 1.7 m³/h."
    );

    public static readonly Problem NotCooled = new("reading.notCooled", ProblemKind.Invalid, "{0} has no water cooling. Leave it empty.");

    public static readonly Problem CoolantOdd = new(
        "reading.coolantOdd",
        ProblemKind.Invalid,
        "Coolant lies between -5 and 60 °C. Is it in °F? Take 32 off, then five ninths of it."
    );

    public static readonly Problem RoomOdd = new(
        "reading.roomOdd",
        ProblemKind.Invalid,
        "A room lies between -30 and 50 °C. Is it in °F? Take 32 off, then five ninths of it."
    );

    public static readonly Problem SymptomUnknown = new("fault.symptom", ProblemKind.Invalid, "Choose what you see from the list.");

    public static readonly Problem FaultWhat = new("fault.what", ProblemKind.Invalid, "Say in a few words what you see.");

    public static readonly Problem FaultTooMany = new(
        "fault.tooMany",
        ProblemKind.TooMany,
        "You told of many faults today. Tell a steward by word; the Stop button works all the same."
    );

    public static readonly Problem FaultStops = new(
        "fault.returnFirst",
        ProblemKind.Conflict,
        "It stops the machine: it ends when the machine is returned to service."
    );

    public static readonly Problem FaultFound = new("fault.found", ProblemKind.Invalid, "Say what was found and done.");

    public static readonly Problem RepairAuthority = new(
        "machine.repairAuthority",
        ProblemKind.Forbidden,
        "What was touched on a machine is tried and returned by whoever holds repair authority for it. Ask them to."
    );

    public static readonly Problem TouchedUnsaid = new(
        "return.incomplete",
        ProblemKind.Invalid,
        "Say what was touched, or that nothing was."
    );

    public static readonly Problem ReturnIncomplete = new(
        "return.incomplete",
        ProblemKind.Invalid,
        "Still missing before it comes back: {0}."
    );

    public static readonly Problem ReturnOut = new("return.out", ProblemKind.Invalid, "It stays out of service: {0}");

    public static readonly Problem ServiceWho = new(
        "service.by",
        ProblemKind.Invalid,
        "Say who did it, in at most {0} letters: a name, or a firm and its fitter."
    );

    public static readonly Problem ServiceTouched = new("service.touched", ProblemKind.Invalid, "Say what was touched.");

    public static readonly Problem ServiceNote = new("service.note", ProblemKind.Invalid, "Say what was done, in at most {0} letters.");

    public static readonly Problem TrendDays = new("upkeep.trendDays", ProblemKind.Invalid, "Ask for 7 to {0} days.");
}
