using System.Globalization;
using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Dxf;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>
/// What has to stay the same whatever is done to a drawing that changes nothing about it: turned, mirrored, moved, drawn in another order,
/// backwards, in shorter pieces, in another format. Drawings are random parts with holes, slots, doubled and nearly doubled edges.
/// </summary>
public class MetamorphicTests
{
    private const double Kerf = 0.2;

    private sealed record Line(double X1, double Y1, double X2, double Y2, string Colour);

    /// <summary>Rectangles beside and within one another, some of whose edges lie twice, or 0.1 mm apart.</summary>
    private static List<Line[]> Parts(int seed)
    {
        var random = new Random(seed);
        var parts = new List<Line[]>();
        for (var i = 0; i < 6; i++)
        {
            var (x, y, w, h) = (10 + i % 3 * 60.0, 10 + i / 3 * 60.0, 20 + random.Next(30), 15 + random.Next(30));
            parts.Add(Rectangle(x, y, w, h, "#ff0000"));
            parts.Add(Rectangle(x + 4 + random.Next(3), y + 4, 6, 5, "#ff0000"));
            if (random.Next(2) == 0)
                parts.Add([new Line(x + 2, y, x + w - 3, y, "#ff0000")]); // once more along an edge
            if (random.Next(2) == 0)
                parts.Add([new Line(x + 3, y - 0.1, x + w - 4, y - 0.1, "#ff0000")]); // nearly
            if (random.Next(2) == 0)
                parts.Add([new Line(x + 1, y + h + 1.5, x + w, y + h + 1.5, "#0000ff")]); // scored, which crowds nothing
        }
        return parts;
    }

    private static Line[] Rectangle(double x, double y, double w, double h, string colour) =>
        [
            new(x, y, x + w, y, colour),
            new(x + w, y, x + w, y + h, colour),
            new(x + w, y + h, x, y + h, colour),
            new(x, y + h, x, y, colour),
        ];

    private static string Svg(IEnumerable<Line[]> parts, string transform = "")
    {
        var text = new StringBuilder(
            "<svg xmlns='http://www.w3.org/2000/svg' width='300mm' height='200mm' viewBox='0 0 300 200'><g fill='none' "
                + $"transform='{transform}'>"
        );
        foreach (var part in parts)
        {
            text.Append(CultureInfo.InvariantCulture, $"<path stroke='{part[0].Colour}' d='M{part[0].X1:R} {part[0].Y1:R}");
            foreach (var line in part)
                text.Append(CultureInfo.InvariantCulture, $"L{line.X2:R} {line.Y2:R}");
            text.Append(part[^1].X2 == part[0].X1 && part[^1].Y2 == part[0].Y1 ? "Z'/>" : "'/>");
        }
        return text.Append("</g></svg>").ToString();
    }

    private static DrawingSummary Summary(string svg) => DrawingReading.Summarise("t", SvgReaderTests.Read(svg));

    /// <summary>Codes with what was measured of them; places move with the drawing.</summary>
    private static List<(string Code, Severity Severity, bool Asks, double Mm)> Findings(DrawingSummary summary) =>
        [
            .. DrawingFindings
                .Of(
                    summary,
                    TestColours.Map,
                    GateCase.Heron with
                    {
                        KerfMm = (decimal)Kerf,
                        BedWidthMm = 2000,
                        BedHeightMm = 2000,
                        MarginMm = 0,
                    },
                    thicknessMm: 3
                )
                .Where(f => f.Code is not ("page.outside" or "order.innerFirst"))
                .Select(f => (f.Code, f.Severity, f.Asks, f.LengthMm))
                .OrderBy(f => f.Code, StringComparer.Ordinal),
        ];

    private static void ShouldAgree(
        List<(string Code, Severity Severity, bool Asks, double Mm)> own,
        List<(string Code, Severity Severity, bool Asks, double Mm)> other,
        string what
    )
    {
        other.Select(f => (f.Code, f.Severity, f.Asks)).ShouldBe(own.Select(f => (f.Code, f.Severity, f.Asks)), what);
        foreach (var (a, b) in own.Zip(other))
            b.Mm.ShouldBe(a.Mm, 0.05 + 0.002 * a.Mm, $"{what}: {a.Code}");
    }

    [Theory]
    [InlineData("translate(37.3 -12.9)")]
    [InlineData("rotate(90)")]
    [InlineData("rotate(17 150 100)")]
    [InlineData("rotate(3 10 10)")] // the border of two directions
    [InlineData("rotate(123.456)")]
    [InlineData("scale(-1 1)")]
    [InlineData("matrix(0 1 1 0 0 0)")]
    public void MovedTurnedOrMirrored_HasTheSameFindings(string transform)
    {
        for (var seed = 1; seed <= 6; seed++)
            ShouldAgree(Findings(Summary(Svg(Parts(seed)))), Findings(Summary(Svg(Parts(seed), transform))), $"seed {seed}");
    }

