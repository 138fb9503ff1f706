namespace VelvetGate.Core.House.Forms;

/// <summary>How a field is filled in, and what it means.</summary>
public enum FieldKind
{
    Text,

    /// <summary>Several sentences.</summary>
    LongText,

    /// <summary>A number with decimals.</summary>
    Number,
    Whole,

    /// <summary>Kept in millimetres, typed in any unit.</summary>
    Length,

    /// <summary>A day of the calendar, such as 2027-05-31.</summary>
    Day,

    /// <summary>One of the choices.</summary>
    Choice,

    /// <summary>Any of the choices.</summary>
    Choices,
    Flag,

    /// <summary>Words with commas between.</summary>
    Words,

    /// <summary>Opening hours of the seven days.</summary>
    Hours,

    /// <summary>Colours with what each stands for.</summary>
    Colours,

    /// <summary>Rows of parts, such as the stop devices of a machine.</summary>
    Rows,
}

/// <summary>What a field does once it is filled in. No field changes nothing: one that is not in force yet says so.</summary>
public enum FieldEffect
{
    /// <summary>The gate, a length, a timer, a refusal, a card or a reading changes with it.</summary>
    InForce,

    /// <summary>People read it; nothing is decided by it.</summary>
    Information,
}

/// <param name="Value">As the API writes it.</param>
public sealed record FieldChoice(string Value, string Text);

/// <summary>One field of a sheet that a house fills in: the form is drawn from it, and what is typed is read by it.</summary>
/// <param name="Key">JSON name of the value; dots lead into parts.</param>
/// <param name="Group">Heading it stands under.</param>
/// <param name="Unit">Unit shown behind the field; empty for none.</param>
/// <param name="Hint">One sentence of help, with the usual value where there is one.</param>
/// <param name="Parts">Fields of one row, for rows.</param>
/// <param name="Usual">Starting value of a new sheet, as the API writes it; empty for none. Whoever fills the sheet looks at it.</param>
public sealed record FormField(
    string Key,
    string Group,
    string Label,
    FieldKind Kind,
    string Unit = "",
    decimal Min = 0,
    decimal Max = 0,
    bool Optional = false,
    string Hint = "",
    IReadOnlyList<FieldChoice>? Choices = null,
    IReadOnlyList<FormField>? Parts = null,
    string Usual = ""
)
{
    /// <summary>Shown on the form wherever it is not in force.</summary>
    public FieldEffect Effect { get; init; }

    /// <summary>Longest text taken, in characters.</summary>
    public const int LongestText = 300;

    /// <summary>Longest text of several sentences taken, in characters.</summary>
    public const int LongestLongText = 8000;

    public static FormField Words(string key, string group, string label, string hint = "", bool optional = true) =>
        new(key, group, label, FieldKind.Words, Optional: optional, Hint: hint);

    public static FormField Text(string key, string group, string label, string hint = "", bool optional = false) =>
        new(key, group, label, FieldKind.Text, Optional: optional, Hint: hint);

    public static FormField Number(
        string key,
        string group,
        string label,
        string unit,
        decimal min,
        decimal max,
        string hint = "",
        bool optional = false,
        string usual = ""
    ) =>
        new(
            Key: key,
            Group: group,
            Label: label,
            Kind: FieldKind.Number,
            Unit: unit,
            Min: min,
            Max: max,
            Optional: optional,
            Hint: hint,
            Usual: usual
        );

    public static FormField Whole(
        string key,
        string group,
        string label,
        string unit,
        decimal min,
        decimal max,
        string hint = "",
        bool optional = false,
        string usual = ""
    ) =>
        new(
            Key: key,
            Group: group,
            Label: label,
            Kind: FieldKind.Whole,
            Unit: unit,
            Min: min,
            Max: max,
            Optional: optional,
            Hint: hint,
            Usual: usual
        );

    public static FormField Length(
        string key,
        string group,
        string label,
        decimal minMm,
        decimal maxMm,
        string hint = "",
        string usual = ""
    ) => new(Key: key, Group: group, Label: label, Kind: FieldKind.Length, Unit: "", Min: minMm, Max: maxMm, Hint: hint, Usual: usual);

    /// <summary>Always optional: no day is known of every thing.</summary>
    public static FormField Day(string key, string group, string label, string hint = "") =>
        new(key, group, label, FieldKind.Day, Optional: true, Hint: hint);

    public static FormField Flag(string key, string group, string label, string hint = "") =>
        new(key, group, label, FieldKind.Flag, Hint: hint);

    public static FormField Choice(string key, string group, string label, string hint, params (string Value, string Text)[] choices) =>
        new(key, group, label, FieldKind.Choice, Hint: hint, Choices: [.. choices.Select(c => new FieldChoice(c.Value, c.Text))]);
}
