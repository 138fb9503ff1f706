using System.Globalization;

namespace VelvetGate.Core.Booking;

/// <summary>What calendars elsewhere call the times of the house.</summary>
public static class FeedWords
{
    public const string Booking = "booking";
    public const string Supervises = "supervises";
    public const string Taken = "taken";
    public const string Duty = "duty";
    private const string NotPermission = "A booking gives time, not permission: the gate is asked again at the machine.";

    /// <summary>One run in words: drawing, stock and tag, as far as they are known.</summary>
    public static string Run(string? drawing, string material, decimal thicknessMm, string? tag)
    {
        var stock = $"{thicknessMm.ToString("0.##", CultureInfo.InvariantCulture)} mm {material}{(tag is null ? "" : $" ({tag})")}";
        return drawing is null ? stock : $"{drawing}, {stock}";
    }

    /// <param name="what">One of the words above, class or closure.</param>
    /// <param name="title">The machine of a booking; the title of a line of the calendar.</param>
    /// <param name="name">Who is on duty.</param>
    public static (string Title, string Description) Of(string what, string title, string name, IReadOnlyList<string> runs) =>
        what switch
        {
            Booking => (
                runs.Count == 0 ? title : $"{title}: {runs[0]}{(runs.Count > 1 ? $" and {runs.Count - 1} more" : "")}",
                string.Join("\n", [.. runs, NotPermission])
            ),
            Supervises => ($"Supervise on {title}", "You stay for the whole time; tell a steward at once if you cannot."),
            Taken => ($"{title}: booked", ""),
            Duty => ($"On duty: {name}", ""),
            "class" => ($"Class: {title}", ""),
            _ => ($"Closed: {title}", ""),
        };
}
