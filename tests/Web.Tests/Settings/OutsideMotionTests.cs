using System.Globalization;
using System.Text;
using System.Text.Json;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Motion;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Settings;

/// <summary>
/// Run time against an independent integration in Python: curves sampled finely, their curvature from its formula, and the greatest speed
/// found on a fine grid along the path.
/// </summary>
public class OutsideMotionTests
{
    private const string Script = """
        import json, sys, math
        import numpy as np
        def seconds(curves, v, a):
            s, lim, total = [], [], 0.0
            for c in curves:
                p = np.array(c, float)
                t = np.linspace(0, 1, 4001)
                d = 3*((1-t)**2)[:,None]*(p[1]-p[0]) + 6*((1-t)*t)[:,None]*(p[2]-p[1]) + 3*(t**2)[:,None]*(p[3]-p[2])
                e = 6*(1-t)[:,None]*(p[2]-2*p[1]+p[0]) + 6*t[:,None]*(p[3]-2*p[2]+p[1])
                speed = np.hypot(d[:,0], d[:,1])
                cross = np.abs(d[:,0]*e[:,1]-d[:,1]*e[:,0])
                with np.errstate(divide='ignore', invalid='ignore'):
                    r = np.where(cross > 1e-12, speed**3/np.maximum(cross, 1e-300), 1e12)
                arc = np.concatenate([[0], np.cumsum((speed[1:]+speed[:-1])/2*np.diff(t))])
                s.append(arc + total); lim.append(np.minimum(v, np.sqrt(a*r))); total += arc[-1]
            s, lim = np.concatenate(s), np.concatenate(lim)
            grid = np.linspace(0, total, 40001)
            w = np.interp(grid, s, lim)**2
            w[0] = w[-1] = 0
            ds = grid[1]-grid[0]
            for i in range(1, len(w)): w[i] = min(w[i], w[i-1]+2*a*ds)
            for i in range(len(w)-2, -1, -1): w[i] = min(w[i], w[i+1]+2*a*ds)
            u = np.sqrt(w)
            return float(np.sum(2*ds/(u[1:]+u[:-1])))
        print(json.dumps([seconds(c["curves"], c["v"], c["a"]) for c in json.load(sys.stdin)]))
        """;

    [Fact]
    public void SmoothPaths_TakeAsLongAsAnIndependentIntegrationSays()
    {
        var random = new Random(18);
        var cases = Enumerable.Range(0, 60).Select(_ => Smooth(random)).ToList();
        var asked = cases.Select(c => new
        {
            curves = c.Curves,
            v = c.V,
            a = c.A,
        });
        var theirs = JsonSerializer.Deserialize<double[]>(Outside.Python(Script, JsonSerializer.Serialize(asked)))!;
        var errors = cases.Zip(theirs).Select(p => Ours(p.First) / p.Second - 1).ToList();
        errors
            .Select(Math.Abs)
            .Max()
            .ShouldBeLessThan(0.03, string.Join(", ", errors.Select(e => e.ToString("0.0000", CultureInfo.InvariantCulture))));
        errors.Average().ShouldBeInRange(-0.01, 0.01);
        // Curves that hold the head back are among them.
        cases.Zip(theirs).Count(p => p.Second > 1.15 * Straight(p.First)).ShouldBeGreaterThan(10);
    }

    private sealed record Case(double[][][] Curves, double V, double A);

    /// <summary>Curves that go on smoothly into each other: each begins in the direction the one before ends in.</summary>
    private static Case Smooth(Random random)
    {
        var curves = new List<double[][]>();
        var (at, way) = (new Point(50 + 50 * random.NextDouble(), 50 + 50 * random.NextDouble()), 2 * Math.PI * random.NextDouble());
        for (var n = 2 + random.Next(6); n > 0; n--)
        {
            var (long1, long2) = (3 + 20 * random.NextDouble(), 3 + 20 * random.NextDouble());
            var turned = way + (random.NextDouble() - 0.5) * 2.4;
            var one = at + long1 * new Point(Math.Cos(way), Math.Sin(way));
            var two = one + 6 * random.NextDouble() * new Point(Math.Cos(turned), Math.Sin(turned));
            var end = two + long2 * new Point(Math.Cos(turned), Math.Sin(turned));
            curves.Add([
                [at.X, at.Y],
                [one.X, one.Y],
                [two.X, two.Y],
                [end.X, end.Y],
            ]);
            (at, way) = (end, turned);
        }
        return new Case([.. curves], 20 + 300 * random.NextDouble(), 300 + 2000 * random.NextDouble());
    }

    private static double Straight(Case c) => Length(c) / c.V + c.V / c.A;

    private static double Length(Case c) => c.Curves.Sum(k => Segment.Cubic(P(k[0]), P(k[1]), P(k[2]), P(k[3])).Length());

    private static Point P(double[] at) => new(at[0], at[1]);

    private static double Ours(Case c)
    {
        var path = new StringBuilder();
        foreach (var k in c.Curves)
        {
            if (path.Length == 0)
                path.Append(CultureInfo.InvariantCulture, $"M{k[0][0]:R} {k[0][1]:R}");
            path.Append(CultureInfo.InvariantCulture, $"C{k[1][0]:R} {k[1][1]:R} {k[2][0]:R} {k[2][1]:R} {k[3][0]:R} {k[3][1]:R}");
        }
        var svg =
            "<svg xmlns='http://www.w3.org/2000/svg' width='400mm' height='400mm' viewBox='0 0 400 400'>"
            + $"<path d='{path}' fill='none' stroke='#ff0000'/></svg>";
        var drawing = DrawingFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(svg)));
        var settings = new RunSettings(
            CutMmS: c.V,
            ScoreMmS: c.V,
            EngraveMmS: 400,
            PitchMm: 0.1,
            Passes: 1,
            AccelerationMmS2: c.A,
            CornerMmS: 0,
            RapidMmS: 300
        );
        return DrawingTime.Of(drawing, ColourMap.Parse("#ff0000=cut").Value, settings).Seconds;
    }
}
