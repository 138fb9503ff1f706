using System.IO.Compression;
using System.Text;
using VelvetGate.Bench.Baseline;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.Jobs;
using VelvetGate.Core.Settings.Motion;
using VelvetGate.Store.Demo;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>
/// Run times of a large drawing, once from its lines and on twenty machines from its summary; 200 copies on a rack of sheets.
/// </summary>
internal static class JobsBench
{
    private const int Rounds = 5;

    public static void Run()
    {
        RunTimes();
        Copies();
    }

    private static void RunTimes()
    {
        var svg = SvgBench.Drawing(100_000);
        var drawing = SvgReader.Read(new MemoryStream(svg));
        var summary = DrawingReading.Summarise("bench.svg", drawing);
        var machines = Enumerable
            .Range(0, 20)
            .Select(i => DemoHouse.Machines[i % DemoHouse.Machines.Count] with { AccelerationMmS2 = 1000 + 100 * i })
            .ToList();
        var settings = RunSettings.For(DemoHouse.Machines[0], 1.2m, 3);
        var (parse, lines, timeline, twenty) = (new List<double>(), new List<double>(), new List<double>(), new List<double>());
        byte[] bytes = [];
        for (var round = 0; round < Rounds + 2; round++)
        {
            var plain = Milliseconds(() => SvgBaseline.Parse(svg));
            var once = 0.0;
            var own = Milliseconds(() => once = DrawingTime.Of(drawing, SvgBench.Colours, settings).Seconds);
            var shown = Milliseconds(() =>
            {
                var run = new RunTimeline(settings);
                DrawingTime.Of(drawing, SvgBench.Colours, settings, run);
                bytes = run.ToBytes();
            });
            var from = 0.0;
            var all = Milliseconds(() =>
            {
                foreach (var machine in machines)
                    from += RunTime.Of(summary, SvgBench.Colours, RunSettings.For(machine, 1.2m, 3)).Seconds;
            });
            var summed = RunTime.Of(summary, SvgBench.Colours, settings).Seconds;
            if (Math.Abs(summed - once) > 0.02 * once)
                throw new InvalidOperationException($"{summed} s from the summary, {once} s from the lines.");
            if (round < 2)
                continue;
            parse.Add(plain);
            lines.Add(own);
            timeline.Add(shown);
            twenty.Add(all);
        }
        using var packed = new MemoryStream();
        using (var zip = new GZipStream(packed, CompressionLevel.Fastest, leaveOpen: true))
            zip.Write(bytes);
        Say(
            $"jobs: run time of 100,000 segments: parse alone {Spread(parse, "ms")}, from its lines {Spread(lines, "ms")} (wanted "
                + $"500), with every move {Spread(timeline, "ms")}, {packed.Length / 1e6:0.00} MB packed (wanted 2); on twenty machines "
                + $"from the summary {Spread(twenty, "ms")} (wanted 20), within 2 %"
        );
    }

    private static void Copies()
    {
        var random = new Random(7);
        var cleared = new PieceClearance([Operation.Cut], [], null);
        var rack = Enumerable
            .Range(0, 200)
            .Select(i => new Piece(
                Tag: $"S-{i:0000}",
                MaterialId: "mdf",
                ThicknessMm: 3,
                WidthMm: 200 + random.Next(600),
                HeightMm: 200 + random.Next(300),
                Offcut: i % 3 == 0,
                Quarantined: false,
                ClearedFor: cleared
            ))
            .ToList();
        var svg =
            "<svg xmlns='http://www.w3.org/2000/svg' width='30mm' height='20mm' viewBox='0 0 30 20'><g fill='none' stroke='#9c2f4f'>"
            + "<rect width='28' height='18' x='1' y='1'/><circle cx='10' cy='10' r='4'/></g></svg>";
        var drawing = SvgReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(svg)));
        var wish = new PieceWish(
            MaterialId: "mdf",
            ThicknessMm: 3,
            MachineId: "heron",
            Operations: [Operation.Cut],
            Width: 28,
            Height: 18,
            Placement: new Placement(200)
        );
        var (theirs, ours) = (new List<double>(), new List<double>());
        for (var round = 0; round < Rounds + 2; round++)
        {
            var most = new Dictionary<string, int>();
            var plain = Milliseconds(() =>
            {
                foreach (var p in rack)
                    most[p.Tag.Value] = LayoutBaseline.Most(28, 18, (double)p.WidthMm, (double)p.HeightMm, 5, 3, 200);
            });
            IReadOnlyList<FoundPiece> found = [];
            var own = Milliseconds(() =>
            {
                found = Pieces.For(rack, wish);
                var on = found[0];
                Placing.On(drawing, wish.Placement, on.Layout, ((double)on.Piece.WidthMm, (double)on.Piece.HeightMm));
            });
            if (found.Any(f => f.Layout.Copies != most[f.Piece.Tag.Value]))
                throw new InvalidOperationException("Not as many copies lie on a sheet as one after the other.");
            if (round < 2)
                continue;
            theirs.Add(plain);
            ours.Add(own);
        }
        Say(
            $"jobs: 200 copies over 200 sheets: laid one after the other {Spread(theirs, "ms")}; every way, the piece to take "
                + $"and the drawing {Spread(ours, "ms")} (wanted 1,000); as many copies on each"
        );
    }
}
