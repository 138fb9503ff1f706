using System.Runtime.InteropServices;

namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>What is uppermost along a column so far. Each part laid over it meets what it covers, and nothing else.</summary>
/// <param name="across">Only neighbours of two colours.</param>
/// <param name="crowded">Where lengths of line are added by the distance of their nearest neighbour.</param>
internal sealed class Front(bool across, double[] crowded, CancellationToken patience)
{
    /// <summary>Of a part of a line, how far the next one below it is.</summary>
    private readonly record struct Top(double X0, double X1, int Part, double Below);

    private const int MostPieces = 8;

    /// <summary>
    /// Where more shows under a part than this, all of it is covered whatever the order: each shows once, and no drawing takes long.
    /// </summary>
    private const int MostCovered = 12;

    private readonly List<Top> _fresh = [];
    private readonly GapList<Top> _tops = new();
    private Part[] _parts = [];

    public List<Stretch> Found { get; } = [];

    /// <param name="order">Which of the parts lie in one column, lowest first.</param>
    public void Sweep(Part[] parts, ReadOnlySpan<int> order)
    {
        _parts = parts;
        _tops.Clear();
        for (var i = 0; i < order.Length; i++)
        {
            if ((i & 0x3FF) == 0)
                patience.ThrowIfCancellationRequested();
            Lay(order[i]);
        }
        for (var i = 0; i < _tops.Count; i++)
            Retire(_tops[i].Part, _tops[i].X0, _tops[i].X1, _tops[i].Below);
    }

    private void Lay(int part)
    {
        var (x0, x1) = (_parts[part].X0, _parts[part].X1);
        var first = FirstBeyond(x0);
        var (i, at, rest) = (first, x0, default(Top?));
        _fresh.Clear();
        if (i < _tops.Count && _tops[i].X0 < x0)
            _fresh.Add(_tops[i] with { X1 = x0 });
        var crowd = first + MostCovered < _tops.Count && _tops[first + MostCovered].X0 < x1;
        while (i < _tops.Count && _tops[i].X0 < x1)
        {
            // All that is left of one part is met at once, however its own neighbours below it vary.
            var (start, under) = (i, _tops[i].Part);
            var u = Math.Max(_tops[i].X0, x0);
            while (i + 1 < _tops.Count && _tops[i + 1].Part == under && _tops[i + 1].X0 < x1 && _tops[i + 1].X0 == _tops[i].X1)
                i++;
            var v = Math.Min(_tops[i].X1, x1);
            if (u > at)
                Add(new Top(at, u, part, double.PositiveInfinity));
            Meet(start, i, part, u, v, crowd);
            at = v;
            if (_tops[i].X1 > x1)
                rest = _tops[i] with { X0 = x1 };
            i++;
        }
        if (at < x1)
            Add(new Top(at, x1, part, double.PositiveInfinity));
        if (rest is { } right)
            _fresh.Add(right);
        _tops.Replace(first, i, CollectionsMarshal.AsSpan(_fresh));
    }

    private int FirstBeyond(double x)
    {
        var (low, high) = (0, _tops.Count);
        while (low < high)
        {
            var mid = (low + high) / 2;
            if (_tops[mid].X1 > x)
                high = mid;
            else
                low = mid + 1;
        }
        return low;
    }

    /// <summary>Neighbours on the front that say the same become one, so that it stays short.</summary>
    private void Add(in Top top)
    {
        if (
            _fresh.Count > 0
            && _fresh[^1] is var last
            && last.Part == top.Part
            && (last.Below == top.Below || Math.Abs(last.Below - top.Below) < 0.002)
        )
            _fresh[^1] = last with { X1 = top.X1 };
        else
            _fresh.Add(top);
    }

