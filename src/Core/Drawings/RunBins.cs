using System.Text.Json;
using System.Text.Json.Serialization;

namespace VelvetGate.Core.Drawings;

/// <summary>So many millimetres of line on a curve of about this radius.</summary>
public readonly record struct CurveBin(double RadiusMm, double Mm);

/// <summary>
/// Runs between sharp corners, of about one length, and how much of them lies on curves. Stored as [count, mm in all, radius, mm, …].
/// </summary>
/// <param name="Curves">Null for none, and in drawings read before this was measured.</param>
[JsonConverter(typeof(NumbersJson<MoveBin>))]
public readonly record struct MoveBin(int Count, double TotalMm, IReadOnlyList<CurveBin>? Curves = null) : INumbers<MoveBin>
{
    void INumbers<MoveBin>.Write(Utf8JsonWriter writer)
    {
        writer.WriteNumberValue(Count);
        writer.WriteNumberValue(TotalMm);
        foreach (var curve in Curves ?? [])
        {
            writer.WriteNumberValue(Math.Round(curve.RadiusMm, 3));
            writer.WriteNumberValue(Math.Round(curve.Mm, 3));
        }
    }

    static MoveBin INumbers<MoveBin>.Read(IReadOnlyList<double> n) =>
        new(
            (int)n[0],
            n[1],
            n.Count < 4 ? null : [.. Enumerable.Range(1, n.Count / 2 - 1).Select(i => new CurveBin(n[2 * i], n[2 * i + 1]))]
        );
}

/// <summary>Runs in quarter-octaves of length, their curves in half-octaves, so that a million of them stay a short list.</summary>
internal sealed class MoveBins
{
    /// <summary>On a wider curve no head of these machines is slowed.</summary>
    private const double Straight = 2_000;
    private readonly Dictionary<int, (int Count, double Mm, Dictionary<int, (double Mm, double Turn)> Curves)> _bins = [];
    private readonly List<CurveBin> _curves = [];
    private double _run;

    /// <summary>A stretch of the run that goes on, and the radius of its curve.</summary>
    public void Go(double mm, double radiusMm)
    {
        _run += mm;
        Bend(mm, radiusMm);
    }

    /// <summary>So much of the run lies on a curve.</summary>
    public void Bend(double mm, double radiusMm)
    {
        if (mm > 0 && radiusMm < Straight)
            _curves.Add(new CurveBin(Math.Max(radiusMm, 1e-3), mm));
    }

    /// <summary>The run ends at a corner, or with its path.</summary>
    public void Stop()
    {
        if (_run > 0)
        {
            var key = Octave(_run, 4);
            var bin = _bins.TryGetValue(key, out var known) ? known : (0, 0, []);
            foreach (var curve in _curves)
            {
                var radius = Octave(curve.RadiusMm, 2);
                var (mm, turn) = bin.Curves.GetValueOrDefault(radius);
                bin.Curves[radius] = (mm + curve.Mm, turn + curve.Mm / curve.RadiusMm);
            }
            _bins[key] = (bin.Count + 1, bin.Mm + _run, bin.Curves);
        }
        _run = 0;
        _curves.Clear();
    }

    public IReadOnlyList<MoveBin> Done() =>
        [
            .. _bins
                .OrderBy(b => b.Key)
                .Select(b => new MoveBin(
                    b.Value.Count,
                    b.Value.Mm,
                    b.Value.Curves.Count == 0
                        ? null
                        : [.. b.Value.Curves.OrderBy(c => c.Key).Select(c => new CurveBin(c.Value.Mm / c.Value.Turn, c.Value.Mm))]
                )),
        ];

    private static int Octave(double value, int parts) => (int)Math.Floor(Math.Log2(value) * parts);
}
