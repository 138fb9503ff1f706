using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings;

/// <summary>One thing that is looked for in drawings.</summary>
/// <param name="Code">Stable, such as <c>line.duplicate</c>.</param>
/// <param name="LookedFor">What it is called where nothing of it was found; null where its absence says nothing.</param>
/// <param name="Why">Why it matters.</param>
/// <param name="Source">Where the rule comes from.</param>
public sealed record FindingKind(string Code, string? LookedFor, IReadOnlyList<Severity> Severities, string Why, string Source)
{
    /// <summary>Names of the house rules it reads, as <see cref="HouseRules"/> has them.</summary>
    public IReadOnlyList<string> Settings { get; init; } = [];

    /// <summary>Larger than what it has to lie on.</summary>
    public bool OfSize => LookedFor == FindingKinds.LargerThanBed;
}

/// <summary>Everything that is looked for, each once; docs/rules.md is written from here.</summary>
public static class FindingKinds
{
    internal const string LargerThanBed = "larger than the bed";

    public static readonly FindingKind LineDuplicate = new(
        "line.duplicate",
        "lines drawn twice",
        [Severity.Stop, Severity.Warn],
        "on cuts the second pass has nothing left to cut: heat, and fire; a score or engraved line comes " + "out deeper",
        "common practice"
    );
    public static readonly FindingKind LineNear = new(
        "line.near",
        "nearly doubled lines",
        [Severity.Stop, Severity.Warn],
        "nearer to another cut than the kerf: it looks like one line and is cut twice; more than the " + "house’s length of it stops",
        "common practice; the length is a house rule, its start (5 mm) house practice"
    )
    {
        Settings = [nameof(HouseRules.NearLinesStopMm)],
    };
    public static readonly FindingKind GapTooClose = new(
        "gap.tooClose",
        "cuts nearer than the sheet is thick",
        [Severity.Warn],
        "nearer to another cut than the sheet is thick: heat, warping, fire; above the house’s share of "
            + "the cut length the gate asks, since hinges do this by design",
        "common practice; the share is a house rule, its start (20 %) house practice"
    )
    {
        Settings = [nameof(HouseRules.CrowdedCutsPercent)],
    };
    public static readonly FindingKind DetailThin = new(
        "detail.thin",
        "strips thinner than the sheet",
        [Severity.Warn],
        "a strip or web of a part thinner than the sheet curls and burns",
        "common practice"
    );
    public static readonly FindingKind ColourUnknown = new(
        "colour.unknown",
        "unknown colours",
        [Severity.Stop],
        "a colour without an operation is refused, not guessed",
        "house rule"
    )
    {
        Settings = [nameof(HouseRules.Colours)],
    };
    public static readonly FindingKind ColourIgnored = new(
        "colour.ignored",
        null,
        [Severity.Note],
        "a colour that the house’s map leaves out on purpose",
        "house rule"
    )
    {
        Settings = [nameof(HouseRules.Colours)],
    };
    public static readonly FindingKind TextLive = new(
        "text.live",
        "live lettering",
        [Severity.Stop],
        "without the font lettering changes or vanishes",
        "common practice"
    );
    public static readonly FindingKind SizeOffBed = new(
        "size.offBed",
        LargerThanBed,
        [Severity.Stop],
        "larger than the bed: the head would meet its end stops",
        "the machine’s form"
    );
    public static readonly FindingKind SizeOverMargin = new(
        "size.overMargin",
        LargerThanBed,
        [Severity.Stop],
        "larger than the bed within its margins",
        "the machine’s form"
    );
    public static readonly FindingKind SizeOffSheet = new(
        "size.offSheet",
        null,
        [Severity.Stop],
        "larger than the sheet whose tag was given",
        "the size on the sheet’s tag"
    );
    public static readonly FindingKind FileEmpty = new("file.empty", null, [Severity.Stop], "nothing is drawn", "common practice");
    public static readonly FindingKind PathOpen = new(
        "path.open",
        "open cut lines",
        [Severity.Warn],
        "a chain of cut lines with an end that touches no other line (0.05 mm): where a part should come "
            + "free it will not; slits and hinges are open by design",
        "common practice"
    );
    public static readonly FindingKind EntityNoted = new(
        "entity.noted",
        null,
        [Severity.Warn],
        "hatches, meshes and the like of a DXF file: counted, not drawn",
        "what is read here"
    );
    public static readonly FindingKind PathBroken = new(
        "path.broken",
        null,
        [Severity.Warn],
        "data that breaks off is drawn up to the error",
        "SVG 1.1, F.2"
    );
    public static readonly FindingKind ScaleSuspicious = new(
        "scale.suspicious",
        "wrong scale",
        [Severity.Warn],
        "all of it smaller than 3 mm; a DXF without a unit smaller than 24 mm; larger than the bed and "
            + "sound once divided by 25.4; or a page without a physical size that is an ISO 216 or North "
            + "American page at 72 or 90 pixels to the inch; the gate asks",
        "common practice; what makes it likely is house practice"
    );
    public static readonly FindingKind ClipIgnored = new(
        "clip.ignored",
        "clips and masks",
        [Severity.Warn],
        "clips and masks hide lines on the screen that most machines cut: they are read whole",
        "common practice"
    );
    public static readonly FindingKind OrderInnerFirst = new(
        "order.innerFirst",
        null,
        [Severity.Note],
        "a closed cut drawn after one that lies round it: a freed part moves; the docket gives the order",
        "common practice"
    );
    public static readonly FindingKind PageOutside = new(
        "page.outside",
        "shapes off the page",
        [Severity.Note],
        "shapes wholly off the page of an SVG: left over, or forgotten; they run all the same",
        "common practice"
    );
    public static readonly FindingKind ShapeFilled = new(
        "shape.filled",
        null,
        [Severity.Note, Severity.Warn],
        "a fill without a stroke is engraved, not cut; filled in a colour that cuts, the outline is cut "
            + "and the fill engraved, or left out",
        "common practice"
    );
    public static readonly FindingKind StrokeWide = new(
        "stroke.wide",
        "cut lines too wide to count as cuts",
        [Severity.Warn],
        "some drivers cut thin lines only, and engrave or leave out what is wider: the part stays in the sheet",
        "common practice; the width is stated for each machine"
    );
    public static readonly FindingKind LayerHidden = new(
        "layer.hidden",
        "hidden layers and objects",
        [Severity.Note],
        "what is hidden is left out here, and a machine may run it",
        "common practice"
    );
    public static readonly FindingKind StyleUnread = new(
        "style.unread",
        null,
        [Severity.Warn],
        "style rules whose selector is not read here: colours and hidden parts may be others",
        "what is read here"
    );
    public static readonly FindingKind PaintNoted = new(
        "paint.noted",
        null,
        [Severity.Note],
        "patterns and gradients are not read",
        "what is read here"
    );
    public static readonly FindingKind ImageLowResolution = new(
        "image.lowResolution",
        "coarse pictures",
        [Severity.Warn],
        "fewer pixels to the inch at the placed size than the house wants: the dots show",
        "common practice; a house rule, its start 300"
    )
    {
        Settings = [nameof(HouseRules.PicturePpi)],
    };
    public static readonly FindingKind ImageNotBlackWhite = new(
        "image.notBlackWhite",
        "greys",
        [Severity.Warn],
        "more than the house’s share of its pixels are neither black nor white, on a white ground: the "
            + "driver turns them into dots by a rule of its own",
        "common practice; the share (5 %, for soft edges) starts as house practice, so do 40 of 255 for " + "what is nearly black or white"
    )
    {
        Settings = [nameof(HouseRules.PictureGreyPercent)],
    };
    public static readonly FindingKind ImageNoSize = new(
        "image.noSize",
        null,
        [Severity.Warn],
        "a PNG or JPEG that states no density is taken at 96 pixels to the inch, as CSS does; other " + "programs take 72",
        "CSS Values 4, 6.2"
    );
    public static readonly FindingKind ImageUnread = new(
        "image.unread",
        null,
        [Severity.Stop],
        "its pixels could not be read to the end, or are more than 100 million in all, or 40 million of "
            + "a picture that is decoded as a whole (interlaced PNG, progressive JPEG)",
        "what is read here"
    );
    public static readonly FindingKind FrameObstructed = new(
        "frame.obstructed",
        null,
        [Severity.Note],
        "a clamp that the person marked lies within 15 mm of the box round the work, so that the head "
            + "meets it when it frames; the frame run on the machine decides",
        "common practice; the 15 mm are from memory, rough"
    );
    public static readonly FindingKind ImagePlaced = new(
        "image.placed",
        null,
        [Severity.Note],
        "pictures are engraved only; one that is linked or cannot be read is not measured",
        "common practice"
    );

    public static IReadOnlyList<FindingKind> All { get; } =
    [
        .. typeof(FindingKinds)
            .GetFields(System.Reflection.BindingFlags.Public | System.Reflection.BindingFlags.Static)
            .Where(f => f.FieldType == typeof(FindingKind))
            .Select(f => (FindingKind)f.GetValue(null)!),
    ];

    private static readonly Dictionary<string, FindingKind> ByCode = All.ToDictionary(k => k.Code);

    /// <exception cref="KeyNotFoundException">No such code.</exception>
    public static FindingKind Of(string code) => ByCode[code];
}
