using System.Globalization;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings;

namespace VelvetGate.Core.Station;

/// <param name="Terms">What is said, each with a word in front.</param>
public sealed record GuidePart(string Title, IReadOnlyList<GuideTerm> Terms);

public sealed record GuideTerm(string What, string Says);

/// <summary>Corner of the bed at which the head rests, seen from the front.</summary>
public sealed record HomeCorner(bool Far, bool Right)
{
    /// <returns>Null where the words name no corner.</returns>
    public static HomeCorner? Of(string words)
    {
        bool Has(params string[] any) => any.Any(w => words.Contains(w, StringComparison.OrdinalIgnoreCase));
        var (far, near) = (Has("far", "back", "rear", "top", "upper"), Has("near", "front", "bottom", "lower"));
        var (left, right) = (Has("left"), Has("right"));
        return far == near || left == right ? null : new HomeCorner(far, right);
    }
}

/// <summary>What everybody may read at a machine: how it is switched on and off, what is where, what each stop really cuts.</summary>
/// <param name="On">In this order.</param>
/// <param name="Off">In this order.</param>
/// <param name="Wait">How long the lid stays shut after a run, with its working.</param>
public sealed record MachineGuide(
    string Machine,
    string House,
    string Place,
    IReadOnlyList<KeptAt> On,
    IReadOnlyList<KeptAt> Off,
    HomeCorner? Home,
    IReadOnlyList<GuidePart> Parts,
    GuideTerm Wait,
    string Defers
)
{
    public const string NoSafetySystem =
        "This page helps you remember. It is no safety system: the machine’s own stops, interlocks and lid switch protect you. The "
        + "maker’s manual, the law where you are and licensed people come before it.";

    /// <param name="classWhy">Why it counts as class 4, whatever its form says; null where it does not.</param>
    public static MachineGuide Of(MachineSpec machine, HouseRules rules, string? classWhy = null)
    {
        var station = machine.Station;
        return new MachineGuide(
            Machine: machine.Name,
            House: rules.HouseName,
            Place: station?.Place ?? "",
            On: station?.SwitchOn ?? [],
            Off: station?.SwitchOff ?? [],
            Home: HomeCorner.Of(machine.HomeCorner),
            Parts: [.. Told(machine, station, classWhy).Select(Without).Where(p => p.Terms.Count > 0)],
            Wait: WaitOf(machine, rules),
            Defers: NoSafetySystem
        );
    }

    private static IEnumerable<GuidePart> Told(MachineSpec machine, MachineStation? station, string? classWhy)
    {
        yield return new(
            "Air",
            [
                new("Extraction", Air(machine.Extraction)),
                new("Its switch", station?.ExtractionSwitch ?? machine.ExtractionPower),
                new("Before cutting", $"{machine.ExtractionLeadSeconds} s of extraction first"),
                new("Air assist", station is null ? "" : Says(station.AirAssist)),
            ]
        );
        yield return new("Cooling", [.. Cooling(station)]);
        yield return new(
            "Bed and focus",
            [
                new("Head rests", machine.HomeCorner),
                new("Beds", station?.Beds ?? ""),
                new("Fixtures", string.Join(", ", machine.Fixtures)),
                new("Focus", string.Join(", ", station?.FocusMethods ?? [])),
                new("Tallest work", machine.MaxHeightMm > 0 ? Length.Show(machine.MaxHeightMm, LengthUnit.Mm) : ""),
            ]
        );
        yield return new(
            "What each stop really does",
            [.. (station?.StopDevices ?? []).Select(s => new GuideTerm(s.Name, $"{s.Where}: {s.Says()}"))]
        );
        yield return new("What it shows", [.. (station?.Signs ?? []).Select(s => new GuideTerm(s.What, s.Means))]);
        yield return new("Where things are", [.. (station?.KeptAt ?? []).Select(k => new GuideTerm(k.What, k.Where))]);
        yield return new(
            "Covers",
            [
                new(
                    "Class in use",
                    classWhy ?? $"{machine.LaserClass}{(station?.ClassEvidence is { Length: > 0 } how ? $" ({how})" : "")}"
                ),
                new("Enclosure", station?.Enclosure ?? ""),
                new("Opened and serviced by", string.Join(", ", station?.ServicedBy ?? [])),
                new("Papers", string.Join(", ", station?.Documents ?? [])),
            ]
        );
    }

    private static IEnumerable<GuideTerm> Cooling(MachineStation? station)
    {
        if (station is null)
            yield break;
        yield return new("Cooling", Says(station.Cooling));
        if (station.Cooling == Machines.Cooling.None)
            yield break;
        yield return new("Coolant", Water(station));
        if (station.RoomMinimumC is { } room)
            yield return new("Room", string.Create(CultureInfo.InvariantCulture, $"{room:0.#} °C at least"));
    }

    private static string Water(MachineStation s)
    {
        static string At(decimal degrees) => string.Create(CultureInfo.InvariantCulture, $"{degrees:0.#} °C");
        return $"{At(s.CoolantColdC)} to {At(s.CoolantCautionC)} is good, up to {At(s.CoolantAskC)} watch it; above that ask a steward; "
            + $"above {At(s.CoolantShutC)} or below {At(s.CoolantColdC)} nobody starts it";
    }

    /// <summary>As long as it takes where nobody reads the airflow: what is read at the machine may say less.</summary>
    private static GuideTerm WaitOf(MachineSpec machine, HouseRules rules)
    {
        if (machine.AirflowM3PerHour <= 0 || machine.EnclosureM3 <= 0)
            return new("Lid after a run", "It stays shut: the airflow was never measured. A steward opens it.");
        var wait = LidWait.Of(machine, rules, null, BeamLeft.Smoke);
        var computed = AirClearing.Seconds(
            (double)machine.EnclosureM3,
            (double)wait.AirflowM3PerHour,
            (double)rules.AirMixingFactor,
            (double)rules.AirResidual
        );
        var working = string.Create(
            CultureInfo.InvariantCulture,
            $"{rules.AirMixingFactor:0.##} x {machine.EnclosureM3:0.###} m³ / {wait.AirflowM3PerHour:0.#} m³/h x ln(1 / "
                + $"{rules.AirResidual:0.####}) = {computed:0.0} s: the least airflow at which it may run, {ReadingRules.ShutPart:0 %} of "
                + $"{machine.AirflowM3PerHour:0.#} m³/h"
        );
        var least = wait.Seconds > computed + 1 ? $"; the house waits {rules.AirClearingFloorSeconds} s at least" : "";
        return new(
            $"Wait {wait.Seconds} s at least before you open the lid",
            $"And no smoke to be seen. {working}{least}. After a flame or a glow: {AirClearing.LongWaitSeconds} s."
        );
    }

    private static string Air(Extraction extraction) =>
        extraction switch
        {
            Extraction.Ducted => "ducted outdoors",
            Extraction.Filtered => "filtered, back into the room: a filter removes no carbon monoxide",
            _ => "filtered and ducted",
        };

    private static string Says(AirAssist assist) =>
        assist switch
        {
            AirAssist.Automatic => "comes on by itself",
            AirAssist.PumpSwitch => "by its pump’s switch",
            AirAssist.HandValve => "by a valve, by hand",
            _ => "none",
        };

    private static string Says(Cooling cooling) =>
        cooling switch
        {
            Machines.Cooling.Automatic => "comes on by itself",
            Machines.Cooling.Chiller => "a chiller: on before the machine",
            Machines.Cooling.Bucket => "a pump in a bucket: on before the machine, see the water move",
            _ => "none needed",
        };

    private static GuidePart Without(GuidePart part) =>
        part with
        {
            Terms = [.. part.Terms.Where(t => !string.IsNullOrWhiteSpace(t.Says))],
        };
}
