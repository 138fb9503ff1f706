namespace VelvetGate.Bench.Baseline;

/// <summary>How many copies of a box lie on a sheet in rows and columns, by laying one after the other. Frozen; shares no code with the
/// application.</summary>
public static class LayoutBaseline
{
    /// <param name="edge">Free all round.</param>
    /// <param name="gap">Between two copies.</param>
    public static int Most(double width, double height, double sheetWidth, double sheetHeight, double edge, double gap, int wanted) =>
        Math.Max(
            Lay(width, height, sheetWidth, sheetHeight, edge, gap, wanted),
            Lay(height, width, sheetWidth, sheetHeight, edge, gap, wanted));

    private static int Lay(double width, double height, double sheetWidth, double sheetHeight, double edge, double gap, int wanted)
    {
        var laid = 0;
        for (var y = edge; y + height <= sheetHeight - edge + 1e-9; y += height + gap)
            for (var x = edge; x + width <= sheetWidth - edge + 1e-9; x += width + gap)
                if (++laid == wanted)
                    return laid;
        return laid;
    }
}
