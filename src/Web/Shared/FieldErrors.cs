using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Web.Shared;

/// <summary>
/// Reads what a request holds, field by field, and collects what is wrong with each: the one way to check a request. What was wrong
/// comes back as a value nobody uses, for <see cref="Any"/> is asked before anything is done.
/// </summary>
public sealed class FieldErrors
{
    private readonly Dictionary<string, List<string>> _errors = [];

    public bool Any => _errors.Count > 0;

    public void Add(string field, string text)
    {
        if (!_errors.TryGetValue(field, out var list))
            _errors[field] = list = [];
        list.Add(text);
    }

    public void Add(IEnumerable<Refusal> refusals)
    {
        foreach (var refusal in refusals)
            Add(refusal.Field ?? "form", refusal.Text);
    }

    /// <summary>A text that has to be there.</summary>
    /// <param name="missing">What to do where it is not.</param>
    public string Need(string field, string? text, string missing)
    {
        if (string.IsNullOrWhiteSpace(text))
            Add(field, missing);
        return text?.Trim() ?? "";
    }

    /// <summary>A text of at most so many characters.</summary>
    public void AtMost(string field, string? text, int characters)
    {
        if (text?.Length > characters)
            Add(field, $"Keep it to {characters} characters.");
    }

    /// <summary>The written reason that an act on somebody needs.</summary>
    /// <param name="missing">What to write, where the usual words do not say it.</param>
    public string Reason(string field, string? text, string? missing = null)
    {
        if (WrittenReason.Wrong(text) is { } wrong)
            Add(field, missing is not null && string.IsNullOrWhiteSpace(text) ? missing : wrong.Text);
        return text?.Trim() ?? "";
    }

    /// <summary>One of the words of an enumeration, as the API writes them; a number is none.</summary>
    public T Word<T>(string field, string? text, string missing)
        where T : struct, Enum
    {
        if (Typed.Word<T>(text) is { } word)
            return word;
        Add(field, missing);
        return default;
    }

    /// <summary>The unit in which lengths without one are meant.</summary>
    public LengthUnit Unit(string? text)
    {
        var unit = Length.ParseChoice(text);
        if (unit.Refusal is not { } wrong)
            return unit.Value;
        Add("unit", wrong.Text);
        return LengthUnit.Mm;
    }

    /// <summary>A UUID; null where nothing is given, or none.</summary>
    public Guid? Id(string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        if (Guid.TryParse(text, out var id))
            return id;
        Add(field, "That is not a UUID.");
        return null;
    }

    /// <summary>A length, in mm.</summary>
    public decimal Mm(string field, string? text, LengthUnit unit)
    {
        var length = Length.Parse(text, unit);
        if (length.Refusal is not { } wrong)
            return length.Value;
        Add(field, wrong.Text);
        return 0;
    }

    /// <summary>What the beam does, each once.</summary>
    public IReadOnlyList<Operation> Operations(string field, IEnumerable<string?>? words)
    {
        var read = new List<Operation>();
        foreach (var word in words ?? [])
        {
            if (Typed.Word<Operation>(word) is { } operation)
                read.Add(operation);
            else
                Add(field, $"“{word}” is not an operation. Use cut, score or engrave.");
        }
        return [.. read.Distinct()];
    }

    /// <returns>Null where none is typed.</returns>
    public LocalDate? Day(string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        if (Typed.Day(text) is { } day)
            return day;
        Add(field, $"“{text}” is not a date. Write it like 2027-05-31.");
        return null;
    }

    /// <summary>A day that has to be there.</summary>
    public LocalDate NeedDay(string field, string? text, string missing)
    {
        if (string.IsNullOrWhiteSpace(text))
            Add(field, missing);
        return Day(field, text) ?? default;
    }

    /// <summary>The end of a last day on the house's calendar; null where none is typed.</summary>
    public Instant? LastDay(string field, string? text, HouseRules rules) =>
        Day(field, text) is { } day ? new LastDay(day).End(rules.Clock) : null;

    /// <summary>A time of day, such as 18:00.</summary>
    public LocalTime? Time(string field, string? text)
    {
        if (Typed.Time(text) is { } time)
            return time;
        Add(field, "Write the time like 18:00.");
        return null;
    }

    /// <summary>A moment with its offset: without one it could be two.</summary>
    /// <param name="missing">What to write where it cannot be read.</param>
    public Instant? Moment(string field, string? text, string missing)
    {
        if (Typed.Moment(text) is { } moment)
            return moment;
        Add(field, missing);
        return null;
    }

    public ProblemHttpResult Answer() => Problems.Fields(_errors.ToDictionary(e => e.Key, e => e.Value.ToArray()));
}

/// <summary>What people type.</summary>
internal static class Texts
{
    internal static string? NullIfBlank(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}
