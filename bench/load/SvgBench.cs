using System.Diagnostics;
using System.Globalization;
using System.Text;
using VelvetGate.Bench.Baseline;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using VelvetGate.Store.Demo;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>Reading and checking a drawing against parsing its XML and path data alone.</summary>
internal static class SvgBench
{
    private const int Rounds = 5;

    /// <summary>Of a house in which the bench's red cuts: else nothing of it would run.</summary>
    internal static readonly ColourMap Colours = new(new Dictionary<string, StrokeMeaning> { ["#ff0000"] = StrokeMeaning.Cut });

    public static void Run()
    {
        var (small, large) = (new Size(10_000), new Size(100_000));
        // Until all is compiled for good, as in a server that has run for a while.
        var warm = Stopwatch.StartNew();
        while (warm.Elapsed.TotalSeconds < 6)
        {
            small.Round();
            large.Round();
        }
        small.Clear();
        large.Clear();
        GC.Collect();
        // Both sizes in turn: a machine that slows down for a while then slows both.
        for (var round = 0; round < Rounds; round++)
        {
            small.Round();
            large.Round();
        }
        small.Tell();
        large.Tell();
        var growth = small.Mine.Zip(large.Mine, (s, l) => Math.Log10(l / s)).ToList();
        Say(
            $"svg: growth from 10k to 100k is n^{Median(growth):0.00} ({growth.Min():0.00} to {growth.Max():0.00}); wanted at most "
                + "n^1.15, a ratio of at most 7 and 250 ms for 100,000"
        );
        TellOutside();
    }

    /// <summary>Drawings that this project did not make: every SVG among the packages of the tests, where they are there.</summary>
    private static void TellOutside()
    {
        var folder = Path.Combine("tests", "outside");
        if (!Directory.Exists(folder))
            return;
        var files = Directory.EnumerateFiles(folder, "*.svg", SearchOption.AllDirectories).Select(File.ReadAllBytes).ToList();
        var times = new List<double>();
        var refused = 0;
        foreach (var svg in files)
        {
            try
            {
                times.Add(Milliseconds(() => _ = Report(svg)));
            }
            catch (UnreadableDrawingException)
            {
                refused++;
            }
        }
        times.Sort();
        if (times.Count > 0)
            Say(
                $"svg: {times.Count} drawings of others, {files.Sum(f => (long)f.Length) / 1024} kB ({refused} not read): p50 "
                    + $"{times[times.Count / 2]:0.0} ms, p95 {times[times.Count * 95 / 100]:0.0} ms, longest {times[^1]:0.0} ms; wanted "
                    + "95 % within 150 ms"
            );
    }

    /// <summary>One size of drawing with its times in ms.</summary>
    private sealed class Size(int segments)
    {
        private readonly byte[] _svg = Drawing(segments);
        private readonly List<double> _plain = [];

        public List<double> Mine { get; } = [];

        public void Round()
        {
            _plain.Add(Milliseconds(() => SvgBaseline.Parse(_svg)));
            Mine.Add(Milliseconds(() => Check(_svg)));
        }

        public void Clear()
        {
            _plain.Clear();
            Mine.Clear();
        }

        public void Tell()
        {
            var (numbers, read) = (SvgBaseline.Parse(_svg), Check(_svg));
            if (read != segments || numbers != 2 * (segments + segments / 50))
                throw new InvalidOperationException($"{read} segments and {numbers} numbers were read of {segments}.");
            Say(
                $"svg: {segments} segments: parse alone {Spread(_plain, "ms")}, read and check {Spread(Mine, "ms")}, ratio "
                    + $"{Median(Mine) / Median(_plain):0.00}"
            );
        }
    }

    /// <returns>How many cut segments there are, from their lengths: each is as long as the next.</returns>
    private static int Check(byte[] svg)
    {
        var report = Report(svg);
        if (report.Findings.Any(f => f.Code == "line.duplicate"))
            throw new InvalidOperationException("No line is doubled in this drawing.");
        return (int)Math.Round(report.Strokes.Sum(s => s.LengthMm) / 1.5);
    }

    private static DrawingReport Report(byte[] svg) =>
        DrawingReport.Of(
            DrawingReading.Summarise("bench.svg", SvgReader.Read(new MemoryStream(svg))),
            Colours,
            DemoHouse.Machines[0],
            1.2m,
            3
        );

    /// <summary>Zigzags of 50 segments, 1.5 mm each, none over another.</summary>
    internal static byte[] Drawing(int segments)
    {
        var text = new StringBuilder("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"880mm\" height=\"580mm\" viewBox=\"0 0 880 580\">");
        var rise = Math.Sqrt(1.5 * 1.5 - 0.9 * 0.9);
        for (var path = 0; path < segments / 50; path++)
        {
            var (x, y) = (2 + path % 18 * 48.0, 2 + path / 18 * 5.0);
            text.Append("<path fill=\"none\" stroke=\"#ff0000\" stroke-width=\"0.1\" d=\"M")
                .Append(Number(x))
                .Append(' ')
                .Append(Number(y));
            for (var i = 1; i <= 50; i++)
                text.Append('L').Append(Number(x + i * 0.9)).Append(' ').Append(Number(y + i % 2 * rise));
            text.Append("\"/>");
        }
        return Encoding.UTF8.GetBytes(text.Append("</svg>").ToString());
    }

    private static string Number(double value) => value.ToString("0.#########", CultureInfo.InvariantCulture);
}
