using System.Text.Json;
using System.Text.Json.Nodes;
using NodaTime;
using VelvetGate.Core.House.Forms;

namespace VelvetGate.Core.House;

/// <summary>What reading a filled-in sheet comes to: the record, or every field at fault.</summary>
public sealed record SheetReading<T>(T? Value, IReadOnlyList<Refusal> Errors)
    where T : class;

/// <summary>One house rule and what it says; an empty value where that is a long text.</summary>
public sealed record RuleSays(string Key, string Label, string Value, string? Unit);

/// <summary>One rule that differs between two versions.</summary>
public sealed record RuleDifference(string Key, string Label, string Unit, string Before, string After);

/// <summary>Turns filled-in sheets into records, and holds them against what no field says alone.</summary>
public static class SheetChecks
{
    public static SheetReading<RoomSpec> Room(JsonElement input)
    {
        var (values, errors) = FormReader.Read(HouseSheets.Room, input, LengthUnit.Mm);
        if (errors.Count > 0)
            return new(null, errors);
        foreach (var field in HouseSheets.Room.Where(f => f is { Kind: FieldKind.Text, Optional: true }))
            values[field.Key] ??= "";
        return new(GateJson.Read<RoomSpec>(values.ToJsonString()), []);
    }

    public static SheetReading<HouseRules> Rules(JsonElement input)
    {
        var (values, errors) = FormReader.Read(HouseSheets.Rules, input, LengthUnit.Mm);
        if (errors.Count > 0)
            return new(null, errors);
        foreach (var field in HouseSheets.Rules.Where(f => f is { Kind: FieldKind.Text, Optional: true }))
            values[field.Key] ??= "";
        var rules = GateJson.Read<HouseRules>(values.ToJsonString());
        return Checked(rules, Wrong(rules));
    }

    /// <summary>House rules with some of them said otherwise.</summary>
    /// <param name="changes">By key, as on the form; what is not named stays.</param>
    public static SheetReading<HouseRules> With(HouseRules rules, JsonElement changes)
    {
        if (changes.ValueKind != JsonValueKind.Object)
            return new(null, [HouseProblems.FormMissing.Refuse("rules")]);
        var named = changes.EnumerateObject().Select(p => p.Name).ToHashSet(StringComparer.Ordinal);
        var fields = HouseSheets.Rules.Where(f => named.Contains(f.Key)).ToList();
        var unknown = named.Except(fields.Select(f => f.Key)).ToList();
        if (unknown.Count > 0)
            return new(null, [.. unknown.Select(u => Bad(u, $"There is no house rule “{u}”."))]);
        var (values, errors) = FormReader.Read(fields, changes, LengthUnit.Mm);
        if (errors.Count > 0)
            return new(null, errors);
        var all = Flat(rules).AsObject();
        foreach (var field in fields)
            all[field.Key] = values[field.Key]?.DeepClone() ?? (field is { Kind: FieldKind.Text, Optional: true } ? "" : null);
        var read = GateJson.Read<HouseRules>(all.ToJsonString());
        return Checked(read, Wrong(read));
    }

    private static IEnumerable<Refusal> Wrong(HouseRules rules)
    {
        if (DateTimeZoneProviders.Tzdb.GetZoneOrNull(rules.ZoneId) is null)
            yield return Bad("zoneId", "There is no such time zone. Write it like Europe/London.");
        if (rules.Hours.Count == 0)
            yield return Bad("hours", "Give the opening hours; equal times mean closed.");
        if (rules.AloneFromAge < rules.AttendFromAge)
            yield return Bad("aloneFromAge", "Nobody is alone before they may attend.");
        if (rules.HoursPerPersonWeek < rules.HoursPerPersonDay)
            yield return Bad("hoursPerPersonWeek", "A week holds at least a day’s hours.");
        if (rules.PeakHoursPerPersonWeek > 0 && rules.PeakToHour <= rules.PeakFromHour)
            yield return Bad("peakToHour", "Peak hours end after they begin.");
        if (FireWatch.MayLast(rules.FireWatchMinutes, rules.FireWatchPaper) is { } shorter)
            yield return shorter;
        if (rules.Pack == Packs.School && rules.FlameTestOffered)
            yield return Bad("flameTestOffered", "A school does not offer the flame test.");
        if (rules.Pack == Packs.School && rules.PolycarbonateOffered)
            yield return Bad("polycarbonateOffered", "A school does not offer polycarbonate.");
    }