    /// <param name="crowd">Covers what is met even where it rises above.</param>
    /// <param name="first">The first of the pieces of the front that are one part, and <paramref name="last"/> the last.</param>
    private void Meet(int first, int last, int part, double u, double v, bool crowd)
    {
        ref readonly var under = ref _parts[_tops[first].Part];
        ref readonly var over = ref _parts[part];
        var cosine = 1 / Math.Sqrt(1 + over.Slope * over.Slope);
        var (from, to) = (cosine * (over.At(u) - under.At(u)), cosine * (over.At(v) - under.At(v)));
        // Two that cross within the column are in the wrong order in one half of it.
        var turned = from + to < 0;
        if (turned)
            (from, to) = (-from, -to);
        // What lies farther below the front than the next line there is not its neighbour.
        var gap = (from + to) / 2;
        var hidden = turned && _tops[first].Below < gap;
        // Where a part shows in very many pieces they become one, with the nearest of their neighbours: the front stays short.
        var nearest = last - first < MostPieces ? double.NaN : NearestBelow(first, last);
        var apart =
            hidden ? double.PositiveInfinity
            : turned ? Side(over, under, u, v, from, to, cosine)
            : Side(under, over, u, v, from, to, cosine);
        for (var i = first; i <= last; i++)
        {
            var top = _tops[i];
            var (x0, x1) = (Math.Max(top.X0, u), Math.Min(top.X1, v));
            if (apart == 0)
            {
                Retire(top.Part, x0, x1, top.Below);
                Add(new Top(x0, x1, part, Below(top)));
            }
            else if (turned && !crowd)
            {
                // It lies between the front and what is below that, unless it lies below both.
                Retire(part, x0, x1, Math.Min(apart, top.Below >= gap ? top.Below - gap : double.PositiveInfinity));
                Add(new Top(x0, x1, top.Part, Math.Min(Below(top), apart)));
            }
            else
            {
                Retire(top.Part, x0, x1, Math.Min(top.Below, apart));
            }
        }
        if (apart != 0 && (!turned || crowd))
            Add(new Top(u, v, part, apart));

        double Below(in Top top) => double.IsNaN(nearest) ? top.Below : nearest;
    }

    private double NearestBelow(int first, int last)
    {
        var nearest = double.PositiveInfinity;
        for (var i = first; i <= last; i++)
            nearest = Math.Min(nearest, _tops[i].Below);
        return nearest;
    }

    /// <returns>How far apart the two are; 0 when they lie on one another; infinite when they do not run alongside, or another direction
    /// answers for them.</returns>
    private double Side(in Part below, in Part above, double u, double v, double from, double to, double cosine)
    {
        var apart = (from + to) / 2;
        if (apart >= Neighbours.FarthestMm || v - u < 1e-6)
            return double.PositiveInfinity;
        var sum = below.Turn + above.Turn;
        if (Math.Abs(below.Turn - above.Turn) > Neighbours.Core || sum < -Neighbours.Core || sum >= Neighbours.Core)
            return double.PositiveInfinity;
        if (across && below.Colour == above.Colour)
            return double.PositiveInfinity;
        // Both ends count: where two lines only cross they lie on one another nowhere.
        var same = Math.Max(Math.Abs(from), Math.Abs(to)) < Neighbours.SameMm;
        if (same)
            (from, to) = (0, 0);
        var mm = (float)((v - u) / cosine * Math.Max(below.PerChord, above.PerChord));
        var (within, withinAbove) = (below.Up > 0 ? 1 : 0, above.Up < 0 ? 1 : 0);
        // The one drawn first comes first, so that a run does not break where two that lie on one another change places.
        Found.Add(
            below.Piece < above.Piece
                ? new Stretch(below.Piece, above.Piece, mm, (float)from, (float)to, (byte)(within | withinAbove << 1))
                : new Stretch(above.Piece, below.Piece, mm, (float)from, (float)to, (byte)(withinAbove | within << 1))
        );
        return same ? 0 : Math.Max(apart, 1e-9);
    }

    private void Retire(int part, double u, double v, double nearest)
    {
        if (across || nearest >= Neighbours.FarthestMm)
            return;
        ref readonly var own = ref _parts[part];
        var slope = own.Slope;
        crowded[Step(nearest)] += (v - u) * Math.Sqrt(1 + slope * slope) * own.PerChord;
    }

    /// <summary>The hundredth of a mm a distance lies in; what is a rounding error short of one belongs to it.</summary>
    internal static int Step(double mm) => Math.Clamp((int)Math.Floor(mm / Neighbours.StepMm + 1e-3), 0, Neighbours.Steps - 1);
}
