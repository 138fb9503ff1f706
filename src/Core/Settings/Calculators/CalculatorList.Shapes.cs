namespace VelvetGate.Core.Settings.Calculators;

/// <summary>Calculators of shapes, lengths and beams.</summary>
public static partial class CalculatorList
{
    private static Calculator Rotary =>
        new(
            "rotary",
            "Rotary",
            "The page for something round, and whether it wraps straight.",
            "Once around is π · d. Taper over 2 %: common practice.",
            [
                new("height", "Height to engrave", InputKind.Length, "8.5 in"),
                new("diameter", "Diameter", InputKind.Length, "2.8 in"),
                new("diameter2", "Diameter at the other end", InputKind.Length, "66 mm", Needed: false),
                new("handle", "It has a handle", InputKind.Tick, Needed: false),
                new("ball", "It is a ball", InputKind.Tick, Needed: false),
            ],
            i =>
            {
                var (height, one) = (i["height"], i["diameter"]);
                var wide = Math.Max(one, i.Find("diameter2") ?? one);
                var around = (decimal)Shapes.Around((double)wide);
                var taper = Shapes.Taper(one, i.Find("diameter2") ?? one);
                var refused = i.Has("handle") || i.Has("ball");
                var asks = taper > Shapes.TaperMost;
                List<string> says =
                [
                    i.Has("handle") ? "Not on a rotary: the handle strikes the head or the bed." : "",
                    i.Has("ball") ? "Not on a rotary: a ball has no even turn, and the head may strike it." : "",
                    asks && !refused ? "Ask a steward: use a tilt jig so that the upper side lies level, and wrap a test page first." : "",
                    refused ? "" : "Draw a mark at one full turn, and keep all digits: a rounded page leaves a gap or overlaps.",
                ];
                return new CalcAnswer(
                    [
                        new("pageWidthMm", "Page along it", Math.Round(height, 4), i.Mm(height)),
                        new("pageHeightMm", "Page around it", Math.Round(around, 4), i.Mm(around)),
                        new("taper", "Taper", Math.Round(taper, 5), $"{N(taper * 100, "0.0")} %"),
                        new("refused", "Refused", refused, refused ? "yes" : "no"),
                    ],
                    [
                        $"π x {i.Mm(wide)} = {i.Mm(around)}{(i.Has("diameter2") ? ", at the wider end" : "")}",
                        i.Find("diameter2") is { } two
                            ? $"({i.Mm(wide)} − {i.Mm(Math.Min(one, two))}) / {i.Mm(wide)} = {N(taper * 100, "0.0")} %"
                            : "no second diameter: taken as straight",
                    ],
                    Tumbler(height, one, i.Find("diameter2") ?? one, around, i),
                    refused ? Standing.Shut
                        : asks ? Standing.Ask
                        : Standing.Clear,
                    [.. says.Where(s => s.Length > 0)]
                );
            }
        );

    private static Calculator Kerf =>
        new(
            "kerf",
            "Kerf",
            "What the beam takes away, from a comb of parts measured together.",
            "(n · nominal − measured) / n: common practice.",
            [
                new("parts", "Parts in the comb", InputKind.Count, "10", Most: 1000),
                new("nominal", "Each as drawn", InputKind.Length, "20 mm"),
                new("measured", "All side by side, measured", InputKind.Length, "197.8 mm"),
            ],
            i =>
            {
                var (parts, nominal, measured) = ((int)i["parts"], i["nominal"], i["measured"]);
                var kerf = Kerfs.OfComb(parts, nominal, measured);
                if (kerf <= 0)
                    return Cannot(
                        "Parts that measure as much as they were drawn left no kerf. Measure again, pressed together.",
                        "measured"
                    );
                if (kerf > nominal / 2)
                    return Cannot("More than half of each part is gone. Check the number of parts and the unit.", "measured");
                return new CalcAnswer(
                    [
                        new("kerfMm", "Kerf", Math.Round(kerf, 5), i.Mm(kerf)),
                        new("offsetPerEdgeMm", "Offset for each edge", Math.Round(kerf / 2, 5), i.Mm(kerf / 2)),
                    ],
                    [$"({parts} x {i.Mm(nominal)} − {i.Mm(measured)}) / {parts} = {i.Mm(kerf)}", $"{i.Mm(kerf)} / 2 = {i.Mm(kerf / 2)}"],
                    Comb(nominal, kerf, i),
                    Says:
                    [
                        kerf is < 0.05m or > 0.6m
                            ? "Unusual: most houses find 0.1 to 0.4 mm. Measure again before you rely on it."
                            : "For this machine, material, thickness and setting alone.",
                    ]
                );
            }
        );

