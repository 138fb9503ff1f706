using System.Globalization;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Settings.Calculators;

/// <summary>All calculators, in the order of the work.</summary>
public static partial class CalculatorList
{
    public static IReadOnlyList<Calculator> All { get; } = [Mismatch, Energy, Rotary, Kerf, Slot, Sag, Spot, HingeOf, Air, Eyewear];

    public static Calculator? Find(string name) => All.FirstOrDefault(c => c.Name == name);

    private static string N(decimal value, string form = "0.###") => value.ToString(form, CultureInfo.InvariantCulture);

    private static string N(double value, string form = "0.###") => value.ToString(form, CultureInfo.InvariantCulture);

    private static Result<CalcAnswer> Cannot(string words, string field) => SettingsProblems.CalcCannot.Refuse(field, words);

    private static Calculator Mismatch =>
        new(
            "mismatch",
            "Settings for another sheet",
            "Whether settings for one thickness are safe on the sheet measured.",
            "House practice; the known fire, settings for 1/4 in on 1/8 in, is exactly 2.",
            [
                new("settings-for", "Thickness the settings are for", InputKind.Length, "6.35 mm"),
                new("sheet", "Thickness measured", InputKind.Length, "3.175 mm"),
            ],
            i =>
            {
                var (given, sheet) = (i["settings-for"], i["sheet"]);
                var match = SettingsMatch.Of(given, sheet);
                return new CalcAnswer(
                    [
                        new("ratio", "Ratio", Math.Truncate(match.Ratio * 100_000) / 100_000, SettingsMatch.Show(match.Ratio)),
                        new("standing", "At the gate", Word(match.Standing), Word(match.Standing)),
                        new("code", "Reason", match.Code, match.Code ?? "none"),
                    ],
                    [
                        $"{i.Mm(given)} / {i.Mm(sheet)} = {SettingsMatch.Show(match.Ratio)}",
                        $"weak up to {N(SettingsMatch.Weak)}, warm from {N(SettingsMatch.Warm)}, hot from {N(SettingsMatch.Hot)}, "
                            + $"double from {N(SettingsMatch.Double)}",
                    ],
                    Sheets(given, sheet, i),
                    match.Standing,
                    [match.Says]
                );
            }
        );

    private static Calculator Energy =>
        new(
            "energy",
            "Line energy",
            "What each millimetre of line gets; and the same on another machine or sheet.",
            "E = P · passes / v; other machines and sheets in proportion: common practice, a first guess. A test piece comes first.",
            [
                CalcInput.Number("watts", "Power delivered", "15", "W", most: 10_000),
                new("speed", "Speed", InputKind.Speed, "15 in/min"),
                new("passes", "Passes", InputKind.Count, "1", Needed: false, Most: 100),
                CalcInput.Number("other-watts", "Power of another machine", "40", "W", needed: false, most: 10_000),
                new("sheet", "Thickness it was for", InputKind.Length, "1/8 in", Needed: false),
                new("other-sheet", "Another thickness", InputKind.Length, "5 mm", Needed: false),
            ],
            i =>
            {
                var (watts, speed, passes) = (i["watts"], i["speed"], (int)(i.Find("passes") ?? 1));
                var energy = LineEnergy.Of(watts, speed, passes);
                var values = new List<CalcValue> { new("jPerMm", "Line energy", Math.Round(energy, 5), $"{N(energy)} J/mm") };
                var working = new List<string> { $"{N(watts)} W x {passes} / {Speed.Show(speed)} = {N(energy)} J/mm" };
                var other = speed;
                if (i.Find("other-watts") is { } otherWatts)
                {
                    var there = LineEnergy.SpeedWith(other, watts, otherWatts);
                    working.Add($"{Speed.Show(other)} x {N(otherWatts)} W / {N(watts)} W = {Speed.Show(there)}");
                    other = there;
                }
                if (i.Find("sheet") is { } sheet)
                {
                    values.Add(new("jPerMm2", "For each mm of thickness", Math.Round(energy / sheet, 5), $"{N(energy / sheet)} J/mm²"));
                    working.Add($"{N(energy)} J/mm / {i.Mm(sheet)} = {N(energy / sheet)} J/mm²");
                }
                if (i.Find("other-sheet") is { } thickness)
                {
                    if (i.Find("sheet") is not { } from)
                        return Cannot("Give the thickness it was for as well.", "sheet");
                    var there = LineEnergy.SpeedFor(other, from, thickness);
                    working.Add($"{Speed.Show(other)} x {i.Mm(from)} / {i.Mm(thickness)} = {Speed.Show(there)}");
                    other = there;
                }
                if (other != speed)
                    values.Add(new("otherSpeedMmPerS", "Speed there", Math.Round(other, 4), Speed.Show(other)));
                return new CalcAnswer(
                    values,
                    working,
                    EnergyLine(energy),
                    Says: other == speed ? [] : ["A first guess. A test piece on that sheet comes first."]
                );
            }
        );

