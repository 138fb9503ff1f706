namespace VelvetGate.Core.Settings.Jobs;

/// <summary>From which corner of the sheet copies are laid, or round its middle.</summary>
public enum SheetAnchor
{
    LowerLeft,
    LowerRight,
    UpperLeft,
    UpperRight,
    Middle,
}

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
    /// <param name="turned">Whether each is turned by a quarter; null takes the better way.</param>
    /// <returns>Null where not one lies on it, this way or turned.</returns>
    public static SheetLayout? Of(
        (decimal Width, decimal Height) part,
        (decimal Width, decimal Height) sheet,
        int copies,
        decimal thicknessMm,
        bool? turned = null
    )
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(copies, 1);
        var gap = Math.Max(LeastGapMm, thicknessMm);
        return (turned is true ? [] : Ways(part, sheet, copies, gap, turned: false))
            .Concat(turned is false ? [] : Ways((part.Height, part.Width), sheet, copies, gap, turned: true))
            .OrderByDescending(l => l.Copies)
            .ThenByDescending(l => l.LeftWidthMm * l.LeftHeightMm)
            .FirstOrDefault();
    }

    /// <summary>The same copies from another corner, or round the middle.</summary>
    /// <param name="part">As drawn.</param>
    /// <param name="thicknessMm">What stays whole lies no nearer.</param>
    public SheetLayout From(
        SheetAnchor anchor,
        (decimal Width, decimal Height) part,
        (decimal Width, decimal Height) sheet,
        decimal thicknessMm
    )
    {
        var (w, h) = Turned ? (part.Height, part.Width) : part;
        if (anchor != SheetAnchor.Middle)
        {
            var (right, up) = (anchor is SheetAnchor.LowerRight or SheetAnchor.UpperRight, anchor >= SheetAnchor.UpperLeft);
            return this with { At = [.. At.Select(p => (right ? sheet.Width - w - p.X : p.X, up ? sheet.Height - h - p.Y : p.Y))] };
        }
        var (beside, above) = ((sheet.Width - At.Max(p => p.X) - w - EdgeMm) / 2, (sheet.Height - At.Max(p => p.Y) - h - EdgeMm) / 2);
        // What stays whole is the larger of a strip beside them and one above.
        var gap = Math.Max(LeastGapMm, thicknessMm);
        var (free, high) = (Math.Max(0, beside + EdgeMm - gap), Math.Max(0, above + EdgeMm - gap));
        var wide = free * sheet.Height >= high * sheet.Width;
        return this with
        {
            At = [.. At.Select(p => (p.X + beside, p.Y + above))],
            LeftWidthMm = wide ? free : sheet.Width,
            LeftHeightMm = wide ? sheet.Height : high,
        };
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