    private static Calculator Slot =>
        new(
            "slot",
            "Slot for a sheet",
            "How a slot is drawn so that the sheet fills it.",
            "Sheet − kerf: common practice.",
            [new("sheet", "Thickness measured", InputKind.Length, "2.94 mm"), new("kerf", "Kerf", InputKind.Length, "0.22 mm")],
            i =>
            {
                var drawn = Kerfs.Slot(i["sheet"], i["kerf"]);
                if (drawn <= 0)
                    return Cannot("The kerf is wider than the sheet is thick: a single line is slot enough.", "kerf");
                return new CalcAnswer(
                    [new("drawnMm", "Draw the slot", Math.Round(drawn, 5), i.Mm(drawn))],
                    [$"{i.Mm(i["sheet"])} − {i.Mm(i["kerf"])} = {i.Mm(drawn)}"],
                    SlotAcross(i["sheet"], drawn, i),
                    Says: ["It fits without play. For a press fit or a loose one, cut a joint ladder first."]
                );
            }
        );

    private static Calculator Sag =>
        new(
            "sag",
            "Bow and curve",
            "Where to focus on something bent.",
            "R − √(R² − b²/4): the height of an arc over its chord.",
            [new("radius", "Radius", InputKind.Length, "250 mm"), new("width", "Width to work on", InputKind.Length, "80 mm")],
            i =>
            {
                if (i["width"] > 2 * i["radius"])
                    return Cannot("Wider than the circle is. Give a width up to twice the radius.", "width");
                var sag = Shapes.Sag((double)i["radius"], (double)i["width"]);
                return new CalcAnswer(
                    [
                        new("sagMm", "Sag", Math.Round(sag, 5), i.Mm((decimal)sag)),
                        new("belowTopMm", "Focus below the top", Math.Round(sag / 2, 5), i.Mm((decimal)sag / 2)),
                    ],
                    [
                        $"{i.Mm(i["radius"])} − √({i.Mm(i["radius"])}² − {i.Mm(i["width"])}² / 4) = {i.Mm((decimal)sag)}",
                        $"half of it: {i.Mm((decimal)sag / 2)} below the top, at the mean height",
                    ],
                    Arc((double)i["radius"], (double)i["width"], sag, i),
                    Says: ["The edges are out of focus by half the sag; “Spot and blur” says how wide the beam is there."]
                );
            }
        );

    private static Calculator Spot =>
        new(
            "spot",
            "Spot and blur",
            "How fine the beam is, and how wide out of focus.",
            "2 w0 = 4 M² λ f / (π D), z_R = π w0² / (M² λ): Gaussian beams, as in ISO 11146-1.",
            [
                new("focal", "Focal length", InputKind.Length, "50.8 mm"),
                new("beam", "Beam at the lens", InputKind.Length, "6 mm"),
                CalcInput.Number("m2", "Beam quality M²", "1.2", most: 100, least: 1),
                CalcInput.Number("nm", "Wavelength", "10600", "nm", most: 20_000, least: 150),
                new("defocus", "Out of focus by", InputKind.Length, "1 mm", Needed: false),
            ],
            i =>
            {
                var beam = FocusedBeam.Of((double)i["focal"], (double)i["beam"], (double)i["m2"], (double)i["nm"]);
                List<CalcValue> values =
                [
                    new("spotMm", "Spot", Math.Round(beam.SpotMm, 6), i.Mm((decimal)beam.SpotMm)),
                    new("rayleighMm", "Twice as large an area at", Math.Round(beam.RayleighMm, 6), i.Mm((decimal)beam.RayleighMm)),
                ];
                List<string> working =
                [
                    $"4 x {N(i["m2"])} x {N(i["nm"])} nm x {i.Mm(i["focal"])} / (π x {i.Mm(i["beam"])}) = {N(beam.SpotMm)} mm",
                    $"π x ({N(beam.SpotMm)} mm / 2)² / ({N(i["m2"])} x {N(i["nm"])} nm) = {N(beam.RayleighMm)} mm",
                ];
                if (i.Find("defocus") is { } z)
                {
                    var blur = beam.At((double)z);
                    values.Add(new("blurMm", "Spot out of focus", Math.Round(blur, 6), i.Mm((decimal)blur)));
                    working.Add($"{N(beam.SpotMm)} mm x √(1 + ({i.Mm(z)} / {N(beam.RayleighMm)} mm)²) = {N(blur)} mm");
                }
                return new CalcAnswer(
                    values,
                    working,
                    Waist(beam, (double)(i.Find("defocus") ?? 0), i),
                    Says: ["The least that the lens allows: heat and dirt make it wider."]
                );
            }
        );

