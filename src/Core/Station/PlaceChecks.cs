using System.Globalization;
using NodaTime;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Station;

/// <summary>What is looked at in one place, with one press.</summary>
/// <param name="Id">walk, bed, head or power.</param>
/// <param name="FanRuns">The extraction runs from here on.</param>
public sealed record PlaceCheck(string Id, string Title, IReadOnlyList<string> Lines, bool FanRuns = false);

/// <summary>The session before this one.</summary>
/// <param name="BeamMinutes">That passed since the long list was last gone through.</param>
/// <param name="Supervisor">Who stood beside it; null for nobody.</param>
public sealed record LastSession(PersonId Person, Instant Ended, decimal BeamMinutes, PersonId? Supervisor = null);

/// <summary>
/// The looks before a run, by the place one stands: kit, hoses, bed, nozzle and lens before power, the head's way after. Source: common
/// practice.
/// </summary>
public static class PlaceChecks
{
    /// <summary>Idle for longer, the long list comes again. House practice; so are the minutes of beam.</summary>
    public static readonly Duration IdleAtMost = Duration.FromHours(4);

    public const int BeamMinutesAtMost = 60;

    /// <param name="last">Null where nobody ran it before.</param>
    /// <param name="supervisor">Of this session: under the same one as before, the long list is gone through once a lesson.</param>
    public static IReadOnlyList<PlaceCheck> For(
        MachineSpec machine,
        LastSession? last,
        PersonId person,
        Instant now,
        PersonId? supervisor = null
    )
    {
        var same = last is not null && (last.Person == person || (supervisor is not null && last.Supervisor == supervisor));
        var whole = last is null || !same || now - last.Ended > IdleAtMost || last.BeamMinutes >= BeamMinutesAtMost;
        return whole ? [Walk(machine), Bed(machine), Head, Power(machine)] : [Walk(machine), Bed(machine)];
    }

    private static PlaceCheck Walk(MachineSpec machine)
    {
        var station = machine.Station;
        var fan = station?.ExtractionSwitch is { Length: > 0 } where ? $"Extraction on: {where}" : "Extraction on, and heard";
        return new(
            "walk",
            "Walk round",
            [
                "Extinguisher and blanket where they belong, way out free",
                "Hoses, cables, window and lid whole",
                fan,
                .. station?.Cooling is Cooling.Chiller or Cooling.Bucket
                    ?
                    [
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"Cooling on, the water moves, {station.CoolantColdC:0.#} to {station.CoolantCautionC:0.#} °C"
                        ),
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"Above {station.CoolantAskC:0.#} °C call a steward; above {station.CoolantShutC:0.#} °C nothing runs"
                        ),
                    ]
                    : (string[])[],
                .. station?.RoomMinimumC is { } least
                    ? [string.Create(CultureInfo.InvariantCulture, $"Room at {least:0.#} °C or warmer")]
                    : (string[])[],
            ],
            FanRuns: true
        );
    }

    private static PlaceCheck Bed(MachineSpec machine) =>
        new(
            "bed",
            "Bed",
            [
                "Empty: no offcuts, no crumbs beneath",
                "Brushed, whole, lying flat" + (machine.Station?.Beds is { Length: > 0 } beds ? $" ({beds})" : ""),
            ]
        );

    private static PlaceCheck Head { get; } =
        new("head", "Head", ["Nozzle clean and straight", "Lens free of dust: blow, then dab, never rub", "A scratch or a cloud is wrong"]);

    private static PlaceCheck Power(MachineSpec machine) =>
        new(
            "power",
            "Power",
            [
                .. (machine.Station?.SwitchOn ?? []).Select(s => $"{s.What}: {s.Where}"),
                "Table down before the head moves, hands out",
                .. machine.HomeCorner.Length > 0 ? [$"Home: the head goes to the {machine.HomeCorner}"] : (string[])[],
            ]
        );
}
