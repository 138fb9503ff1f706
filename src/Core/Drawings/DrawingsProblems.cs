namespace VelvetGate.Core.Drawings;

/// <summary>What is refused about drawings, their clamps, colours and mends, each once.</summary>
public static class DrawingsProblems
{
    public static readonly Problem DrawingInUse = new(
        "drawing.inUse",
        ProblemKind.Conflict,
        "A booking or a question that waits stands on this drawing. Cancel it first, or keep the drawing until it is over."
    );
    public static readonly Problem ClampsStale = new(
        "clamps.stale",
        ProblemKind.Stale,
        "The clamps were changed in another window. They are shown as they are now: mark yours again."
    );
    public static readonly Problem ColourNotDrawn = new("colour.notDrawn", ProblemKind.Invalid, "No line of this drawing has that colour.");
    public static readonly Problem ColourOfHouse = new(
        "colour.ofHouse",
        ProblemKind.Conflict,
        "The house’s rules say what {0} does. Give the line another colour in your drawing program, or mend it here."
    );
    public static readonly Problem FileMissing = new("file.missing", ProblemKind.Invalid, "Choose an SVG, DXF, PNG or JPEG file.");
    public static readonly Problem EvidenceMissing = new(
        "file.missing",
        ProblemKind.Invalid,
        "Choose a PDF, PNG or JPEG file that is not empty."
    );
    public static readonly Problem FileTooLarge = new("file.tooLarge", ProblemKind.TooLarge, "The file is larger than {0} MB. Split it.");
    public static readonly Problem UploadTooLarge = new(
        "file.tooLarge",
        ProblemKind.TooLarge,
        "The file is larger than {0} MB. Choose a smaller one, or split it."
    );
    public static readonly Problem EvidenceTooLarge = new(
        "file.tooLarge",
        ProblemKind.TooLarge,
        "The file is larger than {0} MB. Choose a smaller one."
    );
    public static readonly Problem FileEmpty = new("file.empty", ProblemKind.Unprocessable, "The file is empty. Choose another file.");
    public static readonly Problem FileUnreadable = new("file.unreadable", ProblemKind.Unprocessable, "{0}");
    public static readonly Problem FormatUnknown = new("format.unknown", ProblemKind.Invalid, "Choose svg or dxf.");
    public static readonly Problem MendTooMuch = new("mend.tooMuch", ProblemKind.Unprocessable, "{0}");
    public static readonly Problem ClampsMany = new("clamps.many", ProblemKind.Invalid, "Up to {0} clamps can be marked.");
    public static readonly Problem ClampsPlace = new(
        "clamps.place",
        ProblemKind.Invalid,
        "Mark clamps within 10 m of the drawing's corner."
    );
    public static readonly Problem ClampsSize = new("clamps.size", ProblemKind.Invalid, "Write how large the clamp is, from 1 to 500 mm.");
    public static readonly Problem ClampsTyped = new(
        "clamps.typed",
        ProblemKind.Invalid,
        "Write their places in mm, such as \"120,40; 10,10\"."
    );
    public static readonly Problem MendWidth = new("mend.width", ProblemKind.Invalid, "Write a width from 0.1 mm to 100 m.");
    public static readonly Problem MendOutline = new("mend.outline", ProblemKind.Invalid, "Write the colour of the outline as #rrggbb.");
    public static readonly Problem MendNothing = new("mend.nothing", ProblemKind.Invalid, "Choose at least one thing to mend.");
    public static readonly Problem MendClose = new(
        "mend.close",
        ProblemKind.Invalid,
        "Gaps can be closed up to {0} mm: write a length above 0."
    );
    public static readonly Problem MendScale = new("mend.scale", ProblemKind.Invalid, "Write a factor from {0} to {1}, such as 25.4.");
    public static readonly Problem DrawingsFull = new(
        "drawings.full",
        ProblemKind.Full,
        "You keep {0} drawings, as many as there is room for. Delete some that you no longer need."
    );
    public static readonly Problem HouseFull = new(
        "house.full",
        ProblemKind.Full,
        "The house has no room for more drawings. Tell the keeper."
    );
    public static readonly Problem MendRecolour = new(
        "mend.recolour",
        ProblemKind.Invalid,
        "“{0}={1}” is not a pair of colours. Write it like #3a7d44=#8a2252."
    );
}