    [Fact]
    public void DrawnInAnotherOrder_HasTheSameFindings()
    {
        for (var seed = 1; seed <= 8; seed++)
        {
            var (parts, random) = (Parts(seed), new Random(seed));
            var mixed = parts.OrderBy(_ => random.Next()).ToList();
            ShouldAgree(Findings(Summary(Svg(parts))), Findings(Summary(Svg(mixed))), $"seed {seed}");
        }
    }

    [Fact]
    public void DrawnBackwards_HasTheSameFindings()
    {
        for (var seed = 1; seed <= 8; seed++)
        {
            var parts = Parts(seed);
            var back = parts.Select(p => p.Reverse().Select(l => new Line(l.X2, l.Y2, l.X1, l.Y1, l.Colour)).ToArray());
            ShouldAgree(Findings(Summary(Svg(parts))), Findings(Summary(Svg(back))), $"seed {seed}");
        }
    }

    [Theory]
    [InlineData(2)]
    [InlineData(7)]
    public void DrawnInShorterPieces_HasTheSameFindings(int pieces)
    {
        for (var seed = 1; seed <= 6; seed++)
        {
            var parts = Parts(seed);
            var cut = parts.Select(p =>
                p.SelectMany(l =>
                        Enumerable
                            .Range(0, pieces)
                            .Select(i => new Line(
                                At(l.X1, l.X2, i),
                                At(l.Y1, l.Y2, i),
                                At(l.X1, l.X2, i + 1),
                                At(l.Y1, l.Y2, i + 1),
                                l.Colour
                            ))
                    )
                    .ToArray()
            );
            ShouldAgree(Findings(Summary(Svg(parts))), Findings(Summary(Svg(cut))), $"seed {seed}");
        }

        double At(double from, double to, int i) => from + (to - from) * i / pieces;
    }

    /// <summary>Each part twice as large, with a kerf and a sheet twice as thick, has lengths twice as long.</summary>
    [Fact]
    public void Enlarged_WithItsSheet_HasFindingsInProportion()
    {
        for (var seed = 1; seed <= 6; seed++)
        {
            var own = Of(Summary(Svg(Parts(seed))), 0.2m, 3);
            var large = Of(Summary(Svg(Parts(seed), "scale(2)")), 0.4m, 6);
            large.Select(f => f.Code).ShouldBe(own.Select(f => f.Code));
            foreach (var (a, b) in own.Zip(large))
                b.LengthMm.ShouldBe(2 * a.LengthMm, 0.1 + 0.004 * a.LengthMm, $"seed {seed}: {a.Code}");
        }

        static List<Finding> Of(DrawingSummary summary, decimal kerf, decimal thick) =>
            [
                .. DrawingFindings
                    .Of(
                        summary,
                        TestColours.Map,
                        GateCase.Heron with
                        {
                            KerfMm = kerf,
                            BedWidthMm = 2000,
                            BedHeightMm = 2000,
                            MarginMm = 0,
                        },
                        thicknessMm: thick
                    )
                    .Where(f => f.Code is "line.duplicate" or "gap.tooClose" or "detail.thin")
                    .OrderBy(f => f.Code, StringComparer.Ordinal),
            ];
    }

    /// <summary>Written and read again, in either format, nothing about it has changed.</summary>
    [Fact]
    public void WrittenAndReadAgain_HasTheSameFindings()
    {
        for (var seed = 1; seed <= 6; seed++)
        {
            var drawing = SvgReaderTests.Read(Svg(Parts(seed), "rotate(11 100 100)"));
            var own = Findings(DrawingReading.Summarise("t", drawing));
            ShouldAgree(own, Findings(Summary(SvgWriter.Write(drawing))), $"seed {seed}, SVG");
            var dxf = DrawingFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(DxfWriter.Write(drawing))));
            ShouldAgree(own, Findings(DrawingReading.Summarise("t", dxf)), $"seed {seed}, DXF");
        }
    }

    /// <summary>What is nearer than some distance, and what is from there to another, is together what is nearer than the other.</summary>
    [Fact]
    public void Distances_AddUp()
    {
        for (var seed = 1; seed <= 6; seed++)
        {
            foreach (var spacing in Summary(Svg(Parts(seed), "rotate(29)")).Spacing!)
            {
                foreach (var (near, far) in new[] { (0.2, 3.0), (0.01, 13.0), (1.0, 1.5), (0.55, 7.25) })
                {
                    var (low, high, all) = (spacing.Between(0, near), spacing.Between(near, far), spacing.Between(0, far));
                    (low.AlongMm + high.AlongMm).ShouldBe(all.AlongMm, 1e-6);
                    (low.CrowdedMm + high.CrowdedMm).ShouldBe(all.CrowdedMm, 1e-6);
                    (low.Runs + high.Runs).ShouldBe(all.Runs);
                    all.InsideMm.ShouldBeLessThanOrEqualTo(all.AlongMm + 1e-9);
                }
            }
        }
    }
}
