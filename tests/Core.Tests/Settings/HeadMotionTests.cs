using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Motion;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>How long a head takes, against closed forms of even acceleration.</summary>
public class HeadMotionTests
{
    private const double V = 20,
        A = 3000;

    private static readonly ColourMap AllCut = ColourMap.Parse("#ff0000=cut,#0000ff=score,#000000=engrave").Value;

    private static RunSettings At(double corner = 0, int passes = 1, double v = V, double a = A) =>
        new(CutMmS: v, ScoreMmS: v, EngraveMmS: 400, PitchMm: 0.1, Passes: passes, AccelerationMmS2: a, CornerMmS: corner, RapidMmS: 300);

    private static DrawingTime Time(string shapes, RunSettings settings)
    {
        var svg = $"<svg xmlns='http://www.w3.org/2000/svg' width='400mm' height='400mm' viewBox='0 0 400 400'>{shapes}</svg>";
        return DrawingTime.Of(DrawingFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(svg))), AllCut, settings);
    }

    private static string Cut(string path) => $"<path d='{path}' fill='none' stroke='#ff0000'/>";

    /// <summary>A long move: distance over speed, and once the time to reach it. A short one: 2 √(s / a).</summary>
    [Theory]
    [InlineData(100, 100 / V + V / A)]
    [InlineData(0.1, 0.011547005)]
    public void OneMove_IsATrapezoidOrATriangle(double mm, double seconds) =>
        Time(Cut($"M10 10h{mm.ToString(System.Globalization.CultureInfo.InvariantCulture)}"), At()).Seconds.ShouldBe(seconds, 1e-6);

    /// <summary>Four sides from rest to rest: 4 (100 / 20 + 20 / 3000) = 20.027 s.</summary>
    [Fact]
    public void ASquare_StoppingAtCorners() => Time(Cut("M10 10h100v100h-100z"), At()).Seconds.ShouldBe(20.0267, 0.0001);

    /// <summary>A hexagon whose corners are taken at 5 mm/s: each side from 5 to 20 and back to 5, the first and last from rest.</summary>
    [Fact]
    public void APolygon_AtItsCornerSpeed()
    {
        const double Corner = 5,
            Side = 50;
        var points = Enumerable
            .Range(0, 6)
            .Select(i => FormattableString.Invariant($"{200 + Side * Math.Cos(i * Math.PI / 3)},{200 + Side * Math.Sin(i * Math.PI / 3)}"));
        double Leg(double from, double to) =>
            (V - from + V - to) / A + (Side - (V * V - from * from) / (2 * A) - (V * V - to * to) / (2 * A)) / V;
        Time(Cut($"M{string.Join("L", points)}z"), At(Corner))
            .Seconds.ShouldBe(Leg(0, Corner) + 4 * Leg(Corner, Corner) + Leg(Corner, 0), 0.0001);
    }

    /// <summary>A circle wide enough is run at full speed; a small one at √(a r): 300 mm/s and 1000 mm/s2 on 5 mm are 70.7 mm/s.</summary>
    [Theory]
    [InlineData(50, 20, 3000, 20)]
    [InlineData(5, 300, 1000, 70.7107)]
    public void ACircle_IsRunAtTheSpeedItsCurveAllows(double radius, double speed, double a, double top)
    {
        var expected = 2 * Math.PI * radius / top + top / a;
        var time = Time($"<circle cx='200' cy='200' r='{radius}' fill='none' stroke='#ff0000'/>", At(v: speed, a: a));
        time.Seconds.ShouldBe(expected, expected * 0.01);
    }

    /// <summary>Very short pieces of a fine polygon do not stop the head: a circle of 720 sides takes as long as a circle.</summary>
    [Fact]
    public void AFinePolygon_IsACircle()
    {
        var points = Enumerable
            .Range(0, 720)
            .Select(i =>
                FormattableString.Invariant(
                    $"{200 + 50 * Math.Cos(i * Math.PI / 360):0.#####},{200 + 50 * Math.Sin(i * Math.PI / 360):0.#####}"
                )
            );
        var circle = Time("<circle cx='200' cy='200' r='50' fill='none' stroke='#ff0000'/>", At()).Seconds;
        Time(Cut($"M{string.Join("L", points)}z"), At()).Seconds.ShouldBe(circle, circle * 0.01);
    }

    /// <summary>Three squares: 60 mm on to the nearest, then 230 mm, each over 300 mm/s and once the time to reach it.</summary>
    [Fact]
    public void Travel_IsTheWayBetweenPaths_ToTheNearestFirst()
    {
        var three = Time(Cut("M10 10h40v40h-40z") + Cut("M300 10h40v40h-40z") + Cut("M70 10h40v40h-40z"), At());
        three.ByOperation.Travel.ShouldBe((60.0 + 230.0) / 300 + 2 * 300.0 / A, 0.0001, "on to the middle one first");
        var passes = Time(Cut("M10 10h40v40h-40z"), At(passes: 3));
        passes.ByOperation.Cut.ShouldBe(3 * Time(Cut("M10 10h40v40h-40z"), At()).Seconds, 1e-9);
    }

    /// <summary>Rows of engraving: each its width at speed and a turn-round; the blank rows between two marks cost nothing.</summary>
    [Fact]
    public void Engraving_SkipsBlankRows()
    {
        var turn = 2 * 400.0 / A;
        var one = Time("<rect x='10' y='10' width='40' height='5' fill='#000000'/>", At());
        one.ByOperation.Engrave.ShouldBe(50 * (40.0 / 400 + turn), 0.001);
        var two = Time(
            "<rect x='10' y='10' width='40' height='5' fill='#000000'/><rect x='10' y='300' width='40' height='5' fill='#000000'/>",
            At()
        );
        two.ByOperation.Engrave.ShouldBe(2 * one.ByOperation.Engrave, one.ByOperation.Engrave * 0.05);
    }

    [Fact]
    public void NothingToRun_TakesNoTime_AndTheRangeHoldsTheAnswer()
    {
        var none = Time("", At());
        (none.Seconds, none.Low, none.High, none.ByOperation, none.Layers.Count).ShouldBe((0, 0, 0, new SecondsBy(0, 0, 0, 0), 0));
        var time = Time(Cut("M10 10h100"), At());
        (time.Low < time.Seconds && time.Seconds < time.High).ShouldBeTrue();
        Should.Throw<ArgumentOutOfRangeException>(() => Time(Cut("M10 10h100"), At(v: 0)));
    }
}
