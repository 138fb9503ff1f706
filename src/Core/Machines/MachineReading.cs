using System.Text.Json;
using System.Text.RegularExpressions;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Forms;

namespace VelvetGate.Core.Machines;

/// <summary>Turns a filled-in form into a machine, and holds it against what no field says alone.</summary>
public static partial class MachineReading
{
    [GeneratedRegex("^[a-z0-9-]{1,40}$")]
    private static partial Regex IdForm();

    public static SheetReading<MachineSpec> Read(JsonElement input, LengthUnit unit)
    {
        var (values, errors) = FormReader.Read(MachineForm.Fields, input, unit);
        if (errors.Count > 0)
            return new(null, errors);
        // Two fields of before the station was kept; the words now come from its facts.
        values["extractionPower"] = "";
        values["stopCuts"] = "";
        foreach (var text in new[] { "place", "enclosure", "extractionSwitch", "suppression", "access", "beds" })
            values["station"]![text] ??= "";
        var spec = GateJson.Read<MachineSpec>(values.ToJsonString());
        spec = spec with
        {
            ExtractionPower = Words(spec.Station!.ExtractionPower),
            StopCuts = string.Join("; ", spec.Station.StopDevices.Select(d => $"{d.Name} {d.Says()}")),
        };
        return SheetChecks.Checked(spec, Wrong(spec));
    }

    private static IEnumerable<Refusal> Wrong(MachineSpec spec)
    {
        if (!IdForm().IsMatch(spec.Id.Value))
            yield return SheetChecks.Bad("id", "Small letters, digits and hyphens, up to 40.");
        if (spec.HereUntil < spec.HereFrom)
            yield return SheetChecks.Bad("hereUntil", "The last day lies before the first.");
        if (spec.UsableWidthMm <= 0 || spec.UsableHeightMm <= 0)
            yield return SheetChecks.Bad("marginMm", "The margins leave nothing of the bed.");
        var range = spec.Kind switch
        {
            LaserKind.Co2 => (9000, 11000),
            LaserKind.Diode => (380, 980),
            _ => (1000, 2200),
        };
        if (spec.WavelengthNm < range.Item1 || spec.WavelengthNm > range.Item2)
            yield return SheetChecks.Bad(
                "wavelengthNm",
                $"A laser of this kind lies between {range.Item1} and {range.Item2} nm. Look at the label."
            );
        if (spec.Motion?.RapidMmS > spec.TopSpeedMmS)
            yield return SheetChecks.Bad("motion.rapidMmS", "Faster than its top speed. Look at both.");
        if (spec.Motion?.CornerMmS > spec.TopSpeedMmS)
            yield return SheetChecks.Bad("motion.cornerMmS", "Faster than its top speed. Look at both.");
        if (spec.Station!.StopDevices.Count == 0)
            yield return SheetChecks.Bad("station.stopDevices", "Name at least one stop device and what it cuts.");
        var s = spec.Station;
        if (s.CoolantCautionC > s.CoolantAskC || s.CoolantAskC > s.CoolantShutC)
            yield return SheetChecks.Bad("station.coolantAskC", "Caution, ask and shut rise in this order.");
        if (s.RotaryFromMm > s.RotaryToMm)
            yield return SheetChecks.Bad("station.rotaryToMm", "The widest is less than the narrowest.");
        if (s.EnclosureKind is not (null or EnclosureKind.Closed) && spec.LaserClass != "4")
            yield return SheetChecks.Bad(
                "laserClass",
                "An open frame, a slot, a panel that is off or a cover switch that was not tested is class 4 in use."
            );
        if (s.Suppression.Length > 0 && s.SuppressionKind is null)
            yield return SheetChecks.Bad(
                "station.suppressionKind",
                "Say how the suppression is set off: the emergency card is worded from it."
            );
    }

    private static string Words(ExtractionPower power) =>
        power switch
        {
            ExtractionPower.OwnSwitch => "a switch of its own",
            ExtractionPower.WithMachine => "with the machine",
            _ => "always on",
        };
}
