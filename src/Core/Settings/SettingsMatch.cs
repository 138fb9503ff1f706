namespace VelvetGate.Core.Settings;

/// <summary>
/// Whether settings are for the sheet at hand: the thickness they are for over the thickness measured, or the energy given over the energy
/// needed. The known fire, settings for a quarter inch on an eighth, is exactly 2. Limits: house practice.
/// </summary>
/// <param name="Ratio">Exact: what shows fewer digits cuts them, and never rounds into a milder word.</param>
/// <param name="Code">Null where they fit.</param>
public sealed record SettingsMatch(decimal Ratio, Standing Standing, string? Code, string Says)
{
    public const decimal Warm = 1.25m;
    public const decimal Hot = 1.6m;
    public const decimal Double = 2m;
    public const decimal Weak = 0.8m;

    /// <param name="given">The thickness the settings are for, in mm; or energy in J/mm. Above 0.</param>
    /// <param name="needed">The thickness measured, or the energy needed: in the same unit, above 0.</param>
    public static SettingsMatch Of(decimal given, decimal needed)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(given);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(needed);
        // Compared by products: a quotient of decimals could fall on the wrong side of its limit.
        return given switch
        {
            _ when given >= Double * needed => new(
                given / needed,
                Standing.Shut,
                "settings.double",
                "Twice the energy or more: this is how sheets catch fire. Use settings for this thickness."
            ),
            _ when given >= Hot * needed => new(
                given / needed,
                Standing.Ask,
                "settings.hot",
                "Far too much energy. A test piece on this sheet, or another setting, clears it; nobody’s word does."
            ),
            _ when given >= Warm * needed => new(
                given / needed,
                Standing.Caution,
                "settings.warm",
                "More energy than this sheet needs: it chars and may flare. Hand at the stop."
            ),
            _ when given <= Weak * needed => new(
                given / needed,
                Standing.Caution,
                "settings.weak",
                "It will not cut through. Make several passes; never slow down to force it."
            ),
            _ => new(given / needed, Standing.Clear, null, "These settings are for a sheet of this thickness."),
        };
    }

    /// <summary>Three decimals, cut.</summary>
    public static string Show(decimal ratio) =>
        (Math.Truncate(ratio * 1000) / 1000).ToString("0.00#", System.Globalization.CultureInfo.InvariantCulture);
}
