using System.Text.Json;
using System.Text.Json.Serialization;

namespace VelvetGate.Core.Training;

/// <summary>A page as it ships.</summary>
/// <param name="Body">Markdown.</param>
/// <param name="Check">The question that acknowledges it: its options, of which the first is right.</param>
public sealed record StartingReading(string Id, string Title, string Body, string Check, IReadOnlyList<string> Options);

/// <summary>
/// The laser safety course that a new house starts with; it may change every word of it. Facts: common practice, as the rules of this house
/// have them.
/// </summary>
public static class StartingTraining
{
    private static readonly JsonSerializerOptions Reading = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    };

    /// <summary>In the order of reading.</summary>
    public static IReadOnlyList<StartingReading> Readings { get; } =
    [
        Page(
            "fire",
            "Fire",
            "A flame stays for five seconds. The lid …",
            "stays shut",
            "is opened to look",
            "is opened to take the sheet out"
        ),
        Page("fumes", "Fumes", "What takes carbon monoxide away?", "Only fresh air", "The filter", "Cutting more slowly"),
        Page(
            "eyes",
            "Eyes and skin",
            "Glasses are chosen for …",
            "the wavelength of this laser",
            "the colour of the lens",
            "the size of the machine"
        ),
        Page(
            "voltage",
            "High voltage, water and moving parts",
            "A part fell behind a panel. You …",
            "leave it and tell a steward",
            "switch off and open the panel",
            "pull the plug and open the panel"
        ),
        Page(
            "materials",
            "Materials",
            "You do not know what a sheet is. You …",
            "do not cut it",
            "cut a corner to find out",
            "cut it on low power"
        ),
        Page(
            "conduct",
            "Conduct",
            "May you leave while the beam may fire?",
            "No, not for a moment",
            "Yes, with the timer set",
            "Yes, if somebody else is in the room"
        ),
    ];

    /// <summary>Pages to read further. No path asks for them, until a house puts them on one.</summary>
    public static IReadOnlyList<StartingReading> Further { get; } =
    [
        Page(
            "parts",
            "The parts, and the way of the beam",
            "Cuts are good in one corner and poor in another. You …",
            "tell a steward, and turn nothing",
            "turn the nearest mirror a little",
            "run it again with more power"
        ),
        Page(
            "diode",
            "Diode machines: their beam and their wiring",
            "Glasses for the gas machine at a blue diode …",
            "do not help",
            "help a little",
            "are better than none, so they do"
        ),
        Page(
            "lid",
            "The lid: fully open or fully shut",
            "A run goes wrong. You …",
            "use the stop device",
            "open the lid",
            "lift the lid a hand’s breadth to look"
        ),
    ];

    public static IReadOnlyList<Question> Questions { get; } =
        JsonSerializer.Deserialize<List<Question>>(Resource("questions.json"), Reading)!;

    private static StartingReading Page(string id, string title, string check, params string[] options) =>
        new(id, title, Resource($"{id}.md"), check, options);

    private static string Resource(string name)
    {
        using var stream = typeof(StartingTraining).Assembly.GetManifestResourceStream($"training.{name}")
            ?? throw new InvalidOperationException($"{name} did not ship.");
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}
