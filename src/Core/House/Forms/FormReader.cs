using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using NodaTime.Text;

namespace VelvetGate.Core.House.Forms;

/// <summary>Reads what somebody filled in, field by field, and says of each what to type instead.</summary>
public static class FormReader
{
    private const int MostRows = 40;

    /// <summary>
    /// Numbers may come as JSON numbers (lengths then are millimetres) or as typed text (a bare length is in <paramref name="unit"/>).
    /// </summary>
    /// <returns>A JSON object with dotted keys unfolded, and one refusal for each field at fault.</returns>
    public static (JsonObject Values, IReadOnlyList<Refusal> Errors) Read(
        IReadOnlyList<FormField> fields,
        JsonElement input,
        LengthUnit unit,
        string prefix = ""
    )
    {
        var values = new JsonObject();
        var errors = new List<Refusal>();
        if (input.ValueKind != JsonValueKind.Object)
            return (values, [HouseProblems.FormMissing.Refuse("fields")]);
        if (prefix.Length == 0 && !IsText(input))
            return (values, [HouseProblems.FormText.Refuse("fields")]);
        foreach (var field in fields)
        {
            var given = Find(input, field.Key);
            var read = Value(field, given, unit, prefix + field.Key, errors);
            if (read is not null)
                Put(values, field.Key, read);
        }
        return (values, errors);
    }

    /// <summary>False where a text or a name escapes half a surrogate pair: JSON allows it, and no text is it.</summary>
    private static bool IsText(JsonElement value)
    {
        try
        {
            return value.ValueKind switch
            {
                JsonValueKind.String => value.GetString() is not null,
                JsonValueKind.Array => value.EnumerateArray().All(IsText),
                JsonValueKind.Object => value.EnumerateObject().All(p => p.Name is not null && IsText(p.Value)),
                _ => true,
            };
        }
        catch (InvalidOperationException)
        {
            return false;
        }
    }

    private static JsonElement? Find(JsonElement input, string key)
    {
        if (input.TryGetProperty(key, out var flat))
            return flat;
        var at = input;
        foreach (var part in key.Split('.'))
        {
            if (at.ValueKind != JsonValueKind.Object || !at.TryGetProperty(part, out at))
                return null;
        }
        return at;
    }

    private static void Put(JsonObject values, string key, JsonNode node)
    {
        var parts = key.Split('.');
        var at = values;
        foreach (var part in parts[..^1])
            at = (JsonObject)(at[part] ??= new JsonObject());
        at[parts[^1]] = node;
    }

    private static JsonNode? Value(FormField field, JsonElement? given, LengthUnit unit, string name, List<Refusal> errors)
    {
        if (
            given is not { } value
            || value.ValueKind is JsonValueKind.Null
            || (value.ValueKind == JsonValueKind.String && string.IsNullOrWhiteSpace(value.GetString()))
        )
        {
            if (field.Kind is FieldKind.Words or FieldKind.Choices or FieldKind.Rows)
                return new JsonArray();
            if (field.Kind == FieldKind.Flag)
                return JsonValue.Create(false);
            if (!field.Optional)
                errors.Add(Bad(name, $"Fill in “{field.Label}”."));
            return null;
        }
        var read = field.Kind switch
        {
            FieldKind.Text => Text(value, FormField.LongestText),
            FieldKind.LongText => Text(value, FormField.LongestLongText),
            FieldKind.Number => Number(field, value),
            FieldKind.Whole => Number(field, value),
            FieldKind.Length => LengthOf(field, value, unit),
            FieldKind.Day => Day(value),
            FieldKind.Choice => Choice(field, value),
            FieldKind.Choices => Choices(field, value),
            FieldKind.Flag => value.ValueKind is JsonValueKind.True or JsonValueKind.False
                ? Ok(JsonValue.Create(value.GetBoolean()))
                : No("Say yes or no."),
            FieldKind.Words => Words(value),
            FieldKind.Hours => Hours(value),
            FieldKind.Colours => Colours(value),
            FieldKind.Rows => Rows(field, value, unit, name, errors),
            _ => throw new InvalidOperationException($"A field kind without a reader: {field.Kind}."),
        };
        if (read.Refusal is not { } refusal)
            return read.Value;
        errors.Add(Bad(name, $"{field.Label}: {refusal.Text}"));
        return null;
    }

    private static Result<JsonNode> Day(JsonElement value) =>
        value.ValueKind == JsonValueKind.String && Typed.Day(value.GetString()) is { } day
            ? Ok(JsonValue.Create(LocalDatePattern.Iso.Format(day)))
            : No("Write the day like 2027-05-31.");

    private static Refusal Bad(string name, string text) => new(HouseProblems.FormField, text, name);

    private static Result<JsonNode> Ok(JsonNode node) => node;

    private static Result<JsonNode> No(string text) => new Refusal(HouseProblems.FormField, text);