    private static Calculator HingeOf =>
        new(
            "hinge",
            "Living hinge",
            "Whether rows of slots let a strip bend so far.",
            "Equal twist of equal webs; torsion of a bar as in Timoshenko and Goodier, Theory of Elasticity. The limit is cautious.",
            [
                new("sheet", "Thickness measured", InputKind.Length, "3 mm"),
                new("web", "Web between two rows", InputKind.Length, "1.5 mm"),
                new("gap", "Width of a slot, kerf included", InputKind.Length, "0.25 mm"),
                new("slot", "Length of a slot", InputKind.Length, "25 mm"),
                new("radius", "Radius of the bend", InputKind.Length, "25 mm"),
                CalcInput.Number("degrees", "Angle of the bend", "90", "°", most: 360),
            ],
            i =>
            {
                var (sheet, web, gap) = ((double)i["sheet"], (double)i["web"], (double)i["gap"]);
                var hinge = Hinge.Of(sheet, web, gap, (double)i["slot"], (double)i["radius"], (double)i["degrees"]);
                var arc = (double)i["radius"] * (double)i["degrees"] * Math.PI / 180;
                var jams = hinge.NeededGapMm > gap;
                var cracks = hinge.Shear > Hinge.MostShear;
                return new CalcAnswer(
                    [
                        new("webs", "Webs across the bend", hinge.Webs, $"{hinge.Webs}"),
                        new("twistDegrees", "Each turns by", Math.Round(hinge.TwistDegrees, 4), $"{N(hinge.TwistDegrees, "0.#")}°"),
                        new("neededGapMm", "Slot it needs", Math.Round(hinge.NeededGapMm, 5), i.Mm((decimal)hinge.NeededGapMm)),
                        new("shear", "Shear in a web", Math.Round(hinge.Shear, 6), $"{N(hinge.Shear * 100, "0.0")} %"),
                        new("bends", "It bends so far", !jams && !cracks, !jams && !cracks ? "yes" : "no"),
                    ],
                    [
                        $"arc {i.Mm((decimal)arc)} / ({i.Mm(i["web"])} + {i.Mm(i["gap"])}) = {hinge.Webs} webs",
                        $"{N(i["degrees"])}° / {hinge.Webs} = {N(hinge.TwistDegrees, "0.#")}° each",
                        $"slot needed {i.Mm((decimal)hinge.NeededGapMm)}, is {i.Mm(i["gap"])}",
                        $"shear {N(hinge.Shear * 100, "0.0")} %, at most {N(Hinge.MostShear * 100, "0.0")} %",
                    ],
                    Rows(i),
                    jams || cracks ? Standing.Caution : Standing.Clear,
                    [
                        .. jams ? new[] { "The webs jam against each other: wider slots, narrower webs or a larger radius." } : [],
                        .. cracks ? new[] { "The webs are likely to crack: longer slots, narrower webs or a larger radius." } : [],
                        "Cut and bend a strip of scrap first.",
                    ]
                );
            }
        );

    private static Calculator Eyewear =>
        new(
            "eyewear",
            "Eyewear",
            "The optical density that eyes need where a beam can reach them.",
            "OD = log10(E / MPE); limits from memory of ANSI Z136.1 and IEC 60825-1, for people told to keep watching.",
            [
                CalcInput.Number("watts", "Power of the beam", "10", "W", most: 10_000),
                new("nm", "Wavelength", InputKind.Count, "450", "nm", Most: 20_000),
                CalcInput.Number("pulse-energy", "Energy of a pulse", "0.001", "J", needed: false, most: 1000),
                CalcInput.Number("pulse-seconds", "Length of a pulse", "1e-7", "s", needed: false, most: 0.25m),
                CalcInput.Number("hz", "Pulses a second", "20000", "Hz", needed: false, most: 100_000_000),
            ],
            EyewearOf
        );

    private static Result<CalcAnswer> EyewearOf(CalcInputs i)
    {
        var (watts, nm) = ((double)i["watts"], (int)i["nm"]);
        if (EyewearMath.RequiredOpticalDensity(watts, nm) is not { } od)
            return Cannot(
                "The limits are known here from 400 to 1400 nm and for 10,500 to 10,700 nm alone. Ask a laser safety officer.",
                "nm"
            );
        var pulsed = new[] { "pulse-energy", "pulse-seconds", "hz" }.Where(i.Has).ToList();
        var basis = EyewearMath.IsPhotochemical(nm) ? "photochemical, watching on" : "thermal, 10 s";
        if (pulsed.Count is 1 or 2)
            return Cannot("Pulses need their energy, length and number a second, all three.", pulsed[0]);
        if (pulsed.Count == 3)
        {
            if (EyewearMath.RequiredForPulses((double)i["pulse-energy"], (double)i["pulse-seconds"], (double)i["hz"], nm) is not { } pulses)
                return Cannot("Pulses shorter than 1 ns are not known here. Ask a laser safety officer.", "pulse-seconds");
            if (pulses > od)
                (od, basis) = (pulses, "pulses: one alone, and all of 10 s");
        }
        return new CalcAnswer(
            [
                new("od", "Optical density", Math.Round(od, 4), $"{N(Math.Ceiling(od * 10) / 10, "0.0")} or more"),
                new("basis", "What decides", basis, basis),
            ],
            [$"log10(power over the eye’s aperture / limit) = {N(od, "0.00")}"],
            Glasses(od),
            Says:
            [
                .. pulsed.Count == 0
                    ? new[] { "For a steady beam. A pulsed laser needs its pulse data: average power alone is not a full check." }
                    : [],
                "OD alone does not choose a pair: range of wavelengths and damage rating must fit too. Where EN 207 holds, the supplier "
                    + "gives the scale number (LB) for this beam; without it the pair serves no alignment.",
                "A check, and no substitute for a laser safety officer. An enclosed, interlocked machine needs none in normal use.",
            ]
        );
    }
}
