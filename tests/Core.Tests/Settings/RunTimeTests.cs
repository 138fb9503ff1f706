using System.Globalization;
using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.Motion;
using VelvetGate.Core.Tests.Drawings;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>The run time that the gate takes from a summary, against closed forms and against the look at each line.</summary>
public class RunTimeTests
{
    private static readonly RunSettings Usual = new(
        CutMmS: 10,
        ScoreMmS: 20,
        EngraveMmS: 400,
        PitchMm: 0.1,
        Passes: 1,
        AccelerationMmS2: 1000,
        CornerMmS: 0,
        RapidMmS: 500
    );

    /// <summary>A trapezoid of speed (100 mm at 50 mm/s, 1000 mm/s2), a triangle when short.</summary>
    [Theory]
    [InlineData(100, 50, 1000, 2.05)]
    [InlineData(1, 50, 1000, 0.0632455532)]
    [InlineData(2.5, 50, 1000, 0.1)] // the border between the two
    public void OneLine_ClosedForm(double mm, double speed, double acceleration, double seconds) =>
        RunTime
            .Of(
                SvgReaderTests.Summary($"<path d='M0 0H{mm.ToString(CultureInfo.InvariantCulture)}' stroke='red' fill='none'/>"),
                TestColours.Map,
                Usual with
                {
                    CutMmS = speed,
                    AccelerationMmS2 = acceleration,
                }
            )
            .Seconds.ShouldBe(seconds, 1e-9);

    /// <summary>100 mm square at 20 mm/s and 3000 mm/s2, stopping at corners: 4 (100/20 + 20/3000) = 20.027 s for each pass.</summary>
    [Fact]
    public void Square_StopsAtEachCorner_InEachPass()
    {
        var square = SvgReaderTests.Summary("<rect width='100' height='100' stroke='red' fill='none'/>");
        var settings = Usual with { CutMmS = 20, AccelerationMmS2 = 3000 };
        RunTime.Of(square, TestColours.Map, settings).Seconds.ShouldBe(20.0267, 1e-4);
        RunTime.Of(square, TestColours.Map, settings with { Passes = 2 }).Seconds.ShouldBe(2 * 20.0267, 1e-3);
    }

    [Fact]
    public void Engraving_IsLinesTimesWidthAndTurnRounds_BlankRowsLeftOut()
    {
        var settings = Usual with { AccelerationMmS2 = 4000 };
        double Of(string shapes) => RunTime.Of(SvgReaderTests.Summary(shapes), TestColours.Map, settings).Seconds;
        var one = 100 * (40 / 400.0 + 2 * 400 / 4000.0);
        Of("<rect width='40' height='10' fill='black'/>").ShouldBe(one, 0.5);
        Of("<rect width='40' height='10' fill='black'/><rect width='40' height='10' y='80' fill='black'/>").ShouldBe(2 * one, 1);
    }

    /// <summary>A single line along the rows takes its one row, and is never nothing.</summary>
    [Fact]
    public void Engraving_OneLineAlongTheRows_IsOneRow() =>
        RunTime
            .Of(SvgReaderTests.Summary("<path d='M0 5H80' stroke='black' fill='none'/>"), TestColours.Map, Usual)
            .Seconds.ShouldBe(80 / 400.0 + 2 * 400 / 1000.0, 1e-3);

    /// <summary>Two squares in one colour are one layer, a score is another: each starts once, in both passes together.</summary>
    [Fact]
    public void StartUp_IsOnceForEachLayer()
    {
        var drawing = SvgReaderTests.Summary(
            "<g fill='none'><rect width='10' height='10' stroke='red'/><rect x='20' width='10' height='10' stroke='red'/>"
                + "<path d='M0 30H30' stroke='blue'/></g>"
        );
        var plain = RunTime.Of(drawing, TestColours.Map, Usual with { Passes = 2 });
        var slow = RunTime.Of(drawing, TestColours.Map, Usual with { Passes = 2, StartUpSeconds = 4 });
        slow.Seconds.ShouldBe(plain.Seconds + 2 * 4, 1e-9);
        slow.ByOperation.Travel.ShouldBe(plain.ByOperation.Travel + 2 * 4, 1e-9);
        slow.Layers.Select(l => (l.Colour, l.Operation)).ShouldBe([("#ff0000", Operation.Cut), ("#0000ff", Operation.Score)]);
        slow.Layers.Sum(l => l.Seconds).ShouldBe(slow.ByOperation.Cut + slow.ByOperation.Score, 1e-9);
    }

    /// <summary>
    /// 400 mm/s at 4000 mm/s2 brakes over 20 mm. A run-out of 30 mm adds 10 mm at speed at both ends of each of 100 rows: 5 s. One of
    /// 15 mm is less than braking takes, and adds nothing.
    /// </summary>
    [Theory]
    [InlineData(30, 5)]
    [InlineData(15, 0)]
    public void Overscan_AddsWhatGoesBeyondBraking(double overscan, double more)
    {
        var settings = Usual with { AccelerationMmS2 = 4000 };
        var drawing = SvgReaderTests.Summary("<rect width='40' height='10' fill='black'/>");
        RunTime
            .Of(drawing, TestColours.Map, settings with { OverscanMm = overscan })
            .Seconds.ShouldBe(RunTime.Of(drawing, TestColours.Map, settings).Seconds + more, 1e-9);
    }

