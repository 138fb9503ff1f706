using System.Diagnostics;
using System.Globalization;
using System.Text;
using VelvetGate.Bench.Baseline;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.Settings;
using VelvetGate.Store.Demo;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>
/// Every layout of lines that is hard for some way of finding neighbours, at a hundred thousand and a million segments, against parsing
/// alone; and against every pair at twenty thousand.
/// </summary>
internal static class LayoutsBench
{
    private const int Rounds = 5;

    private static readonly string[] Kinds = ["parts", "random", "hatch", "star", "over"];

    public static void Run()
    {
        foreach (var kind in Kinds)
        {
            var (small, large) = (Svg(Lines(kind, 100_000)), Svg(Lines(kind, 1_000_000)));
            for (var warm = 0; warm < 2; warm++)
            {
                SvgBaseline.Parse(small);
                Check(small);
            }
            var (plain, ours, growth) = (new List<double>(), new List<double>(), new List<double>());
            for (var round = 0; round < Rounds; round++)
            {
                GC.Collect();
                plain.Add(Milliseconds(() => SvgBaseline.Parse(large)));
                var ten = Milliseconds(() => Check(small));
                GC.Collect();
                ours.Add(Milliseconds(() => Check(large)));
                growth.Add(Math.Log10(ours[^1] / ten));
            }
            Say(
                $"layouts: {kind}, 1,000,000 segments: parse alone {Spread(plain, "ms")}, read and check {Spread(ours, "ms")}, "
                    + $"ratio {Median(ours.Zip(plain, (o, p) => o / p)):0.0}; growth from 100,000 n^{Median(growth):0.00}; process at "
                    + $"most {Process.GetCurrentProcess().PeakWorkingSet64 / 1_000_000} MB so far"
            );
        }
        Pairs();
    }

    public static void Pairs()
    {
        double[] limits = [0.2, 3];
        var lines = Lines("few directions", 20_000).ToList();
        var svg = Svg(lines);
        var (pairs, ours) = (new List<double>(), new List<double>());
        for (var round = 0; round < Rounds; round++)
        {
            double[] theirs = [];
            DrawingSummary? summary = null;
            pairs.Add(Milliseconds(() => theirs = AllPairsBaseline.Crowded(lines, limits)));
            ours.Add(Milliseconds(() => summary = DrawingReading.Summarise("x", SvgReader.Read(new MemoryStream(svg)))));
            for (var l = 0; l < limits.Length; l++)
            {
                var own = summary!.Spacing!.Sum(s => s.Between(0, limits[l]).CrowdedMm);
                if (Math.Abs(own - theirs[l]) > 1e-3 * theirs[l])
                    throw new InvalidOperationException($"{own} mm are nearer than {limits[l]} mm, by every pair {theirs[l]} mm.");
            }
        }
        Say(
            $"layouts: 20,000 lines of few directions: every pair {Spread(pairs, "ms")}, reading and all findings "
                + $"{Spread(ours, "ms")}, {Median(pairs.Zip(ours, (p, o) => p / o)):0} times as fast, lengths nearer than 0.2 and 3 mm "
                + "the same to 1 part in 1,000"
        );
    }

    private static void Check(byte[] svg) =>
        DrawingReport.Of(
            DrawingReading.Summarise("x", SvgReader.Read(new MemoryStream(svg))),
            SvgBench.Colours,
            DemoHouse.Machines[0],
            1.2m,
            3
        );

    private static IEnumerable<(double X1, double Y1, double X2, double Y2)> Lines(string kind, int count)
    {
        var random = new Random(3);
        double Next(double to) => random.NextDouble() * to;
        for (var i = 0; i < count; i++)
        {
            switch (kind)
            {
                case "parts":
                    // Rows of toothed edges, fifty teeth each.
                    var (x, y) = (2 + i / 50 % 18 * 48.0, 2 + i / 50 / 18 * 570.0 / (count / 900.0));
                    yield return (x + i % 50 * 0.9, y + i % 2 * 0.4, x + (i % 50 + 1) * 0.9, y + (i + 1) % 2 * 0.4);
                    break;
                case "random":
                    var (a, px, py) = (Next(2 * Math.PI), Next(880), Next(580));
                    yield return (px, py, px + 2 * Math.Cos(a), py + 2 * Math.Sin(a));
                    break;
                case "hatch":
                    yield return (0, i * 580.0 / count, 880, i * 580.0 / count);
                    break;
                case "star":
                    var (sin, cos) = Math.SinCos(Math.PI * i / count);
                    yield return (440 - 200 * cos, 290 - 200 * sin, 440 + 200 * cos, 290 + 200 * sin);
                    break;
                case "over":
                    if (i == 0)
                        yield return (0, 0, 880, 0);
                    else
                        yield return (i % 400 * 2.2, 0.3 + i / 400 * 0.2, i % 400 * 2.2 + 2, 0.3 + i / 400 * 0.2);
                    break;
                default:
                    var (s, c) = Math.SinCos(i % 3 * Math.PI / 3 + 0.3);
                    var (u, v, length) = (Next(900), (long)i * 7919 % count * 0.0371, 0.5 + 30 * Math.Pow(random.NextDouble(), 3));
                    yield return (u * c - v * s, u * s + v * c, (u + length) * c - v * s, (u + length) * s + v * c);
                    break;
            }
        }
    }

    private static byte[] Svg(IEnumerable<(double X1, double Y1, double X2, double Y2)> lines)
    {
        var text = new StringBuilder(
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"880mm\" height=\"580mm\" viewBox=\"0 0 880 580\"><path "
                + "fill=\"none\" stroke=\"#ff0000\" d=\""
        );
        foreach (var (x1, y1, x2, y2) in lines)
            text.Append(CultureInfo.InvariantCulture, $"M{x1:0.######} {y1:0.######}L{x2:0.######} {y2:0.######}");
        return Encoding.UTF8.GetBytes(text.Append("\"/></svg>").ToString());
    }
}
