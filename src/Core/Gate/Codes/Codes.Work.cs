using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating;

/// <summary>What the posts sheet, drawing and machine can say.</summary>
public static partial class Codes
{
    public static readonly Rule MaterialNever = Shut("material.never", Post.Sheet, "A material that is never allowed.", NoLoosening);

    public static readonly Rule MaterialBanned = Shut("material.banned", Post.Sheet, "The house bans the material.", "house ruling") with
    {
        Remedies = [Remedies.MaterialOther],
    };

    public static readonly Rule MaterialByArrangement = Ask(
        "material.byArrangement",
        Post.Sheet,
        "A steward clears each sheet of this material.",
        "house ruling"
    ) with
    {
        Remedies = [Remedies.SheetClear],
        Assumed = Assumption.Cleared,
    };

    public static readonly Rule MaterialNoRuling = Shut(
        "material.noRuling",
        Post.Sheet,
        "No ruling speaks of this material, thickness, laser and operation.",
        "what is not known is not cut (common practice)"
    ) with
    {
        Remedies = [Remedies.MaterialRequest],
    };

    public static readonly Rule MaterialCannot = Shut(
        "material.cannot",
        Post.Sheet,
        "The machine cannot do this to the material.",
        "what this kind of laser can do (common practice)"
    ) with
    {
        Remedies = [Remedies.MachineOther],
    };

    public static readonly Rule MaterialTooThick = Shut(
        "material.tooThick",
        Post.Sheet,
        "Thicker than the ruling or the machine allows.",
        "ruling and the machine's limit"
    ) with
    {
        Remedies = [Remedies.SheetThinner, Remedies.MachineOther],
    };

    public static readonly Rule MaterialExtraction = Ask(
        "material.extraction",
        Post.Sheet,
        "The machine only filters, and the material loads the filter.",
        "a filter removes no carbon monoxide (common practice)"
    ) with
    {
        Remedies = [Remedies.MachineOther],
        Assumed = Assumption.Cleared,
    };

    public static readonly Rule MaterialDeclared = Caution(
        "material.declared",
        Post.Sheet,
        "The person states where the material comes from.",
        "house ruling"
    );

    public static readonly Rule SheetUntagged = Ask(
        "sheet.untagged",
        Post.Sheet,
        "The material needs the tag of a cleared sheet, and none is given.",
        "each brought-in sheet is cleared (common practice)"
    ) with
    {
        Remedies = [Remedies.SheetClear],
        Assumed = Assumption.Cleared,
    };

    public static readonly Rule SheetNotCleared = Ask(
        "sheet.notCleared",
        Post.Sheet,
        "The sheet is not cleared for this machine, work and time.",
        "each brought-in sheet is cleared (common practice)"
    ) with
    {
        Remedies = [Remedies.SheetClear],
        Assumed = Assumption.Cleared,
    };

    public static readonly Rule SheetWrong = Shut(
        "sheet.wrong",
        Post.Sheet,
        "The tag says another material or thickness.",
        "material and measured thickness have to match (common practice)"
    ) with
    {
        Remedies = [Remedies.SheetTag],
    };

    public static readonly Rule SheetQuarantined = Shut(
        "sheet.quarantined",
        Post.Sheet,
        "The sheet is in quarantine.",
        "a reported sheet stays out (common practice)"
    ) with
    {
        Remedies = [Remedies.SheetOther],
    };

    public static readonly Rule SheetIncident = Shut(
        "sheet.incident",
        Post.Sheet,
        "An incident holds the sheet.",
        "after a choking smell, or stock that is never allowed, nobody runs the same sheet (common practice)"
    ) with
    {
        Remedies = [Remedies.SheetOther],
    };

    public static readonly Rule MaterialIncident = Ask(
        "material.incident",
        Post.Sheet,
        "What the house says of the material is looked at again after an incident.",
        "after an injury or a fire that others put out, ruling and settings are looked at again (common practice)"
    ) with
    {
        Remedies = [Remedies.IncidentEnd],
        Assumed = Assumption.Reviewed,
    };

    public static readonly Rule SheetUnknown = Shut(
        "sheet.unknown",
        Post.Sheet,
        "The sheet or its rulings could not be loaded, or the tag is unknown.",
        "unknown is never clear"
    ) with
    {
        Remedies = [Remedies.HouseLook, Remedies.SheetTag],
    };

