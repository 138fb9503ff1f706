namespace VelvetGate.Core.Settings.Calculators;

/// <summary>What is typed into one field of a calculator.</summary>
public enum InputKind
{
    /// <summary>In any unit; a bare number in the one the person sees.</summary>
    Length,

    /// <summary>In any unit; a bare number is mm/s.</summary>
    Speed,
    Number,

    /// <summary>A whole number.</summary>
    Count,
    Tick,
}

/// <param name="Name">As the command line and the API name it.</param>
/// <param name="Unit">What a number is in; empty for lengths and speeds, which carry their own.</param>
/// <param name="Needed">False for what may be left out.</param>
/// <param name="Example">A value that it takes.</param>
/// <param name="Most">The greatest number taken: above it a digit is too many.</param>
/// <param name="Least">The least number taken; null for anything above none.</param>
public sealed record CalcInput(
    string Name,
    string Label,
    InputKind Kind,
    string Example = "",
    string Unit = "",
    bool Needed = true,
    decimal Most = 1_000_000,
    decimal? Least = null
)
{
    public static CalcInput Number(
        string name,
        string label,
        string example,
        string unit = "",
        bool needed = true,
        decimal most = 1_000_000,
        decimal? least = null
    ) => new(name, label, InputKind.Number, example, unit, Needed: needed, Most: most, Least: least);
}

/// <summary>One thing that a calculator answers.</summary>
/// <param name="Value">A number, a word, true or false; null where there is none.</param>
/// <param name="Shown">As people read it.</param>
public sealed record CalcValue(string Name, string Label, object? Value, string Shown);

/// <summary>An answer with its working.</summary>
/// <param name="Working">One step in each line, with the numbers of this case.</param>
/// <param name="Standing">What it would mean at the gate; null where a number is all it is.</param>
/// <param name="Says">What to do with it, in words.</param>
public sealed record CalcAnswer(
    IReadOnlyList<CalcValue> Values,
    IReadOnlyList<string> Working,
    CalcPicture Picture,
    Standing? Standing = null,
    IReadOnlyList<string>? Says = null
);

/// <summary>A calculator of the house: pages, API and command line are all made from this.</summary>
/// <param name="For">What it is for, in one line.</param>
/// <param name="Source">Where its formula is published, or that it is common practice.</param>
public sealed record Calculator(
    string Name,
    string Title,
    string For,
    string Source,
    IReadOnlyList<CalcInput> Inputs,
    Func<CalcInputs, Result<CalcAnswer>> Work
)
{
    /// <summary>The answer, or why there is none; also where what was typed lies too far apart for any number to hold.</summary>
    public Result<CalcAnswer> Answer(CalcInputs inputs)
    {
        try
        {
            var answer = Work(inputs);
            return answer.IsOk && answer.Value.Values.Any(v => v.Value is double d && !double.IsFinite(d))
                ? SettingsProblems.CalcTooFar.Refuse()
                : answer;
        }
        catch (OverflowException)
        {
            return SettingsProblems.CalcTooFar.Refuse();
        }
    }
}
