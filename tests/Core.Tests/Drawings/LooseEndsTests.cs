using System.Globalization;
using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>Which cut lines do not close, whether drawn as one path or as many lines.</summary>
public class LooseEndsTests
{
    private static Loose? Loose(string paths) => Read(paths).Strokes.ShouldHaveSingleItem().Loose;

    private static DrawingSummary Read(string paths) =>
        DrawingReading.Summarise(
            "t.svg",
            SvgReaderTests.Read(
                $"<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='100mm' viewBox='0 0 100 100'><path d='{paths}' "
                    + "fill='none' stroke='#f00'/></svg>"
            )
        );

    [Theory]
    [InlineData("M0 0H10V10H0Z", null, 0)]
    [InlineData("M0 0H10V10H0", 1, 30)]
    [InlineData("M0 0H10M10 10V0M0 10H10M0 10V0", null, 0)] // a square of four lines, drawn in any order and direction
    [InlineData("M0 0H10M10 10V0M0 10H10", 1, 30)] // of three
    [InlineData("M0 0H10M10.03 10V0.02M0 10H10M0 10V0", null, 0)] // corners a little apart
    [InlineData("M0 0H10M10.3 10V0M0 10H10M0 10V0", 2, 40)] // one side too far away
    [InlineData("M0 0H10M20 0H30M40 0H50", 3, 30)]
    [InlineData("M0 0H10M10 0H20M10 0V10", 1, 30)] // three that meet, and end loosely
    [InlineData("M0 0H10M5 5A5 5 0 0 1 5 15M5 5A5 5 0 0 0 5 15", 1, 10)] // two half circles are one
    [InlineData("M0 0H10V10H0ZM10 10H20", 1, 10)] // a line that ends on a closed one
    [InlineData("M0 0H10V10H0ZM10 2H20V8H10", null, 0)] // three sides against another
    [InlineData("M0 0H10V10H0ZM10.2 2H20V8H10.2", 1, 25.6)] // not quite
    [InlineData("M0 0H20V10H5V0", 1, 55)] // one end on its own line, the other loose
    public void Chains_WithALooseEnd_AreCounted(string paths, int? count, double length)
    {
        var loose = Loose(paths);
        loose?.Count.ShouldBe(count!.Value);
        (loose is null).ShouldBe(count is null);
        (loose?.LengthMm ?? 0).ShouldBe(length, 1e-3);
    }

    [Fact]
    public void Places_AreTheEnds_AndStayAFew()
    {
        Loose("M1 2H10")!.At.ShouldBe([new Place(1, 2), new Place(10, 2)], ignoreOrder: true);
        Loose(string.Concat(Enumerable.Range(0, 90).Select(i => $"M0 {i}H10")))!
            .ShouldSatisfyAllConditions(l => l.Count.ShouldBe(90), l => l.At.Count.ShouldBe(50));
    }