    public static readonly Rule DrawingNone = Caution(
        "drawing.none",
        Post.Drawing,
        "No drawing was given.",
        "frame the job first (common practice)"
    ) with
    {
        Remedies = [Remedies.DrawingCheck],
    };

    public static readonly Rule DrawingWanted = Shut(
        "drawing.wanted",
        Post.Drawing,
        "The house asks this person for a drawing that was checked.",
        HouseRule,
        changedIn: 4
    ) with
    {
        Remedies = [Remedies.DrawingCheck],
        Settings = [nameof(HouseRules.DrawingWanted)],
    };

    public static readonly Rule DrawingUnknown = Shut(
        "drawing.unknown",
        Post.Drawing,
        "The drawing is not here.",
        "unknown is never clear"
    ) with
    {
        Remedies = [Remedies.DrawingCheck],
    };

    public static readonly Rule DrawingStop = Shut(
        "drawing.stop",
        Post.Drawing,
        "A finding of the drawing stops it.",
        "faults people look for (common practice)",
        changedIn: 2
    ) with
    {
        Remedies = [Remedies.DrawingMend],
        Settings = [nameof(HouseRules.NearLinesStopMm), nameof(HouseRules.Colours)],
    };

    public static readonly Rule DrawingWarn = Caution(
        "drawing.warn",
        Post.Drawing,
        "A finding of the drawing is to be looked at.",
        "faults people look for (common practice)",
        changedIn: 2
    ) with
    {
        Settings = [nameof(HouseRules.PicturePpi), nameof(HouseRules.PictureGreyPercent)],
    };

    public static readonly Rule DrawingAsks = Ask(
        "drawing.asks",
        Post.Drawing,
        "A finding that can be meant so, or be a fault.",
        "meant so by design, or a fault (common practice)"
    ) with
    {
        Remedies = [Remedies.DrawingShow],
        Settings = [nameof(HouseRules.CrowdedCutsPercent)],
    };

    public static readonly Rule DrawingOffBed = Shut(
        "drawing.offBed",
        Post.Drawing,
        "The drawing is larger than the usable bed.",
        "the machine's usable bed"
    ) with
    {
        Remedies = [Remedies.MachineOther],
    };

    public static readonly Rule DrawingOffSheet = Shut(
        "size.offSheet",
        Post.Drawing,
        "The drawing does not lie on the sheet, with an edge to hold it down.",
        "the size on the sheet's tag; a held edge of 5 mm (common practice)",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.SheetOther],
    };

    public static readonly Rule PageNotSheet = Shut(
        "page.notSheet",
        Post.Drawing,
        "The drawing’s page is not the sheet, in a house that wants it so.",
        "house rule; a page in another size shifts the job (common practice)",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.DrawingLay],
        Settings = [nameof(HouseRules.PageIsSheet)],
    };

    public static readonly Rule RotaryShape = Shut(
        "rotary.shape",
        Post.Drawing,
        "A handle, a spout or a ball on the rotary.",
        "a handle strikes the head, a ball has no even turn (common practice)",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.RoundOther],
    };

    public static readonly Rule RotaryRange = Shut(
        "rotary.range",
        Post.Drawing,
        "Wider or narrower than the machine’s rotary takes.",
        "the diameters on the machine’s form",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.RoundOther, Remedies.MachineOther],
    };

    public static readonly Rule RotaryTaper = Ask(
        "rotary.taper",
        Post.Drawing,
        "One end more than 2 % narrower than the other.",
        "tilt jig and a test wrap (common practice)",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.DrawingShow],
    };

    public static readonly Rule RotaryOverlap = Shut(
        "rotary.overlap",
        Post.Drawing,
        "The drawing is longer than once around: its ends lie on each other.",
        "once around is π times the diameter",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.DrawingMend],
    };

    public static readonly Rule RotaryPage = Caution(
        "rotary.page",
        Post.Drawing,
        "The drawing’s page is not as high as once around.",
        "page height is π times the diameter",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.DrawingWrap],
    };

    public static readonly Rule DrawingRotary = Caution(
        "drawing.rotary",
        Post.Drawing,
        "The drawing runs on a rotary round something that nobody measured.",
        "page height is π times the diameter; taper over 2 % smears (common practice)",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.DrawingWrap],
    };

    public static readonly Rule DrawingOperations = Shut(
        "drawing.operations",
        Post.Drawing,
        "The drawing holds operations that the question does not.",
        "the sheet is judged for what is asked"
    ) with
    {
        Remedies = [Remedies.AskOperations],
        Settings = [nameof(HouseRules.Colours)],
    };
}
