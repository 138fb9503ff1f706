namespace VelvetGate.Bench.Baseline;

/// <summary>Spacing of straight lines by looking at every pair: what anybody would write first. Frozen; shares no code with the application.</summary>
public static class AllPairsBaseline
{
    /// <param name="lines">x and y of both ends, in mm.</param>
    /// <param name="limits">Distances in mm.</param>
    /// <returns>For each limit the length of line that has a parallel one nearer than it, to either side.</returns>
    public static double[] Crowded(IReadOnlyList<(double X1, double Y1, double X2, double Y2)> lines, double[] limits)
    {
        var unit = lines.Select(l => (Dx: l.X2 - l.X1, Dy: l.Y2 - l.Y1)).Select(d => (d.Dx, d.Dy, Length: Math.Sqrt(d.Dx * d.Dx + d.Dy * d.Dy))).ToArray();
        var total = new double[limits.Length];
        var near = limits.Select(_ => new List<(double From, double To)>()).ToArray();
        for (var a = 0; a < lines.Count; a++)
        {
            var (ux, uy, length) = (unit[a].Dx / unit[a].Length, unit[a].Dy / unit[a].Length, unit[a].Length);
            foreach (var list in near) list.Clear();
            for (var b = 0; b < lines.Count; b++)
            {
                if (b == a) continue;
                // Parallel to one part in a thousand: the drawings of this comparison have few directions.
                if (Math.Abs(ux * unit[b].Dy - uy * unit[b].Dx) > 0.001 * unit[b].Length) continue;
                var (x, y) = (lines[b].X1 - lines[a].X1, lines[b].Y1 - lines[a].Y1);
                var across = Math.Abs(ux * y - uy * x);
                if (across >= limits[^1]) continue;
                var from = ux * x + uy * y;
                var to = ux * (lines[b].X2 - lines[a].X1) + uy * (lines[b].Y2 - lines[a].Y1);
                if (from > to) (from, to) = (to, from);
                (from, to) = (Math.Max(0, from), Math.Min(length, to));
                if (to <= from) continue;
                for (var l = 0; l < limits.Length; l++)
                {
                    if (across < limits[l]) near[l].Add((from, to));
                }
            }
            for (var l = 0; l < limits.Length; l++)
            {
                near[l].Sort();
                var reach = double.NegativeInfinity;
                foreach (var (from, to) in near[l])
                {
                    total[l] += Math.Max(0, to - Math.Max(from, reach));
                    reach = Math.Max(reach, to);
                }
            }
        }
        return total;
    }
}
