using VelvetGate.Core.House;
using VelvetGate.Core.Units;

namespace VelvetGate.Core.Bench;

/// <summary>A check of one drawing for one machine and sheet, as <c>vg check</c> and the API answer it. Lengths in mm.</summary>
public sealed record DrawingReport(
    double WidthMm,
    double HeightMm,
    Extent? ExtentMm,
    IReadOnlyList<ReportStroke> Strokes,
    IReadOnlyList<ReportFill> Fills,
    IReadOnlyList<Finding> Findings,
    ReportTime Time,
    IReadOnlyList<RunStep> Order)
{
    public static DrawingReport Of(DrawingSummary drawing, ColourMap colours, MachineSpec machine, decimal cutEnergyJPerMm2, decimal thicknessMm, LengthUnit unit = LengthUnit.Mm)
    {
        var settings = StartingSettings.For(machine, cutEnergyJPerMm2, thicknessMm);
        var seconds = RunTime.Seconds(drawing.WorkWith(colours), settings);
        return new DrawingReport(
            Tidy(drawing.WidthMm), Tidy(drawing.HeightMm), drawing.ExtentMm is { } e ? new Extent(Tidy(e.MinX), Tidy(e.MinY), Tidy(e.MaxX), Tidy(e.MaxY)) : null,
            [.. drawing.Strokes.Select(s => new ReportStroke(s.Colour, colours.Of(s.Colour), Tidy(s.LengthMm), s.Paths, s.OpenPaths))],
            [.. drawing.Fills.Select(f => new ReportFill(f.Colour, Tidy(f.AreaMm2)))],
            [.. DrawingFindings.Of(drawing, colours, machine, unit, thicknessMm).Select(f => f with { LengthMm = Tidy(f.LengthMm), At = [.. f.At.Select(p => new[] { Tidy(p[0]), Tidy(p[1]) })] })],
            new ReportTime(Math.Round(seconds, 1)),
            [.. RunOrder.Of(drawing, colours).Select(s => s with { LengthMm = Tidy(s.LengthMm) })]);
    }

    /// <summary>To the micrometre: finer is noise.</summary>
    private static double Tidy(double mm) => Math.Round(mm, 4);
}

public sealed record ReportStroke(string Colour, StrokeMeaning Operation, double LengthMm, int Paths, int OpenPaths);

public sealed record ReportFill(string Colour, double AreaMm2);

/// <param name="RunSeconds">Rough: see <see cref="RunTime"/>.</param>
public sealed record ReportTime(double RunSeconds);
