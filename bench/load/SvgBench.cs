using System.Diagnostics;
using System.Globalization;
using System.Text;
using VelvetGate.Bench.Baseline;
using VelvetGate.Core.Bench;
using VelvetGate.Core.Bench.Svg;
using VelvetGate.Core.House;
using VelvetGate.Store.Demo;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>Reading and checking a drawing against parsing its XML and path data alone.</summary>
internal static class SvgBench
{
    private const int Rounds = 5;

    public static void Run()
    {
        double At(int segments)
        {
            var svg = Drawing(segments);
            var (mine, plain) = (new List<double>(), new List<double>());
            // Until both are compiled for good, as in a server that has run for a while.
            var warm = Stopwatch.StartNew();
            while (warm.Elapsed.TotalSeconds < 3) { Check(svg); SvgBaseline.Parse(svg); }
            GC.Collect();
            for (var round = 0; round < Rounds; round++)
            {
                plain.Add(Milliseconds(() => SvgBaseline.Parse(svg)));
                mine.Add(Milliseconds(() => Check(svg)));
            }
            var numbers = SvgBaseline.Parse(svg);
            var segmentsRead = Check(svg);
            if (segmentsRead != segments || numbers != 2 * (segments + segments / 50)) throw new InvalidOperationException($"{segmentsRead} segments and {numbers} numbers were read of {segments}.");
            Say($"svg: {segments} segments: parse alone {Spread(plain, "ms")}, read and check {Spread(mine, "ms")}, ratio {Median(mine) / Median(plain):0.00}");
            return Median(mine);
        }

        var (small, large) = (At(10_000), At(100_000));
        Say($"svg: growth from 10k to 100k is n^{Math.Log10(large / small):0.00}; wanted at most n^1.15 and a ratio of at most 3");
    }

    private static double Milliseconds(Action act)
    {
        var clock = Stopwatch.StartNew();
        act();
        return clock.Elapsed.TotalMilliseconds;
    }

    /// <returns>How many cut segments there are, from their lengths: each is as long as the next.</returns>
    private static int Check(byte[] svg)
    {
        var summary = DrawingReading.Summarise("bench.svg", SvgReader.Read(new MemoryStream(svg)));
        var report = DrawingReport.Of(summary, ColourMap.Starting, DemoHouse.Machines[0], 1.2m, 3);
        if (report.Findings.Any(f => f.Code == "line.duplicate")) throw new InvalidOperationException("No line is doubled in this drawing.");
        return (int)Math.Round(report.Strokes.Sum(s => s.LengthMm) / 1.5);
    }

    /// <summary>Zigzags of 50 segments, 1.5 mm each, none over another.</summary>
    private static byte[] Drawing(int segments)
    {
        var text = new StringBuilder("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"880mm\" height=\"580mm\" viewBox=\"0 0 880 580\">");
        var rise = Math.Sqrt(1.5 * 1.5 - 0.9 * 0.9);
        for (var path = 0; path < segments / 50; path++)
        {
            var (x, y) = (2 + path % 18 * 48.0, 2 + path / 18 * 5.0);
            text.Append("<path fill=\"none\" stroke=\"#ff0000\" stroke-width=\"0.1\" d=\"M").Append(Number(x)).Append(' ').Append(Number(y));
            for (var i = 1; i <= 50; i++) text.Append('L').Append(Number(x + i * 0.9)).Append(' ').Append(Number(y + i % 2 * rise));
            text.Append("\"/>");
        }
        return Encoding.UTF8.GetBytes(text.Append("</svg>").ToString());
    }

    private static string Number(double value) => value.ToString("0.#########", CultureInfo.InvariantCulture);
}
