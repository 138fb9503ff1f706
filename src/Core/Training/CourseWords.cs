using VelvetGate.Core.House;

namespace VelvetGate.Core.Training;

/// <summary>
/// What the pages of the course leave to the house: <c>{pause}</c> and <c>{watch}</c> are filled in from its rules when a page is read, so
/// that page, card and rule never differ.
/// </summary>
public static class CourseWords
{
    /// <summary>A page as this house reads it.</summary>
    public static string Fill(string body, HouseRules rules) =>
        body.Replace("{pause}", Pause(rules), StringComparison.Ordinal)
            .Replace(
                "{watch}",
                rules.FireWatchMinutes.ToString(System.Globalization.CultureInfo.InvariantCulture),
                StringComparison.Ordinal
            );

    private static string Pause(HouseRules rules) =>
        rules.PauseMinutes == 0
            ? "If you must go: stop the job, wait until the lid may open, then go. This house allows no pause to step away."
            : $"If you must go: stop the job, wait until the lid may open, then go. This house allows a pause of {rules.PauseMinutes} "
                + "minutes at most, only where it really stops the beam, with the extraction on, and never after a flame or a glow.";
}
