using System.Globalization;
using System.Text;
using Shouldly;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings.Spacing;

/// <summary>
/// The front against looking at every pair of lines, on drawings of which both are exact: lines of a few directions, in clusters.
/// </summary>
public class AllPairsTests
{
    private readonly record struct Stroke(double Along, double Across, double Length, int Direction);

    [Fact]
    public void Spacing_OfRandomLines_IsThatOfEveryPair()
    {
        for (var seed = 0; seed < 150; seed++)
        {
            var random = new Random(seed);
            var (lines, turn) = (Lines(random, 20 + random.Next(150)), random.NextDouble() * 180);
            var drawing = SvgReaderTests.Summary($"<path d='{Path(lines, turn)}' stroke='red'/>");
            foreach (var limit in new[] { 0.2, 1, 3, 12 })
            {
                var (along, crowded) = ByPairs(lines, limit);
                var found = drawing.Spacing!.Where(s => s.ColourA == s.ColourB).Select(s => s.Between(0, limit)).SingleOrDefault();
                (found?.AlongMm ?? 0).ShouldBe(along, 0.02 + 0.001 * along, $"seed {seed}, side by side within {limit}");
                (found?.CrowdedMm ?? 0).ShouldBe(crowded, 0.02 + 0.001 * crowded, $"seed {seed}, crowded within {limit}");
            }
        }
    }

    /// <summary>No two nearer than 0.03 mm, which would be one line, and none at a distance that is a limit.</summary>
    private static List<Stroke> Lines(Random random, int count)
    {
        var lines = new List<Stroke>();
        while (lines.Count < count)
        {
            var line = new Stroke(
                random.NextDouble() * 100,
                random.Next(1500) * 0.0371,
                0.5 + Math.Pow(random.NextDouble(), 3) * 80,
                random.Next(3)
            );
            if (
                !lines.Any(l =>
                    l.Direction == line.Direction
                    && Math.Abs(l.Across - line.Across) < 0.03
                    && Shared(l, line) is var (from, to)
                    && to > from
                )
            )
                lines.Add(line);
        }
        return lines;
    }

    private static string Path(List<Stroke> lines, double turn)
    {
        var text = new StringBuilder();
        foreach (var line in lines)
        {
            var (sin, cos) = Math.SinCos((turn + 60 * line.Direction) * Math.PI / 180);
            Write('M', line.Along);
            Write('L', line.Along + line.Length);

            void Write(char command, double along) =>
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"{command}{along * cos - line.Across * sin:0.#########} {along * sin + line.Across * cos:0.#########}"
                );
        }
        return text.ToString();
    }

    private static (double Along, double Crowded) ByPairs(List<Stroke> lines, double limit)
    {
        double along = 0,
            crowded = 0;
        foreach (var line in lines)
        {
            var near = lines.Where(l => l != line && l.Direction == line.Direction && Math.Abs(l.Across - line.Across) < limit).ToList();
            crowded += Covered(line, near);
            along += Covered(line, near.Where(l => l.Across > line.Across));
        }
        return (along, crowded);
    }

    private static double Covered(Stroke line, IEnumerable<Stroke> others)
    {
        double total = 0,
            reach = double.NegativeInfinity;
        foreach (var (from, to) in others.Select(o => Shared(line, o)).Where(s => s.To > s.From).OrderBy(s => s.From))
        {
            total += Math.Max(0, to - Math.Max(from, reach));
            reach = Math.Max(reach, to);
        }
        return total;
    }

    private static (double From, double To) Shared(Stroke a, Stroke b) =>
        (Math.Max(a.Along, b.Along), Math.Min(a.Along + a.Length, b.Along + b.Length));
}

/// <summary>What takes too long is given up in words.</summary>
public class PatienceTests
{
    [Fact]
    public void Measuring_BeyondPatience_SaysWhatToDo()
    {
        var lines = string.Concat(Enumerable.Range(0, 3000).Select(i => string.Create(CultureInfo.InvariantCulture, $"M0 {i * 0.01}H90")));
        var drawing = SvgReaderTests.Read(
            $"<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='100mm' viewBox='0 0 100 100'><path d='{lines}' "
                + "stroke='red'/></svg>"
        );
        var over = new CancellationToken(canceled: true);
        Should
            .Throw<VelvetGate.Core.Drawings.UnreadableDrawingException>(() =>
                VelvetGate.Core.Drawings.DrawingReading.Summarise("x", drawing, over)
            )
            .Message.ShouldEndWith("split it.");
        Should
            .Throw<VelvetGate.Core.Drawings.UnreadableDrawingException>(() =>
                VelvetGate.Core.Drawings.Mending.Mender.Mend(
                    drawing,
                    new VelvetGate.Core.Drawings.Mending.MendingQuestion(Doubled: true),
                    TestColours.Map,
                    0.2,
                    over
                )
            )
            .Message.ShouldEndWith("split it.");
    }
}
