using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings.Motion;

namespace VelvetGate.Core.Settings;

/// <summary>A check of one drawing for one machine and sheet, as <c>vg check</c> and the API answer it. Lengths in mm.</summary>
/// <param name="NotFound">Faults that were looked for and are not there.</param>
/// <param name="NotLookedAt">What no check here looks at.</param>
public sealed record DrawingReport(
    double WidthMm,
    double HeightMm,
    Extent? ExtentMm,
    IReadOnlyList<ReportStroke> Strokes,
    IReadOnlyList<ReportFill> Fills,
    IReadOnlyList<Finding> Findings,
    ReportTime Time,
    IReadOnlyList<RunStep> Order,
    IReadOnlyList<string> NotFound,
    IReadOnlyList<string> NotLookedAt,
    IReadOnlyList<ReportPicture>? Pictures = null,
    RunCost? Cost = null,
    RunEnergy? Energy = null
)
{
    public static DrawingReport Of(
        DrawingSummary drawing,
        ColourMap colours,
        MachineSpec machine,
        decimal cutEnergyJPerMm2,
        decimal thicknessMm,
        LengthUnit unit = LengthUnit.Mm,
        IReadOnlyList<Clamp>? clamps = null,
        HouseRules? rules = null
    )
    {
        colours = drawing.Meanings(colours);
        var time = RunTime.Of(drawing, colours, RunSettings.For(machine, cutEnergyJPerMm2, thicknessMm));
        var findings = DrawingFindings.Of(drawing, colours, machine, unit, thicknessMm, clamps, rules?.DrawingTolerances);
        return new DrawingReport(
            WidthMm: Tidy(drawing.WidthMm),
            HeightMm: Tidy(drawing.HeightMm),
            ExtentMm: drawing.ExtentMm is { } e ? new Extent(Tidy(e.MinX), Tidy(e.MinY), Tidy(e.MaxX), Tidy(e.MaxY)) : null,
            Strokes:
            [
                .. drawing.Strokes.Select(s => new ReportStroke(s.Colour, colours.Of(s.Colour), Tidy(s.LengthMm), s.Paths, s.OpenPaths)),
            ],
            Fills: [.. drawing.Fills.Select(f => new ReportFill(f.Colour, Tidy(f.AreaMm2)))],
            // What shuts the gate first, then what asks for a steward.
            Findings:
            [
                .. findings
                    .OrderBy(f => f.Severity)
                    .ThenByDescending(f => f.Asks)
                    .Select(f => f with { LengthMm = Tidy(f.LengthMm), At = [.. f.At.Select(p => new Place(Tidy(p.X), Tidy(p.Y)))] }),
            ],
            Time: ReportTime.Of(time),
            Cost: rules is null ? null : RunCost.Of(time.Seconds, rules),
            Energy: rules is null ? null : RunEnergy.Of(time.Seconds, machine),
            Order: [.. RunOrder.Of(drawing, colours).Select(s => s with { LengthMm = Tidy(s.LengthMm) })],
            NotFound: DrawingFindings.NotFoundIn(findings, drawing, colours, machine),
            NotLookedAt: DrawingFindings.NotLookedAt(drawing, colours, machine),
            Pictures: drawing.Pictures is { } pictures
                ?
                [
                    .. pictures.Select(p => new ReportPicture(
                        Tidy(p.WidthMm),
                        Tidy(p.HeightMm),
                        p.Pixels,
                        p.Rows,
                        p.Ppi() is { } ppi ? Math.Round(ppi, 1) : null,
                        p.Greys
                    )),
                ]
                : null
        );
    }

    /// <summary>To the micrometre: finer is noise.</summary>
    private static double Tidy(double mm) => Math.Round(mm, 4);
}

public sealed record ReportStroke(string Colour, StrokeMeaning Operation, double LengthMm, int Paths, int OpenPaths);

public sealed record ReportFill(string Colour, double AreaMm2);

/// <param name="WidthMm">As placed, along its own edges.</param>
/// <param name="Pixels">Across; 0 where the file is not in the drawing or cannot be read.</param>
/// <param name="Ppi">Pixels to the inch as placed, in the direction that has fewer.</param>
/// <param name="Greys">Share of its pixels that are neither black nor white; null where they were not looked at.</param>
public sealed record ReportPicture(double WidthMm, double HeightMm, int Pixels, int Rows, double? Ppi, double? Greys);

/// <summary>How long it runs, in seconds: see <see cref="RunTime"/>.</summary>
/// <param name="Low">What it may well take at least; <paramref name="High"/> at most.</param>
/// <param name="Layers">Beam on, one for each colour and operation.</param>
public sealed record ReportTime(double RunSeconds, double Low, double High, SecondsBy ByOperation, IReadOnlyList<LayerSeconds> Layers)
{
    public static ReportTime Of(DrawingTime time)
    {
        static double Tenth(double seconds) => Math.Round(seconds, 1);
        var by = time.ByOperation;
        return new(
            Tenth(time.Seconds),
            Tenth(time.Low),
            Tenth(time.High),
            new SecondsBy(Tenth(by.Cut), Tenth(by.Score), Tenth(by.Engrave), Tenth(by.Travel)),
            [.. time.Layers.Select(l => l with { Seconds = Tenth(l.Seconds) })]
        );
    }
}
