namespace VelvetGate.Core.Settings.Jobs;

/// <summary>Copies of a drawing laid on a sheet in rows and columns. Lengths in mm; places from the sheet's lower left corner.</summary>
/// <param name="Copies">That lie on it.</param>
/// <param name="Turned">Each by a quarter.</param>
/// <param name="At">Lower left corner of each copy.</param>
/// <param name="LeftWidthMm">Of the largest rectangle that stays whole; so too <paramref name="LeftHeightMm"/>.</param>
public sealed record SheetLayout(
    int Copies,
    bool Turned,
    IReadOnlyList<(decimal X, decimal Y)> At,
    decimal LeftWidthMm,
    decimal LeftHeightMm
)
{
    /// <summary>Left free all round, to hold the sheet down. Common practice.</summary>
    public const decimal EdgeMm = 5;

    /// <summary>Copies lie at least this far apart, and never nearer than the sheet is thick. Common practice.</summary>
    public const decimal LeastGapMm = 2;

    /// <summary>Of all ways with as many copies as lie on it, the one that leaves the largest piece whole.</summary>
    /// <param name="part">Reach of the drawing, width and height above 0.</param>
    /// <param name="copies">As many as are wanted, at least 1.</param>
    /// <returns>Null where not one lies on it, this way or turned.</returns>
    public static SheetLayout? Of(
        (decimal Width, decimal Height) part,
        (decimal Width, decimal Height) sheet,
        int copies,
        decimal thicknessMm
    )
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(copies, 1);
        var gap = Math.Max(LeastGapMm, thicknessMm);
        return Ways(part, sheet, copies, gap, turned: false)
            .Concat(Ways((part.Height, part.Width), sheet, copies, gap, turned: true))
            .OrderByDescending(l => l.Copies)
            .ThenByDescending(l => l.LeftWidthMm * l.LeftHeightMm)
            .FirstOrDefault();
    }

    private static IEnumerable<SheetLayout> Ways(
        (decimal Width, decimal Height) part,
        (decimal Width, decimal Height) sheet,
        int copies,
        decimal gap,
        bool turned
    )
    {
        int Fit(decimal room, decimal one) => (int)Math.Max(0, Math.Floor((room - 2 * EdgeMm + gap) / (one + gap)));
        var (across, up) = (Fit(sheet.Width, part.Width), Fit(sheet.Height, part.Height));
        for (var columns = 1; columns <= Math.Min(across, copies); columns++)
        {
            var rows = Math.Min(up, (copies + columns - 1) / columns);
            if (rows == 0)
                yield break;
            var count = Math.Min(copies, rows * columns);
            var at = Enumerable
                .Range(0, count)
                .Select(i => (EdgeMm + i % columns * (part.Width + gap), EdgeMm + i / columns * (part.Height + gap)))
                .ToList();
            // What is taken, with a gap to what is left.
            var (taken, high) = (EdgeMm + columns * (part.Width + gap), EdgeMm + rows * (part.Height + gap));
            var (beside, above) = (Math.Max(0, sheet.Width - taken), Math.Max(0, sheet.Height - high));
            yield return beside * sheet.Height >= above * sheet.Width
                ? new SheetLayout(count, turned, at, beside, sheet.Height)
                : new SheetLayout(count, turned, at, sheet.Width, above);
        }
    }
}
