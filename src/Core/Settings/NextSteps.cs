namespace VelvetGate.Core.Settings;

/// <param name="After">How it came out.</param>
/// <param name="Do">What comes next.</param>
public sealed record NextStep(string After, string Do);

/// <summary>
/// From a result to the next step. Never slower to force a cut: a second pass at the same setting is twice the energy, which the gate
/// shuts. Source: common practice; half of the energy and once are house practice.
/// </summary>
public static class NextSteps
{
    public static IReadOnlyList<NextStep> All { get; } =
    [
        new("Charred", "Faster, or less power: one step, and a test piece."),
        new(
            "Not through, sheet not moved",
            "One more pass over only the lines that are not through, at most half the energy, same focus, hand at the stop. Once."
        ),
        new("Not through twice", "A new test piece. Never slower."),
        new("Plywood that cuts very badly", "Report the sheet: its glue or a knot may stop the beam."),
        new("It flares again and again", "Air assist on? Focus set? Then a lower frequency."),
        new("Corrugated card not through", "Focus lower, into the card. Never slower."),
        new("Thick plywood", "Several fast passes. Never one slow one."),
    ];
}