    private static Result<JsonNode> Text(JsonElement value, int longest)
    {
        if (value.ValueKind != JsonValueKind.String)
            return No("Write it as text.");
        var text = value.GetString()!.Trim();
        if (text.Length > longest)
            return No($"It is longer than {longest} characters. Shorten it.");
        return text.Any(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t'))
            ? No("It holds a character that cannot be printed.")
            : Ok(JsonValue.Create(text));
    }

    private static Result<JsonNode> Number(FormField field, JsonElement value)
    {
        decimal number;
        if (value.ValueKind == JsonValueKind.Number)
        {
            if (!value.TryGetDecimal(out number))
                return No("That number is out of reach.");
        }
        else if (
            value.ValueKind != JsonValueKind.String
            || !decimal.TryParse(
                value.GetString()!.Trim().Replace(',', '.'),
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out number
            )
        )
        {
            return No("Type a number.");
        }
        if (field.Kind == FieldKind.Whole && number != Math.Truncate(number))
            return No("Type a whole number.");
        return Ranged(field, number, n =>
            n.ToString("0.######", CultureInfo.InvariantCulture) + (field.Unit.Length > 0 ? $" {field.Unit}" : "")
        );
    }

    private static Result<JsonNode> LengthOf(FormField field, JsonElement value, LengthUnit unit)
    {
        decimal mm;
        if (value.ValueKind == JsonValueKind.Number)
        {
            if (!value.TryGetDecimal(out mm))
                return No("That length is out of reach.");
        }
        else
        {
            var typed = value.ValueKind == JsonValueKind.String ? value.GetString()!.Trim() : "";
            var parsed = typed is "0" ? (Result<decimal>)0m : Length.Parse(typed, unit);
            if (parsed.Refusal is { } refusal)
                return refusal;
            mm = parsed.Value;
        }
        return Ranged(field, mm, n => Length.Show(n, unit));
    }

    private static Result<JsonNode> Ranged(FormField field, decimal number, Func<decimal, string> show) =>
        number < field.Min || number > field.Max
            ? No($"It lies between {show(field.Min)} and {show(field.Max)}.")
            : Ok(JsonValue.Create(field.Kind == FieldKind.Whole ? (decimal)(long)number : number));

    private static Result<JsonNode> Choice(FormField field, JsonElement value) =>
        value.ValueKind == JsonValueKind.String && field.Choices!.Any(c => c.Value == value.GetString())
            ? Ok(JsonValue.Create(value.GetString()!))
            : No($"Choose one of {string.Join(", ", field.Choices!.Select(c => c.Value))}.");

    private static Result<JsonNode> Choices(FormField field, JsonElement value)
    {
        if (value.ValueKind != JsonValueKind.Array)
            return No("Choose from the list.");
        var chosen = new JsonArray();
        foreach (var one in value.EnumerateArray())
        {
            var read = Choice(field, one);
            if (read.Refusal is not null)
                return read;
            chosen.Add(read.Value);
        }
        return chosen;
    }

    private static Result<JsonNode> Words(JsonElement value)
    {
        var words = value.ValueKind switch
        {
            JsonValueKind.String => value.GetString()!.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries),
            JsonValueKind.Array =>
            [
                .. value
                    .EnumerateArray()
                    .Where(v => v.ValueKind == JsonValueKind.String)
                    .Select(v => v.GetString()!.Trim())
                    .Where(w => w.Length > 0),
            ],
            _ => [],
        };
        if (words.Any(w => w.Any(char.IsControl)))
            return No("It holds a character that cannot be printed.");
        if (words.Length > MostRows || words.Any(w => w.Length > FormField.LongestText))
            return No($"At most {MostRows} entries of {FormField.LongestText} characters.");
        return new JsonArray([.. words.Distinct().Select(w => (JsonNode)JsonValue.Create(w))]);
    }

    private static Result<JsonNode> Hours(JsonElement value)
    {
        if (value.ValueKind != JsonValueKind.Array)
            return No("Give the hours of the days.");
        var days = new JsonArray();
        var seen = new HashSet<string>();
        foreach (var day in value.EnumerateArray())
        {
            if (
                day.ValueKind != JsonValueKind.Object
                || !day.TryGetProperty("day", out var name)
                || !Enum.TryParse<NodaTime.IsoDayOfWeek>(name.ToString(), ignoreCase: true, out var weekday)
                || weekday == NodaTime.IsoDayOfWeek.None
                || !Enum.IsDefined(weekday)
            )
                return No("A day is one of monday to sunday.");
            if (!seen.Add(weekday.ToString()))
                return No($"{weekday} stands there twice.");
            if (TimeOf(day, "opens") is not { } opens || TimeOf(day, "closes") is not { } closes)
                return No($"{weekday}: write times like 09:30.");
            if (closes != NodaTime.LocalTime.Midnight && closes < opens)
                return No($"{weekday} closes before it opens. Midnight is 00:00.");
            days.Add(JsonSerializer.SerializeToNode(new OpeningDay(weekday, opens, closes), GateJson.Options));
        }
        return days;
    }

    private static NodaTime.LocalTime? TimeOf(JsonElement day, string name)
    {
        var text = day.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString()! : "";
        return Typed.Time(text) ?? (LocalTimePattern.ExtendedIso.Parse(text) is { Success: true } full ? full.Value : null);
    }

    private static Result<JsonNode> Colours(JsonElement value)
    {
        var map = new Dictionary<string, StrokeMeaning>();
        var pairs = value.ValueKind == JsonValueKind.Object && value.TryGetProperty("strokes", out var strokes) ? strokes : value;
        if (pairs.ValueKind != JsonValueKind.Object)
            return No("Give colours with what each stands for.");
        var read = ColourMap.Parse(string.Join(",", pairs.EnumerateObject().Select(p => $"{p.Name}={p.Value}")));
        return read.Refusal is { } refusal ? refusal : Ok(JsonSerializer.SerializeToNode(read.Value, GateJson.Options)!);
    }

    private static Result<JsonNode> Rows(FormField field, JsonElement value, LengthUnit unit, string name, List<Refusal> errors)
    {
        if (value.ValueKind != JsonValueKind.Array)
            return No("Give a list of rows.");
        if (value.GetArrayLength() > MostRows)
            return No($"At most {MostRows} rows.");
        var rows = new JsonArray();
        foreach (var (row, i) in value.EnumerateArray().Select((r, i) => (r, i)))
        {
            var (read, wrong) = Read(field.Parts!, row, unit, $"{name}[{i}].");
            errors.AddRange(wrong);
            rows.Add(read);
        }
        return rows;
    }
}
