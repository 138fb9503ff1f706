namespace VelvetGate.Core.Kernel;

/// <summary>What several rooms refuse, each once.</summary>
public static class CommonProblems
{
    public static readonly Problem ReasonMissing = new("reason.missing", ProblemKind.Invalid, "Write the reason in a sentence.");
    public static readonly Problem ReasonLong = new(
        "reason.long",
        ProblemKind.Invalid,
        "The reason is longer than {0} characters. Shorten it."
    );
    public static readonly Problem InstantBad = new(
        "instant.bad",
        ProblemKind.Invalid,
        "“{0}” is not an instant. Write it like 2026-11-24T10:15Z."
    );
    public static readonly Problem UnitBad = new("unit.bad", ProblemKind.Invalid, "Lengths are shown in mm or in.");
    public static readonly Problem CsvEncoding = new("csv.encoding", ProblemKind.Invalid, "The file is not UTF-8. Save it as CSV UTF-8.");
    public static readonly Problem CsvEmpty = new("csv.empty", ProblemKind.Invalid, "The file is empty. Its first line reads {0}.");
    public static readonly Problem CsvHeading = new(
        "csv.heading",
        ProblemKind.Invalid,
        "The first line of the file does not name the columns."
    );
    public static readonly Problem CsvBad = new(
        "csv.bad",
        ProblemKind.Invalid,
        "Line {0} cannot be read as CSV: look at its quotation marks."
    );
    public static readonly Problem JsonBad = new(
        "json.bad",
        ProblemKind.Invalid,
        "Line {0} cannot be read as JSON: a list of rows with text values."
    );
    public static readonly Problem CsvLong = new("csv.long", ProblemKind.Invalid, "More than {0} rows. Split the file.");
    public static readonly Problem Stale = new(
        "stale",
        ProblemKind.Stale,
        "{0} was changed meanwhile. Look at it again; what you typed is kept here."
    );
    public static readonly Problem StaleAtOnce = new(
        "stale",
        ProblemKind.Stale,
        "Somebody changed the same thing at the same moment. Nothing was changed by you; look again and try once more."
    );
    public static readonly Problem StaleMaterial = new(
        "stale",
        ProblemKind.Stale,
        "Somebody changed this material meanwhile. Look at what holds now; what you typed is kept."
    );
    public static readonly Problem DayBad = new("day.bad", ProblemKind.Invalid, "Give the day like 2026-11-24.");
    public static readonly Problem LengthBad = new("length.bad", ProblemKind.Invalid, "Write a length, such as 3 mm or 1/8 in.");
    public static readonly Problem SpeedBad = new("speed.bad", ProblemKind.Invalid, "Write a speed, such as 20 mm/s or 15 in/min.");
    public static readonly Problem NotFound = new("notFound", ProblemKind.NotFound, "There is no such {0}.");
}
