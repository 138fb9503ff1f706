using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Calculators;

namespace VelvetGate.Core.Settings;

/// <summary>Where a setting comes from. The order is whom a house believes first.</summary>
public enum SettingOrigin
{
    /// <summary>Found by somebody of the house’s staff.</summary>
    Technician,
    Member,

    /// <summary>Published with the machine or the stock: only a start.</summary>
    Maker,
    FirstGuess,
}

/// <summary>What the sheet is covered with.</summary>
public enum Mask
{
    None,

    /// <summary>Paper tape, wet: less smudge on plywood.</summary>
    Damp,

    /// <summary>Paper tape, dry: a crisp upper edge on acrylic.</summary>
    Dry,
}

/// <summary>What a machine is set to for one material, thickness and operation. Lengths in mm, speeds in mm/s.</summary>
/// <param name="PowerPercent">As it is typed at the machine.</param>
/// <param name="Watts">Delivered: per cents of two machines cannot be compared.</param>
/// <param name="PitchMm">Between two lines of engraving; null for lines.</param>
/// <param name="Offsets">Up to three offsets of intensity, in per cent.</param>
/// <param name="FocusOffsetMm">Below the face where it is above 0.</param>
/// <param name="MaskOf">What the tape is made of; empty without one.</param>
public sealed record SettingValues(
    MachineId MachineId,
    MaterialId MaterialId,
    decimal ThicknessMm,
    Operation Operation,
    decimal PowerPercent,
    decimal Watts,
    decimal SpeedMmS,
    int Passes,
    decimal? FrequencyHz,
    decimal? PitchMm,
    IReadOnlyList<decimal> Offsets,
    decimal FocusOffsetMm,
    int? FanLevel,
    bool AirAssist,
    string Fixture,
    Mask Mask,
    string MaskOf,
    SettingOrigin Origin,
    string Note
)
{
    /// <summary>What each millimetre of line gets, in J/mm.</summary>
    public decimal JPerMm => LineEnergy.Of(Watts, SpeedMmS, Passes);
}

/// <summary>How runs with a setting came out, since the machine’s optics were last touched.</summary>
/// <param name="Flames">Ever: no service makes a flame undone.</param>
/// <param name="LastClean">When the last clean one ended; null for none.</param>
public sealed record SettingResults(int Clean = 0, int Charred = 0, int NotThrough = 0, int Flames = 0, Instant? LastClean = null)
{
    public static SettingResults None { get; } = new();

    public string Says =>
        string.Join(
            ", ",
            new[] { (Clean, "clean"), (Charred, "charred"), (NotThrough, "not through"), (Flames, "flame") }
                .Where(r => r.Item1 > 0)
                .Select(r => $"{r.Item2} {r.Item1}")
        )
            is { Length: > 0 } said
            ? said
            : "none here";
}

/// <summary>An entry of the house’s library.</summary>
/// <param name="Number">Counts up in a house, for people.</param>
public sealed record Setting(Guid Id, int Number, SettingValues Values, PersonId By, Instant At, SettingResults Results)
{
    /// <summary>What people call an entry.</summary>
    /// <param name="number">0 for what a machine is set to without an entry.</param>
    public static string Name(int number) => number == 0 ? "This setting" : $"E-{number:0000}";
}
