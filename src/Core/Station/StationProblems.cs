namespace VelvetGate.Core.Station;

/// <summary>What is refused at the machine, each once.</summary>
public static class StationProblems
{
    private static Problem Shut(string code, string words) => new(code, ProblemKind.Unprocessable, words);

    public static readonly Problem FobEarly = Shut("fob.early", "Your booking starts {0}. Tap in from {1:0} minutes before.");
    public static readonly Problem FobNotYours = Shut(
        "fob.notYours",
        "{0} is at this machine. They tap out first, or tap too within {1:0} s to hand over to you."
    );
    public static readonly Problem FobElsewhere = Shut("fob.elsewhere", "You are tapped in at {0}. Tap out there first.");
    public static readonly Problem FobUnknown = Shut("fob.unknown", "Nobody here has this fob. A steward can learn it, under House, Fobs.");
    public static readonly Problem FobLate = Shut("fob.late", "That tap was heard too late to count. Tap again.");
    public static readonly Problem FobCode = new(
        "fob.code",
        ProblemKind.Invalid,
        "A fob’s code has 4 to 100 letters and figures, no blanks."
    );
    public static readonly Problem FobName = new(
        "fob.name",
        ProblemKind.Invalid,
        "Say what the fob looks like, in up to {0} characters: “blue tag”."
    );
    public static readonly Problem FobKnown = new(
        "fob.known",
        ProblemKind.Conflict,
        "Somebody has this fob already. Revoke it there first, or take another."
    );
    public static readonly Problem FobGone = new("fob.gone", ProblemKind.NotFound, "No such fob is in use here.");
    public static readonly Problem FobNothing = new(
        "fob.nothing",
        ProblemKind.Invalid,
        "Hold a fob at the reader, or type the tap-in code from your phone."
    );
    public static readonly Problem FobNotHere = new(
        "fob.notHere",
        ProblemKind.Forbidden,
        "A fob or a tap-in code counts at a screen that is enrolled at this machine. Here you tap in as yourself."
    );
    public static readonly Problem FobOff = new(
        "fob.off",
        ProblemKind.Conflict,
        "This house has no station key, so no fob can be learnt. See docs/operating.md, “Controllers”."
    );
    public static readonly Problem CodeWrong = Shut(
        "code.wrong",
        "That tap-in code is not good, or no longer: it counts once, for half a minute. Get a new one on your phone."
    );
    public static readonly Problem HereWrong = Shut("here.wrong", "That is not the code of this machine. It stands on a card beside it.");
    public static readonly Problem StartHere = Shut(
        "start.notHere",
        "Scan the code at {0} first, or type it: it says that you stand there. It counts {1:0} minutes, for one start."
    );
    public static readonly Problem PaperMissing = new("machinePaper.missing", ProblemKind.Invalid, "Choose a file.");
    public static readonly Problem PaperLarge = new("machinePaper.large", ProblemKind.TooLarge, "A paper has {0} MB at most.");
    public static readonly Problem PaperKind = new("machinePaper.kind", ProblemKind.Unsupported, "A paper at a machine is a PDF.");
    public static readonly Problem PaperName = new(
        "machinePaper.name",
        ProblemKind.Invalid,
        "Say what the paper is, in up to {0} characters."
    );
    public static readonly Problem PaperMany = new(
        "machinePaper.many",
        ProblemKind.Conflict,
        "{0} papers are there already. Take one away first."
    );
    public static readonly Problem PinForm = new(
        "pin.form",
        ProblemKind.Invalid,
        "A PIN has {0} to {1} figures, not all the same and not counted up or down."
    );
    public static readonly Problem PinWanted = Shut(
        "pin.wanted",
        "Type your PIN at this machine’s screen within {0:0} s, or tap in on your own phone."
    );
    public static readonly Problem PinUnset = Shut(
        "pin.unset",
        "This house asks for a PIN beside the fob, and you have none yet. Set one on your own page, or tap in on your own phone."
    );
    public static readonly Problem PinWrong = Shut("pin.wrong", "That is not the PIN that goes with this fob. Type it again.");
    public static readonly Problem PinNobody = Shut("pin.nobody", "Hold your fob at the reader first, then type your PIN within a minute.");
    public static readonly Problem HandOverShut = Shut(
        "handOver.shut",
        "The gate is shut for whoever would take over: {0} The machine stays with the first."
    );
    public static readonly Problem LearnerSupervisor = Shut(
        "learner.supervisor",
        "Their supervisor taps at this machine first, {0:0} minutes ago at most. Then one of their learners is chosen, without a fob."
    );
    public static readonly Problem StartSupervisor = Shut(
        "start.supervisor",
        "Your supervisor taps too, and again after {0:0} minutes: at the reader, or on this machine’s screen on their own phone."
    );
    public static readonly Problem DeviceName = new(
        "device.name",
        ProblemKind.Invalid,
        "Say which screen it is, in up to {0} characters: “tablet at Heron”."
    );
    public static readonly Problem DeviceGone = new("device.gone", ProblemKind.NotFound, "No such screen is enrolled here.");
    public static readonly Problem FobNoBooking = Shut(
        "fob.noBooking",
        "You have no booking on {0} now. Ask the gate for this time first."
    );
    public static readonly Problem StationShut = Shut("station.shut", "The gate is shut: {0}");
    public static readonly Problem StationShutHere = Shut(
        "station.shutHere",
        "The gate is shut for {0}. They see why on their own phone, at this machine’s page; or ask a steward."
    );
    public static readonly Problem StationGivenBack = Shut(
        "station.givenBack",
        "The booking was given back: finish here, and ask the gate anew."
    );
    public static readonly Problem StationMoved = new(
        "station.moved",
        ProblemKind.Conflict,
        "It went on elsewhere, in another window or on another screen. Look again."
    );
    public static readonly Problem StationStep = Shut("station.step", "That is not what comes now. Look again.");
    public static readonly Problem StationNobody = Shut("station.nobody", "Nobody is tapped in at this machine.");
    public static readonly Problem StationNotYours = new(
        "station.notYours",
        ProblemKind.Forbidden,
        "Somebody else is tapped in here. Anybody may say that the beam is off; the rest is theirs, or a steward’s."
    );
    public static readonly Problem CheckWrong = Shut("check.open", "Something was wrong: {0}. A steward looks first.");
    public static readonly Problem SheetTag = Shut("sheet.other", "The booking is for {0}. Take that sheet, or ask the gate for this one.");
    public static readonly Problem SheetMeasure = Shut("sheet.measure", "Measure the thickness {0}: {1}.");
    public static readonly Problem SheetThickness = Shut(
        "sheet.thickness",
        "It measures {0:0.##} mm, and its tag says {1:0.##} mm: more than 15 % apart. It may be another sheet: look at the tag again."
    );
    public static readonly Problem FocusMethod = Shut("focus.method", "Choose how you focused: {0}.");
    public static readonly Problem FocusAutomatic = Shut(
        "focus.automatic",
        "Automatic focus serves a flat, even sheet alone: use the gauge on pins or the rotary."
    );
    public static readonly Problem FocusGauge = Shut("focus.gauge", "The gauge goes back first: it stops the head.");
    public static readonly Problem SettingsUnknown = Shut("settings.unknown", "Say what the machine is set to.");
    public static readonly Problem StartLead = Shut("start.extractionLead", "The extraction has to run {0} s more before the beam.");
    public static readonly Problem StartAir = Shut("start.air", "Look at the extraction again: it was seen more than {0} minutes ago.");
    public static readonly Problem StartAssist = Shut("start.airAssist", "Air assist on before cutting: without it flames stay.");
    public static readonly Problem StartLid = Shut("start.lidOpen", "The lid is shut before the beam.");
    public static readonly Problem StartOffline = Shut(
        "start.offline",
        "The controller of {0} does not answer, so nothing starts. A beam that is on runs out; to stop it, press the machine’s own stop."
    );
    public static readonly Problem StartKey = Shut("start.key", "The service key is out: nothing starts until it is back.");
    public static readonly Problem StartNoAir = Shut(
        "start.airflow",
        "The airflow {0}; the beam needs {1:0.#} m³/h or more: look at the extraction, its switch and its filter."
    );
    public static readonly Problem StopWhyFirst = Shut("stop.why", "Say first why it was stopped: a flame makes the wait longer.");
    public static readonly Problem StartConfirm = Shut(
        "start.confirm",
        "Say all three: height set, this material is on the list, you stay."
    );
    public static readonly Problem StartTime = Shut(
        "start.noTime",
        "It takes up to {0} with the wait and the clean-down, and the time ends {1}. Book longer, or run less."
    );
    public static readonly Problem AttentionLapsed = Shut(
        "attention.lapsed",
        "Nobody pressed in time. Look first: no flame, no glow? After a second time a steward comes before the next start."
    );
    public static readonly Problem PauseNone = Shut(
        "pause.none",
        "{0} is not paused here: its own pause does not take the beam away, no controller does, or the house allows none. Stop it instead."
    );
    public static readonly Problem PauseOn = Shut("pause.on", "It is paused. Look through the window, then go on, or stop.");
    public static readonly Problem PauseOver = Shut(
        "pause.over",
        "It was paused for more than {0} min, so it does not go on. Stop it, and wait for the air."
    );
    public static readonly Problem LidEarly = Shut("lid.early", "The lid stays shut {0} s more.");
    public static readonly Problem LidBeam = Shut(
        "lid.beam",
        "Nobody has seen the beam go off. Press the machine’s own red button first, then say so here."
    );
    public static readonly Problem LidSteward = Shut("lid.wait", "The lid stays shut until a steward says.");
    public static readonly Problem RerunMoved = Shut(
        "rerun.moved",
        "The sheet was moved: nobody hits the same lines again. Take a fresh piece."
    );
    public static readonly Problem RerunSecond = Shut("rerun.second", "One extra pass, once. Make a test piece before the next.");
    public static readonly Problem RerunPartial = Shut(
        "rerun.partial",
        "A run broken off is not run again whole on the same lines. Take a fresh piece, or a drawing of what is missing."
    );
    public static readonly Problem RerunEnergy = Shut(
        "rerun.energy",
        "An extra pass takes at most half the energy of the first: faster, or less power."
    );
    public static readonly Problem CloseOpen = Shut("close.open", "Still to do before you tap out: {0}.");
    public static readonly Problem ControllerUnknown = new(
        "controller.unknown",
        ProblemKind.NotFound,
        "No controller “{0}” is enrolled here."
    );
    public static readonly Problem ControllerSerial = new(
        "controller.serial",
        ProblemKind.Invalid,
        "A serial is 3 to 40 small letters, digits and dashes, as it stands on the box."
    );
    public static readonly Problem ControllerKnown = new(
        "controller.known",
        ProblemKind.Conflict,
        "“{0}” was enrolled before. Give the box another serial: old messages must not count again."
    );
    public static readonly Problem ControllerBound = new(
        "controller.bound",
        ProblemKind.Conflict,
        "The machine is bound to “{0}”. Revoke that one first."
    );
    public static readonly Problem ControllerOff = new(
        "controller.off",
        ProblemKind.Conflict,
        "This house has no station key, so no controller can be enrolled. See docs/operating.md, “Controllers”."
    );
}