    /// <param name="first">There are no rules yet that it could be the same as.</param>
    /// <returns>Null when a new version would say something else.</returns>
    public static Refusal? Unchanged(bool first, IReadOnlyList<RuleDifference> changes) =>
        !first && changes.Count == 0 ? HouseProblems.RulesSame.Refuse("fields") : null;

    /// <summary>What changes from one version to another, in the order of the sheet.</summary>
    public static IReadOnlyList<RuleDifference> Compare(HouseRules before, HouseRules after)
    {
        var (a, b) = (Flat(before), Flat(after));
        return
        [
            .. HouseSheets
                .Rules.Where(f => Show(f, a) != Show(f, b))
                .Select(f => new RuleDifference(f.Key, f.Label, f.Unit, Show(f, a), Show(f, b))),
        ];
    }

    /// <summary>What a house rule is called and says, by its name in <see cref="HouseRules"/>.</summary>
    /// <exception cref="InvalidOperationException">No form has it.</exception>
    public static RuleSays Says(string setting, HouseRules rules) => Says([setting], rules)[0];

    /// <summary>The same of several, in their order.</summary>
    public static IReadOnlyList<RuleSays> Says(IReadOnlyCollection<string> settings, HouseRules rules)
    {
        if (settings.Count == 0)
            return [];
        var flat = Flat(rules);
        return [.. settings.Select(s => Says(s, flat))];
    }

    private static RuleSays Says(string setting, JsonNode flat)
    {
        var field = HouseSheets.Rules.Single(f => string.Equals(f.Key, setting, StringComparison.OrdinalIgnoreCase));
        return new RuleSays(field.Key, field.Label, field.Kind is FieldKind.LongText ? "" : Show(field, flat), field.Unit);
    }

    private static JsonNode Flat(HouseRules rules) => JsonNode.Parse(GateJson.Write(rules))!;

    /// <summary>Opening hours in few words: days in a row with the same hours stand together.</summary>
    private static string Week(JsonArray days)
    {
        var runs = new List<(string First, string Last, string Open)>();
        foreach (var day in days)
        {
            var name = char.ToUpperInvariant(day!["day"]!.ToString()[0]) + day["day"]!.ToString()[1..3];
            var (opens, closes) = (day["opens"]!.ToString()[..5], day["closes"]!.ToString()[..5]);
            var open = opens == closes ? "closed" : $"{opens} to {closes}";
            if (runs.Count > 0 && runs[^1].Open == open)
                runs[^1] = runs[^1] with { Last = name };
            else
                runs.Add((name, name, open));
        }
        return string.Join("; ", runs.Select(r => r.First == r.Last ? $"{r.First} {r.Open}" : $"{r.First} to {r.Last} {r.Open}"));
    }

    private static string Show(FormField field, JsonNode rules) =>
        (field.Kind, rules[field.Key]) switch
        {
            (_, null) => "",
            (FieldKind.Flag, var flag) => flag!.GetValue<bool>() ? "yes" : "no",
            (FieldKind.Choice, var word) => field.Choices!.FirstOrDefault(c => c.Value == word!.GetValue<string>())?.Text
                ?? word!.ToString(),
            (FieldKind.Hours, var days) => Week(days!.AsArray()),
            (FieldKind.Colours, var map) => string.Join(", ", map!["strokes"]!.AsObject().Select(p => $"{p.Key} {p.Value}")),
            (FieldKind.Number or FieldKind.Whole, var number) => decimal.Parse(
                    number!.ToJsonString(),
                    System.Globalization.CultureInfo.InvariantCulture
                )
                .ToString("0.######", System.Globalization.CultureInfo.InvariantCulture),
            (_, var text) => text!.ToString(),
        };

    internal static SheetReading<T> Checked<T>(T value, IEnumerable<Refusal> wrong)
        where T : class
    {
        var errors = wrong.ToList();
        return errors.Count > 0 ? new(null, errors) : new(value, []);
    }

    internal static Refusal Bad(string field, string text) => new(HouseProblems.FormField, text, field);
}
