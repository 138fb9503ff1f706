using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Drawings;

/// <summary>
/// Sizes that look like an inch taken for a mm, or like pixels counted 72 or 90 to the inch where 96 are read. Source of the faults: common
/// practice;
/// what makes them likely is house practice. None of it is proof, so somebody is asked.
/// </summary>
internal static class ScaleFindings
{
    /// <summary>Nothing that small is cut on purpose: less than a sheet is thick.</summary>
    private const double TinyMm = 3;

    /// <summary>Of a drawing whose file names no unit, so small a whole is suspicious.</summary>
    private const double SmallMm = 24;

    /// <summary>Pages agree when their sides do to so much.</summary>
    private const double PageTolerance = 0.003;

    /// <summary>ISO 216 A0 to A6, and the North American letter, legal and tabloid (ANSI/ASME Y14.1 A and B among them), in mm.</summary>
    private static readonly (double Width, double Height, string Name)[] Pages =
    [
        (841, 1189, "A0"),
        (594, 841, "A1"),
        (420, 594, "A2"),
        (297, 420, "A3"),
        (210, 297, "A4"),
        (148, 210, "A5"),
        (105, 148, "A6"),
        (215.9, 279.4, "letter"),
        (215.9, 355.6, "legal"),
        (279.4, 431.8, "tabloid"),
    ];

    public static Finding? Of(DrawingSummary drawing, MachineSpec? machine, LengthUnit unit)
    {
        if (drawing.ExtentMm is not { } extent || drawing.Asides is not { } asides)
            return null;
        var (largest, bed) = (
            Math.Max(extent.Width, extent.Height),
            machine is null ? double.PositiveInfinity : (double)Math.Max(machine.BedWidthMm, machine.BedHeightMm)
        );
        if (largest > 0 && (largest < TinyMm || (asides.SizeAssumed && drawing.Format == "dxf" && largest < SmallMm)))
            return Say($"The whole drawing is only {Show(largest)} across; in inches it would be {Show(largest * 25.4)}.");
        if (largest > bed && largest / 25.4 >= SmallMm)
            return Say(
                $"The drawing is {Show(largest)} across, more than the bed; were its numbers mm and not inches it would be "
                    + $"{Show(largest / 25.4)}."
            );
        if (asides.SizeAssumed && drawing.Format == "svg" && PageOf(drawing.WidthMm, drawing.HeightMm) is null)
        {
            foreach (var perInch in new[] { 72, 90 })
            {
                var by = 96.0 / perInch;
                if (PageOf(drawing.WidthMm * by, drawing.HeightMm * by) is { } page)
                    return Say(
                        $"The page has no size in mm or inches; at {perInch} pixels to the inch, not 96, it would be {page}, and "
                            + $"all of it {by:0.##} times as large."
                    );
            }
        }
        return null;

        string Show(double mm) => Length.Show((decimal)Math.Round(mm, 2), unit);

        Finding Say(string text) =>
            new(
                kind: FindingKinds.ScaleSuspicious,
                severity: Severity.Warn,
                count: 1,
                lengthMm: 0,
                at: [new Place(extent.MinX, extent.MinY)],
                text: text,
                why: "A wrong scale spoils the sheet, and small details become too thin: measure one side before it runs."
            )
            {
                Asks = true,
            };
    }

    private static string? PageOf(double width, double height)
    {
        var (small, large) = (Math.Min(width, height), Math.Max(width, height));
        foreach (var page in Pages)
        {
            if (Math.Abs(small / page.Width - 1) < PageTolerance && Math.Abs(large / page.Height - 1) < PageTolerance)
                return page.Name;
        }
        return null;
    }
}