    /// <summary>Ends on a lattice wider than the tolerance, each moved by less: against looking at every pair.</summary>
    [Fact]
    public void Random_Drawings_AgreeWithLookingAtEveryPair()
    {
        for (var seed = 0; seed < 60; seed++)
        {
            var random = new Random(seed);
            double Near(int lattice) => lattice + (random.NextDouble() - 0.5) * 0.02;
            var lines = Enumerable
                .Range(0, 120)
                .Select(_ => (X1: Near(random.Next(8)), Y1: Near(random.Next(8)), X2: Near(random.Next(8)), Y2: Near(random.Next(8))))
                .Where(l => Math.Abs(l.X1 - l.X2) + Math.Abs(l.Y1 - l.Y2) > 0.5)
                .Take(random.Next(3, 40))
                .ToList();
            var text = string.Concat(
                lines.Select(l => string.Create(CultureInfo.InvariantCulture, $"M{l.X1:R} {l.Y1:R}L{l.X2:R} {l.Y2:R}"))
            );
            var ends = lines.SelectMany((l, i) => new[] { (Line: i, X: l.X1, Y: l.Y1), (Line: i, X: l.X2, Y: l.Y2) }).ToList();
            bool Touch((int, double X, double Y) a, (int, double X, double Y) b) =>
                Math.Max(Math.Abs(a.X - b.X), Math.Abs(a.Y - b.Y)) < 0.3;
            var group = Enumerable.Range(0, lines.Count).ToArray();
            for (var changed = true; changed; )
            {
                changed = false;
                foreach (var a in ends)
                {
                    foreach (var b in ends.Where(b => Touch(a, b) && group[a.Line] != group[b.Line]))
                    {
                        group[a.Line] = group[b.Line] = Math.Min(group[a.Line], group[b.Line]);
                        changed = true;
                    }
                }
            }
            var loose = ends.Where(
                    (a, i) =>
                        !ends.Where((_, j) => j != i).Any(b => Touch(a, b))
                        && !lines.Where((_, l) => l != a.Line).Any(l => Apart(a.X, a.Y, l) < 0.05)
                )
                .Select(a => group[a.Line])
                .Distinct()
                .ToList();
            var found = Loose(text);
            (found?.Count ?? 0).ShouldBe(loose.Count, $"seed {seed}");
            (found?.LengthMm ?? 0).ShouldBe(
                lines
                    .Where((_, i) => loose.Contains(group[i]))
                    .Sum(l => Math.Sqrt((l.X1 - l.X2) * (l.X1 - l.X2) + (l.Y1 - l.Y2) * (l.Y1 - l.Y2))),
                1e-3,
                $"seed {seed}"
            );
        }
    }

    private static double Apart(double x, double y, (double X1, double Y1, double X2, double Y2) line)
    {
        var (dx, dy) = (line.X2 - line.X1, line.Y2 - line.Y1);
        var t = Math.Clamp(((x - line.X1) * dx + (y - line.Y1) * dy) / (dx * dx + dy * dy), 0, 1);
        return Math.Sqrt(Math.Pow(x - line.X1 - t * dx, 2) + Math.Pow(y - line.Y1 - t * dy, 2));
    }

    /// <summary>Two hundred thousand ends in one corner, and as many in the next cell, must not be compared each with each.</summary>
    [Fact]
    public async Task ManyEnds_InOnePlace_AreNoMoreWorkThanFew()
    {
        var text = new StringBuilder();
        for (var i = 0; i < 100_000; i++)
            text.Append(
                CultureInfo.InvariantCulture,
                $"M50 50l{1 + i % 997 * 0.03:0.##} {1 + i % 1009 * 0.03:0.##}M50.045 50.045l-9 {1 + i * 0.0003:0.####}"
            );
        var loose = await Task.Run(() => Loose(text.ToString()), TestContext.Current.CancellationToken)
            .WaitAsync(TimeSpan.FromSeconds(20), TestContext.Current.CancellationToken);
        loose!.LengthMm.ShouldBeGreaterThan(1000);
    }

    [Fact]
    public void Finding_WarnsOnCutsAlone_AndADrawingReadBeforeSaysNothing()
    {
        var drawing = Read("M0 0H10M20 0H30");
        var finding = DrawingFindings.Of(drawing, TestColours.Map, null).ShouldHaveSingleItem();
        (finding.Code, finding.Severity, finding.Count, finding.Text).ShouldBe(
            ("path.open", Severity.Warn, 2, "2 cut lines that do not close, 20 mm in all.")
        );
        DrawingFindings
            .Of(drawing, new ColourMap(new Dictionary<string, StrokeMeaning> { ["#ff0000"] = StrokeMeaning.Score }), null)
            .ShouldBeEmpty();
        DrawingFindings.Of(drawing with { Strokes = [drawing.Strokes[0] with { Loose = null }] }, TestColours.Map, null).ShouldBeEmpty();
    }
}
