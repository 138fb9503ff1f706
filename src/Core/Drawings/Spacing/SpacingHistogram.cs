namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>Lengths and places by distance in hundredths of a mm. Used again for each pair of colours.</summary>
internal sealed class SpacingHistogram
{
    /// <summary>More distances than these become tenths, from <see cref="FineBelow"/> hundredths on.</summary>
    private const int Most = 240;

    private const int FineBelow = 100,
        Coarse = 10;

    public double[] Along { get; } = new double[Neighbours.Steps];

    public double[] Inside { get; } = new double[Neighbours.Steps];

    /// <summary>Length of line by the distance of its nearest neighbour.</summary>
    public double[] Crowded { get; } = new double[Neighbours.Steps];

    public int[] Runs { get; } = new int[Neighbours.Steps];

    public int[] RunsInside { get; } = new int[Neighbours.Steps];

    public void Clear()
    {
        Array.Clear(Along);
        Array.Clear(Inside);
        Array.Clear(Crowded);
        Array.Clear(Runs);
        Array.Clear(RunsInside);
    }

    /// <returns>As <see cref="LineSpacing.Bins"/> has them.</returns>
    public IReadOnlyList<SpacingBin> Bins()
    {
        var used = 0;
        for (var i = 0; i < Along.Length; i++)
        {
            if (Along[i] > 0 || Crowded[i] > 0)
                used++;
        }
        var bins = new List<SpacingBin>();
        for (var i = 0; i < Along.Length; )
        {
            var to = Math.Min(Along.Length, i + (used > Most && i >= FineBelow ? Coarse : 1));
            double along = 0,
                inside = 0,
                crowded = 0;
            int runs = 0,
                runsInside = 0;
            for (var k = i; k < to; k++)
            {
                along += Along[k];
                inside += Inside[k];
                crowded += Crowded[k];
                runs += Runs[k];
                runsInside += RunsInside[k];
            }
            if (along > 0 || crowded > 0)
                bins.Add(
                    new SpacingBin(
                        FromMm: i / 100.0,
                        ToMm: to / 100.0,
                        AlongMm: Tidy(along),
                        InsideMm: Tidy(inside),
                        CrowdedMm: Tidy(crowded),
                        Runs: runs,
                        RunsInside: runsInside
                    )
                );
            i = to;
        }
        return bins;
    }

    private static double Tidy(double mm) => Math.Round(mm, 3);
}
