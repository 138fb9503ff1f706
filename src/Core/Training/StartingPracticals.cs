using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Training;

/// <summary>
/// The practical sheets that ship, one for each kind of laser. Source: common practice, as the checks and the fire drill of this house have
/// them; the maker's manual goes before any of it.
/// </summary>
public static class StartingPracticals
{
    private const string Co2 = "practical-co2";
    private const string Diode = "practical-diode";
    private const string Marker = "practical-marker";

    public static IReadOnlyList<PracticalSheet> All { get; } =
    [
        new(
            Co2,
            "Practical on a CO₂ cutter",
            1,
            [
                .. Before,
                Critical("water", "Sees that the coolant runs and its reading is in range before the laser is enabled"),
                Critical("fan", "Starts extraction and air assist before the cut, and feels that they run"),
                Step("clean", "Looks at bed, tray and lens, and takes scraps and dust out"),
                Critical("focus", "Sets the focus for this sheet, and clears the tool away"),
                .. Cut,
                .. Fire,
                .. After,
            ]
        ),
        new(
            Diode,
            "Practical on an enclosed diode cutter",
            1,
            [
                .. Before,
                Critical("fan", "Starts extraction and air assist before the cut, and feels that they run"),
                Critical("clear", "Says that clear and blue stock lets this beam through, and what lies below it then"),
                Critical("cover", "Shows that the cover is whole and shut, and that opening it stops the beam"),
                Critical("focus", "Sets the focus for this sheet, and clears the tool away"),
                .. Cut,
                .. Fire,
                .. After,
            ]
        ),
        new(
            Marker,
            "Practical on a marking laser",
            1,
            [
                .. Before,
                Critical(
                    "shield",
                    "Shows that the enclosure is shut and whole, or that everybody in the room wears eyewear for this wavelength"
                ),
                Critical("fan", "Starts extraction before marking, and feels that it runs"),
                Critical("shiny", "Says where a shiny part may throw the beam, and sets it at an angle or covers it"),
                Critical("focus", "Sets the distance with the gauge, not by eye"),
                .. Cut,
                .. Fire,
                .. After,
            ]
        ),
    ];

    /// <summary>The sheet for a kind of laser.</summary>
    public static string For(LaserKind kind) =>
        kind switch
        {
            LaserKind.Co2 => Co2,
            LaserKind.Diode => Diode,
            _ => Marker,
        };

    private static IEnumerable<PracticalStep> Before =>
        [
            Step("book", "Opens their own booking and reads what the gate says"),
            Step("tidy", "Ties hair back, takes loose things off, clears bags and the way out"),
            Critical("kit", "Points at the stop, the extinguisher and the way out before anything is switched on"),
            Critical("identify", "Says what the sheet is and how they know; would not cut it if they did not"),
            Critical("fumes", "Names a material that is never cut here, and why"),
            Step("measure", "Measures the sheet’s thickness in more than one place"),
        ];

    private static IEnumerable<PracticalStep> Cut =>
        [
            Step("frame", "Frames the job, and looks for clamps and edges in the way"),
            Step("settings", "Takes settings for this material and thickness, and runs a test piece where it is untested"),
            Critical("stay", "Never leaves while the beam may fire, and keeps their eyes on it"),
            Critical("stop", "Pauses and stops the machine when asked, without searching for how"),
            Step("signs", "Says which smoke, sparks and flicker are usual, and which are not"),
        ];

    private static IEnumerable<PracticalStep> Fire =>
        [
            Critical(
                "flame",
                "Says what comes first at a flame that stays: stop the job, air assist off, lid shut, extraction stays on; and "
                    + "from where on they leave and call"
            ),
            Step("report", "Knows whom to tell after a flare-up, and that it is always told"),
        ];

    private static IEnumerable<PracticalStep> After =>
        [
            Critical("wait", "Waits for the air to clear before opening the lid"),
            Step("embers", "Looks for embers, and puts scraps into the lidded metal bin"),
            Step("log", "Writes the run down and leaves the machine as the next person wants it"),
        ];

    private static PracticalStep Step(string id, string text) => new(id, text, false);

    private static PracticalStep Critical(string id, string text) => new(id, text, true);
}