    /// <summary>What a steward accepted is for its operation, and says how close its runs lay; the others keep the usual range.</summary>
    [Fact]
    public void Factor_CorrectsItsOperationOnly_WithItsOwnRange()
    {
        var drawing = SvgReaderTests.Summary(
            "<g fill='none'><rect width='100' height='100' stroke='red'/><path d='M0 120H100' stroke='blue'/></g>"
        );
        var plain = RunTime.Of(drawing, TestColours.Map, Usual);
        var told = RunTime.Of(
            drawing,
            TestColours.Map,
            Usual with
            {
                Factors = [new TimeFactor(Operation.Cut, Factor: 1.5m, Low: 0.95m, High: 1.1m, Runs: 7)],
            }
        );
        told.ByOperation.Cut.ShouldBe(1.5 * plain.ByOperation.Cut, 1e-9);
        told.ByOperation.Score.ShouldBe(plain.ByOperation.Score, 1e-9);
        // Score comes first: the one way from line to line is the cut's.
        var (cut, score) = (1.5 * (plain.ByOperation.Cut + plain.ByOperation.Travel), plain.ByOperation.Score);
        told.Seconds.ShouldBe(cut + score, 1e-9);
        told.Low.ShouldBe(0.95 * cut + 0.9 * score, 1e-9);
        told.High.ShouldBe(1.1 * cut + 1.25 * score, 1e-9);
    }

    /// <summary>Forty random drawings of rectangles, circles, ellipses and fine polygons, at slow and at fast speeds.</summary>
    [Theory]
    [InlineData(12, 0)]
    [InlineData(60, 0)]
    [InlineData(60, 15)]
    [InlineData(250, 0)]
    public void FromTheSummary_IsWithinTwoPerCentOfEachLine(double speed, double corner)
    {
        var random = new Random(5);
        var settings = Usual with { CutMmS = speed, ScoreMmS = speed * 1.5, AccelerationMmS2 = 2500, CornerMmS = corner };
        var off = new List<double>();
        for (var n = 0; n < 40; n++)
        {
            var drawing = SvgReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(Svg(random))));
            var each = DrawingTime.Of(drawing, TestColours.Map, settings);
            var summary = GateJson.Read<DrawingSummary>(GateJson.Write(DrawingReading.Summarise("a.svg", drawing)));
            var from = RunTime.Of(summary, TestColours.Map, settings);
            off.Add(Math.Abs(from.Seconds / each.Seconds - 1));
        }
        off.Average().ShouldBeLessThan(0.01);
        off.Order().ElementAt(35).ShouldBeLessThan(0.02, "of forty, at most four are farther off");
        off.Max().ShouldBeLessThan(0.05);
    }

    [Fact]
    public void ThickStockOnAWeakLaser_TakesSeveralPasses()
    {
        var swift = Gating.GateCase.Heron with { PowerW = 10 };
        RunSettings.For(swift, 1.2m, 3).Passes.ShouldBeGreaterThan(1);
        RunSettings.For(Gating.GateCase.Heron, 1.2m, 3).Passes.ShouldBe(1);
    }

    private static string Svg(Random random)
    {
        var svg = new StringBuilder("<svg xmlns='http://www.w3.org/2000/svg' width='400mm' height='300mm' viewBox='0 0 400 300'>");
        for (var n = 0; n < 40; n++)
        {
            var (x, y, r) = (random.NextDouble() * 340 + 30, random.NextDouble() * 240 + 30, random.NextDouble() * 25 + 2);
            var colour = random.Next(4) == 0 ? "blue" : "red";
            var shape = random.Next(4) switch
            {
                0 => $"<rect x='{x - r:0.##}' y='{y - r:0.##}' width='{2 * r:0.##}' height='{r:0.##}'",
                1 => $"<circle cx='{x:0.##}' cy='{y:0.##}' r='{r:0.##}'",
                2 => $"<ellipse cx='{x:0.##}' cy='{y:0.##}' rx='{r:0.##}' ry='{r * 0.6:0.##}'",
                _ => $"<polygon points='{Polygon(x, y, r, random.Next(5, 60))}'",
            };
            svg.Append(CultureInfo.InvariantCulture, $"{shape} fill='none' stroke='{colour}'/>");
        }
        return svg.Append("</svg>").ToString();
    }

    private static string Polygon(double x, double y, double r, int corners) =>
        string.Join(
            " ",
            Enumerable
                .Range(0, corners)
                .Select(i => i * 2 * Math.PI / corners)
                .Select(a => string.Create(CultureInfo.InvariantCulture, $"{x + r * Math.Cos(a):0.###},{y + r * Math.Sin(a):0.###}"))
        );
}
