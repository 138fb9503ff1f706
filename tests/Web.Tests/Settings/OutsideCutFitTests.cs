using System.Text.Json;
using Shouldly;
using VelvetGate.Core.Settings.TestPieces;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Settings;

/// <summary>
/// The fit of what fell out against scipy: the same penalised likelihood written anew, its optimum found by another method, and the ends of
/// its profile by root finding.
/// </summary>
public class OutsideCutFitTests
{
    private const string Script = """
        import json, sys
        import numpy as np
        from scipy.optimize import minimize, brentq, minimize_scalar
        def loss(a, b, x, y):
            t = a + b*x
            p = 1/(1+np.exp(-t)); w = p*(1-p)
            X = np.column_stack([np.ones_like(x), x])
            s, d = np.linalg.slogdet(X.T @ (X*w[:,None]))
            return -(np.sum(y*t - np.logaddexp(0, t)) + (0.5*d if s > 0 else -1e9))
        out = []
        for cells in json.load(sys.stdin):
            x = np.log(np.array([c[0] for c in cells])); y = np.array([float(c[1]) for c in cells])
            m = x.mean()
            best = min((minimize(lambda v: loss(v[0]-v[1]*m, v[1], x, y), [0, s], method='Nelder-Mead',
                options={'xatol': 1e-10, 'fatol': 1e-13, 'maxiter': 20000, 'maxfev': 20000}) for s in (0.1, 2.0, 8.0)), key=lambda r: r.fun)
            b = best.x[1]; a = best.x[0]-b*m; half = -a/b
            def profile(h):
                return min(minimize_scalar(lambda k: loss(-np.exp(k)*h, np.exp(k), x, y), bounds=(np.log(0.01), np.log(1000)),
                    method='bounded', options={'xatol': 1e-11}).fun for _ in (0,))
            drop = lambda h: profile(h) - best.fun - 3.841458820694124/2
            ends = []
            for way in (-1, 1):
                far = half
                for k in range(1, 80):
                    far = half + way*0.05*k*(x.max()-x.min())
                    if drop(far) > 0: break
                ends.append(brentq(drop, half, far, xtol=1e-10) if drop(far) > 0 else None)
            out.append([a, b, half] + ends)
        json.dump(out, sys.stdout)
        """;

    [Fact]
    public void CurvesAndIntervals_OfRandomPieces_AreThoseOfScipy()
    {
        var random = new Random(1993);
        var pieces = new List<CellResult[]>();
        while (pieces.Count < 40)
        {
            var (truth, slope) = (1.2 + random.NextDouble(), 4 + 10 * random.NextDouble());
            var piece = Enumerable
                .Range(0, 20)
                .Select(i => truth * Math.Pow(1.12, i % 10 - 5))
                .Select(e => new CellResult(e, random.NextDouble() < 1 / (1 + Math.Exp(-slope * Math.Log(e / truth)))))
                .ToArray();
            // Where all lies apart, the interval is the two cells and no profile is asked for.
            if (CutResults.Of(piece) is { IsOk: true, Value.Boundary.Separated: false })
                pieces.Add(piece);
        }
        var asked = pieces.Select(p => p.Select(c => new[] { c.JPerMm, c.Through ? 1 : 0 }));
        var theirs = JsonSerializer.Deserialize<double?[][]>(Outside.Python(Script, JsonSerializer.Serialize(asked)))!;
        foreach (var (piece, t) in pieces.Zip(theirs))
        {
            var curve = ThroughCurve.Fit([.. piece.Select(c => Math.Log(c.JPerMm))], [.. piece.Select(c => c.Through)]);
            curve.Slope.ShouldBe(t[1]!.Value, 1e-3 * Math.Abs(t[1]!.Value));
            curve.Half.ShouldBe(t[2]!.Value, 1e-4);
            var boundary = CutResults.Of(piece).Value.Boundary;
            if (t[3] is { } low && boundary.Low is { } ours)
                Math.Log(ours).ShouldBe(low, 1e-3);
            if (t[4] is { } high && boundary.High is { } upper)
                Math.Log(upper).ShouldBe(high, 1e-3);
        }
        theirs.Count(t => t[3] is not null && t[4] is not null).ShouldBeGreaterThan(20, "else hardly any interval was compared");
    }
}