    private static Calculator Air =>
        new(
            "air",
            "Air wait",
            "How long the lid stays shut after a run.",
            "Dilution of a well-mixed box: CDC 2003, Guidelines for Environmental Infection Control, table B.1.",
            [
                CalcInput.Number("volume", "Volume inside", "0.45", "m³", most: 1000),
                CalcInput.Number("flow", "Airflow now", "520", "m³/h", needed: false, most: 100_000, least: 0),
                CalcInput.Number("commissioned", "Airflow at commissioning", "650", "m³/h", needed: false, most: 100_000),
                CalcInput.Number("k", "Mixing factor", "3", "", needed: false, most: 10, least: 1),
                CalcInput.Number("residual", "Part that may be left", "0.01", "", needed: false, most: 0.99m),
            ],
            AirWait
        );

    private static Result<CalcAnswer> AirWait(CalcInputs i)
    {
        if (i.Find("flow") is null && i.Find("commissioned") is null)
            return Cannot("Give the airflow now, or at commissioning.", "flow");
        if (i.Find("flow") == 0)
            return Cannot("Without airflow there is no countdown: the lid stays shut.", "flow");
        // Nobody has read it: it may be as low as the gate lets it be.
        var now = i.Find("flow") ?? i["commissioned"] * ReadingRules.ShutPart;
        var flow = Math.Min(now, i.Find("commissioned") ?? now);
        var weak = i.Find("flow") is { } read && i.Find("commissioned") is { } begun && read < begun * ReadingRules.ShutPart;
        var (k, residual) = (i.Find("k") ?? 3, i.Find("residual") ?? 0.01m);
        var seconds = AirClearing.Seconds((double)i["volume"], (double)flow, (double)k, (double)residual);
        var wait = Math.Max(AirClearing.FloorSeconds, Math.Ceiling(seconds));
        return new CalcAnswer(
            [
                new("seconds", "Computed", Math.Round(seconds, 2), $"{N(seconds, "0.#")} s"),
                new("wait", "Lid stays shut", wait, $"{N(wait, "0")} s"),
            ],
            [
                i.Find("flow") is null
                    ? $"no reading: {N(ReadingRules.ShutPart * 100, "0")} % of {N(i["commissioned"])} m³/h = {N(flow)} m³/h"
                    : $"airflow: the lower one, {N(flow)} m³/h",
                $"{N(k)} x {N(i["volume"])} m³ / ({N(flow)} m³/h / 3600) x ln(1 / {N(residual)}) = {N(seconds, "0.#")} s",
                $"never less than {AirClearing.FloorSeconds} s, the usual least of a house",
            ],
            Decay(seconds, wait, (double)residual),
            weak ? Standing.Shut : null,
            [
                .. weak
                    ? new[]
                    {
                        $"Below {N(ReadingRules.ShutPart * 100, "0")} % of commissioning: nothing runs until the extraction is seen to.",
                    }
                    : [],
                "It clears the box, not the room. After a flame, embers or a wrong sheet the long wait holds: 5 min.",
            ]
        );
    }

    private static string Word(Standing standing) => standing.ToString().ToLowerInvariant();
}
