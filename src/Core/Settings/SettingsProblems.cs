namespace VelvetGate.Core.Settings;

/// <summary>What is refused about settings and calculators, each once.</summary>
public static class SettingsProblems
{
    public static readonly Problem CalcMissing = new("calc.missing", ProblemKind.Invalid, "{0} is needed, such as {1}.");
    public static readonly Problem CalcUnknown = new("calc.unknown", ProblemKind.Invalid, "This calculator has no field “{0}”.");
    public static readonly Problem CalcNumber = new("calc.number", ProblemKind.Invalid, "Type {0}.");
    public static readonly Problem CalcTooFar = new(
        "calc.tooFar",
        ProblemKind.Invalid,
        "These numbers lie too far apart. Look at their units again."
    );
    public static readonly Problem CalcCannot = new("calc.cannot", ProblemKind.Invalid, "{0}");

    public static readonly Problem SettingStaff = new(
        "setting.staff",
        ProblemKind.Forbidden,
        "In this house staff add settings. Tell a trainer what worked; a keeper may change the rule."
    );
    public static readonly Problem SettingOriginStaff = new(
        "setting.origin",
        ProblemKind.Forbidden,
        "Only staff enter a technician’s setting. Enter it as a member’s."
    );
    public static readonly Problem SettingPower = new("setting.power", ProblemKind.Invalid, "Power goes from above 0 up to 100 %.");
    public static readonly Problem SettingWatts = new(
        "setting.watts",
        ProblemKind.Invalid,
        "Watts delivered have to be above 0 and near what the machine gives: {0:0.##} W at full power."
    );
    public static readonly Problem SettingSpeed = new(
        "setting.speed",
        ProblemKind.Invalid,
        "Give a speed of at least 0.1 mm/s; {0} goes up to {1}."
    );
    public static readonly Problem SettingPasses = new("setting.passes", ProblemKind.Invalid, "Passes go from 1 to {0}.");
    public static readonly Problem SettingFrequency = new(
        "setting.frequency",
        ProblemKind.Invalid,
        "Frequency goes from above 0 up to 1,000,000 Hz."
    );
    public static readonly Problem SettingPitch = new(
        "setting.pitch",
        ProblemKind.Invalid,
        "The line pitch goes from above 0 up to 10 mm."
    );
    public static readonly Problem SettingPitchMissing = new(
        "setting.pitchMissing",
        ProblemKind.Invalid,
        "Engraving needs its line pitch, such as 0.1 mm."
    );
    public static readonly Problem SettingOffsets = new(
        "setting.offsets",
        ProblemKind.Invalid,
        "Up to {0} offsets of intensity, each from −100 to 100 %."
    );
    public static readonly Problem SettingFocus = new(
        "setting.focus",
        ProblemKind.Invalid,
        "The focus offset is at most 50 mm up or down."
    );
    public static readonly Problem SettingFan = new("setting.fan", ProblemKind.Invalid, "Fan levels go from 0 to 10.");
    public static readonly Problem SettingMaskOf = new(
        "setting.maskOf",
        ProblemKind.Invalid,
        "Say what the tape is made of, such as paper."
    );
    public static readonly Problem SettingVinyl = new(
        "setting.vinyl",
        ProblemKind.Invalid,
        "Never vinyl tape under the beam: it gives off hydrogen chloride. Use paper tape."
    );
    public static readonly Problem SettingThickness = new(
        "setting.thickness",
        ProblemKind.Invalid,
        "Give the thickness it is for, such as 3 mm."
    );
    public static readonly Problem SettingUnknown = new("setting.unknown", ProblemKind.Invalid, "There is no such {0} in this house.");
    public static readonly Problem SettingNever = new(
        "setting.never",
        ProblemKind.Conflict,
        "Never, on any laser: no setting makes this material safe."
    );
    public static readonly Problem SettingBanned = new(
        "setting.banned",
        ProblemKind.Conflict,
        "No ruling of this house permits it on this machine, so there is no setting for it. Ask the stewards for the material."
    );
    public static readonly Problem SettingCannot = new(
        "setting.cannot",
        ProblemKind.Conflict,
        "{0} does not {1} this material at this thickness."
    );
    public static readonly Problem SettingEnded = new(
        "setting.ended",
        ProblemKind.Conflict,
        "Somebody has taken this setting out already."
    );
    public static readonly Problem SettingNotYours = new(
        "setting.notYours",
        ProblemKind.Forbidden,
        "Whoever added it, or staff, takes it out."
    );
    public static readonly Problem TestFew = new(
        "test.few",
        ProblemKind.Invalid,
        "At least {0} cells are needed, each with its energy in J/mm and whether it was through."
    );
    public static readonly Problem TestOneEnergy = new(
        "test.oneEnergy",
        ProblemKind.Invalid,
        "All cells have one energy. A boundary needs cells of several."
    );
    public static readonly Problem TestAllThrough = new(
        "test.allThrough",
        ProblemKind.Unprocessable,
        "Everything was through: the boundary lies below this piece. Make one that begins lower."
    );
    public static readonly Problem TestNoneThrough = new(
        "test.noneThrough",
        ProblemKind.Unprocessable,
        "Nothing was through: the boundary lies above this piece. Make one that begins higher, with more passes and never slower."
    );
    public static readonly Problem TestContradicts = new(
        "test.contradicts",
        ProblemKind.Unprocessable,
        "The results contradict each other: less energy was through and more was not. Look at the cells again, or make another piece."
    );
    public static readonly Problem TestOffSheet = new(
        "test.offSheet",
        ProblemKind.Unprocessable,
        "This test piece measures {0}; with an edge to hold it down it does not fit on a sheet of {1}. Take a larger one."
    );
    public static readonly Problem TestOffBed = new(
        "test.offBed",
        ProblemKind.Unprocessable,
        "This test piece measures {0}: it does not fit on the bed of {1}."
    );
    public static readonly Problem TestNoTag = new("test.noTag", ProblemKind.Invalid, "There is no sheet with that tag.");
    public static readonly Problem TestOtherSheet = new("test.otherSheet", ProblemKind.Invalid, "{0} is {1}, not what the piece is for.");
    public static readonly Problem TestMeasure = new(
        "test.measure",
        ProblemKind.Invalid,
        "Push all {0} parts together and give what they measure, such as 97.8 mm."
    );
    public static readonly Problem TestKerf = new(
        "test.kerf",
        ProblemKind.Unprocessable,
        "{0:0.###} mm cannot be: the parts are drawn {1:0} mm wide together, and a beam takes away a little of it. Measure again."
    );
    public static readonly Problem TestChoose = new("test.choose", ProblemKind.Invalid, "Choose the cell that came out best.");
    public static readonly Problem TestTold = new(
        "test.told",
        ProblemKind.Conflict,
        "The results of this piece were told already. Cut another piece to try again."
    );
    public static readonly Problem TestOtherCells = new(
        "test.otherCells",
        ProblemKind.Unprocessable,
        "These are not the energies of this piece. This is what they say; nothing is kept."
    );
    public static readonly Problem TimesMoved = new(
        "times.moved",
        ProblemKind.Conflict,
        "A run was logged meanwhile, and says something else. Look again."
    );
    public static readonly Problem PlaceNoSheet = new(
        "place.noSheet",
        ProblemKind.Unprocessable,
        "The drawing does not lie on this sheet so. Choose one of the list."
    );
    public static readonly Problem BoxSize = new("box.size", ProblemKind.Invalid, "Give a length from {0} to {1} mm.");
    public static readonly Problem BoxThickness = new(
        "box.thickness",
        ProblemKind.Invalid,
        "Give the thickness as measured, above 0 and to 20 mm."
    );
    public static readonly Problem BoxFinger = new(
        "box.finger",
        ProblemKind.Invalid,
        "Fingers narrower than one and a half times the sheet break off: give at least {0} mm."
    );
    public static readonly Problem BoxFingerWide = new(
        "box.finger",
        ProblemKind.Invalid,
        "The shortest edge has room for fewer than three fingers: make them narrower, or the box larger."
    );
    public static readonly Problem BoxKerf = new("box.kerf", ProblemKind.Invalid, "Give the kerf from 0 to 2 mm, as a kerf comb says.");
    public static readonly Problem BoxPlay = new("box.play", ProblemKind.Invalid, "Give a play from -0.5 to 0.5 mm.");
    public static readonly Problem BoxNoColour = new(
        "box.noColour",
        ProblemKind.Unprocessable,
        "No colour cuts in this house yet: a keeper gives one, under House."
    );
}
