using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings.Motion;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>The run as somebody watches it: the same seconds as the estimate, and the head where the lines are.</summary>
public class RunTimelineTests
{
    private static readonly RunSettings Usual = new(
        CutMmS: 20,
        ScoreMmS: 20,
        EngraveMmS: 100,
        PitchMm: 0.5,
        Passes: 1,
        AccelerationMmS2: 3000,
        CornerMmS: 0,
        RapidMmS: 500
    );

    private static (DrawingTime Time, RunTimeline Run) Of(string shapes, RunSettings? settings = null)
    {
        var svg = $"""<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">{shapes}</svg>""";
        var run = new RunTimeline(settings ?? Usual);
        var drawing = DrawingFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(svg)));
        return (DrawingTime.Of(drawing, TestColours.Map, settings ?? Usual, run), run);
    }

    private const string Everything =
        "<rect x='5' y='120' width='40' height='20' fill='black'/><path d='M10 10H60' stroke='blue' fill='none'/>"
        + "<g fill='none' stroke='red'><rect x='100' y='10' width='50' height='30'/><circle cx='125' cy='25' r='8'/>"
        + "<path d='M10 60C30 90 50 30 90 60'/><path d='M180 190V150'/></g>";

    public static TheoryData<int, double, double> Ways =>
        new()
        {
            { 1, 0, 0 },
            { 3, 0, 0 },
            { 1, 5, 0 },
            { 2, 0, 4 },
        };

    [Theory]
    [MemberData(nameof(Ways))]
    public void Run_TakesAsLongAsTheEstimate(int passes, double corner, double startUp)
    {
        var (time, run) = Of(
            Everything,
            Usual with
            {
                Passes = passes,
                CornerMmS = corner,
                StartUpSeconds = startUp,
                Factors = [new TimeFactor(Operation.Cut, 1.3m, 0.9m, 1.1m, 6)],
            }
        );
        run.Seconds.ShouldBe(time.Seconds, 1e-6);
        run.At(time.Seconds + 1).Y.ShouldBe(run.At(time.Seconds).Y, 1e-3);
    }

    /// <summary>Where the beam is on to cut, the head is on a cut line; to engrave, over the patch.</summary>
    [Fact]
    public void Head_IsWhereTheLinesAre()
    {
        var (time, run) = Of(Everything);
        var seen = new HashSet<byte>();
        for (var second = 0.0; second < time.Seconds; second += 0.05)
        {
            var (x, y, what) = run.At(second);
            seen.Add(what);
            if (what == 2)
                (x is >= 10 and <= 60 && Math.Abs(y - 10) < 1e-3).ShouldBeTrue($"score at {x}, {y}");
            if (what == 3)
                (x is >= 5 and <= 45 && y is >= 120 and <= 140).ShouldBeTrue($"engrave at {x}, {y}");
            if (what == 1)
                Near(x, y).ShouldBeTrue($"cut at {x}, {y}, second {second}");
        }
        seen.Select(s => (int)s).ShouldBe([0, 1, 2, 3], ignoreOrder: true);

        static bool Near(double x, double y) =>
            (x is >= 99.9 and <= 150.1 && y is >= 9.9 and <= 40.1 && OnBox(x, y))
            || Math.Abs(Math.Sqrt(Math.Pow(x - 125, 2) + Math.Pow(y - 25, 2)) - 8) < 0.1
            || Math.Abs(x - 180) < 0.01 && y is >= 149.9 and <= 190.1
            || x is >= 9.9 and <= 90.1 && y is >= 50 and <= 70;

        static bool OnBox(double x, double y) =>
            Math.Min(Math.Min(Math.Abs(x - 100), Math.Abs(x - 150)), Math.Min(Math.Abs(y - 10), Math.Abs(y - 40))) < 0.01;
    }

    /// <summary>100 mm at 20 mm/s and 3000 mm/s2: half the time, half the way; the second line is run back.</summary>
    [Fact]
    public void Line_HalfTheTime_HalfTheWay()
    {
        var (time, run) = Of("<g fill='none' stroke='red'><path d='M0 0H100'/><path d='M0 5H100'/></g>");
        // From (0, 0) to (100, 0), over 5 mm to (100, 5), and back.
        var once = 100 / 20.0 + 20 / 3000.0;
        var (x, y, what) = run.At(once / 2);
        (what, y).ShouldBe(((byte)1, 0));
        x.ShouldBe(50, 0.1);
        (x, y, what) = run.At(time.Seconds - once / 4);
        (what, y).ShouldBe(((byte)1, 5));
        x.ShouldBe(25, 0.2);
    }

    [Fact]
    public void Bytes_AreColumnsOfOneLength_AndNothingIsNoBytes()
    {
        var run = Of("<path d='M0 0H100V50' stroke='red' fill='none'/>").Run;
        var bytes = run.ToBytes();
        bytes.Length.ShouldBe(4 * RunTimeline.Columns * run.Count);
        float At(int column, int row) => BitConverter.ToSingle(bytes, 4 * (column * run.Count + row));
        At(0, run.Count - 1).ShouldBe((float)run.Seconds);
        (At(1, run.Count - 1), At(2, run.Count - 1), At(3, run.Count - 1)).ShouldBe((100, 50, 1));
        Of("").Run.ToBytes().ShouldBeEmpty();
    }
}
