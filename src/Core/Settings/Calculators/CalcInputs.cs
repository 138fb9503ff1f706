using System.Globalization;

namespace VelvetGate.Core.Settings.Calculators;

/// <summary>What was typed, read: lengths in mm, speeds in mm/s.</summary>
/// <param name="Unit">The unit that lengths are shown in.</param>
public sealed record CalcInputs(IReadOnlyDictionary<string, decimal> Given, LengthUnit Unit)
{
    /// <summary>Of a field that has to be filled in.</summary>
    public decimal this[string name] => Given[name];

    /// <summary>Null where it was left out.</summary>
    public decimal? Find(string name) => Given.TryGetValue(name, out var value) ? value : null;

    public bool Has(string tick) => Given.ContainsKey(tick);

    public string Mm(decimal mm) => Length.Show(mm, Unit);

    /// <summary>Reads every field; all that is wrong is said at once.</summary>
    /// <returns>The inputs, or each field with what to type instead.</returns>
    public static (CalcInputs? Inputs, IReadOnlyList<Refusal> Wrong) Read(
        Calculator calculator,
        IReadOnlyDictionary<string, string?> typed,
        LengthUnit unit = LengthUnit.Mm
    )
    {
        var given = new Dictionary<string, decimal>(StringComparer.Ordinal);
        var wrong = new List<Refusal>();
        foreach (var name in typed.Keys.Where(k => calculator.Inputs.All(i => i.Name != k)))
            wrong.Add(SettingsProblems.CalcUnknown.Refuse(name, name));
        foreach (var input in calculator.Inputs)
        {
            var text = typed.GetValueOrDefault(input.Name);
            if (string.IsNullOrWhiteSpace(text))
            {
                if (input.Needed)
                    wrong.Add(SettingsProblems.CalcMissing.Refuse(input.Name, input.Label, input.Example));
                continue;
            }
            var read = input.Kind switch
            {
                InputKind.Length => Length.Parse(text, unit),
                InputKind.Speed => Speed.Parse(text),
                InputKind.Tick => Tick(text),
                _ => Number(input, text),
            };
            if (read.Refusal is { } refusal)
                wrong.Add(refusal with { Field = input.Name });
            else if (input.Kind != InputKind.Tick || read.Value != 0)
                given[input.Name] = read.Value;
        }
        return wrong.Count > 0 ? (null, wrong) : (new CalcInputs(given, unit), []);
    }

    private static Result<decimal> Tick(string text) =>
        text.Trim().ToLowerInvariant() switch
        {
            "true" or "yes" => 1m,
            "false" or "no" => 0m,
            _ => SettingsProblems.CalcNumber.Refuse(null, "true or false"),
        };

    private static Result<decimal> Number(CalcInput input, string text)
    {
        if (
            !decimal.TryParse(
                text.Trim().Replace(',', '.'),
                NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign | NumberStyles.AllowExponent,
                CultureInfo.InvariantCulture,
                out var value
            )
        )
            return SettingsProblems.CalcNumber.Refuse(null, $"a number such as {input.Example}");
        if (input.Kind == InputKind.Count && value != Math.Floor(value))
            return SettingsProblems.CalcNumber.Refuse(null, $"a whole number such as {input.Example}");
        var low = input.Least is { } least ? value < least : value <= 0;
        return low || value > input.Most
            ? SettingsProblems.CalcNumber.Refuse(
                null,
                input.Least is { } from
                    ? $"a number from {from:0.####} to {input.Most:0.####}"
                    : $"a number above 0, up to {input.Most:0.####}"
            )
            : value;
    }
}
