namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>Which closed line of a colour lies in which: the outline of a part, a hole in it, a part in the hole, and so on.</summary>
internal sealed class Nesting
{
    private const int None = -1;

    /// <summary>So far within its own line a line is looked at: more than a shared edge is off, less than anything that is cut.</summary>
    private const double StepMm = 2e-3;

    /// <summary>Pieces looked at in all. Drawings far beyond those that are cut are not sorted into each other.</summary>
    private const long MostTests = 60_000_000;

    private readonly LinePieces _pieces;
    private readonly int[] _parents;
    private readonly int[] _depths;
    private readonly bool _anyClosed;
    private long _tests;

    public Nesting(LinePieces pieces)
    {
        _pieces = pieces;
        (_parents, _depths) = (new int[pieces.Paths.Length], new int[pieces.Paths.Length]);
        _parents.AsSpan().Fill(None);
        foreach (ref readonly var path in pieces.Paths)
            _anyClosed |= path.Area != 0;
        for (var colour = 0; colour < pieces.Colours.Count && Known; colour++)
            Look(colour);
        for (var p = 0; p < _parents.Length; p++)
            _depths[p] = DepthOf(p);
    }

    /// <summary>False when there is too much to sort: then every line is taken to stand by itself.</summary>
    public bool Known { get; private set; } = true;

    /// <summary>The closed line round it, or -1.</summary>
    public int Parent(int path) => Known ? _parents[path] : None;

    /// <summary>How many closed lines lie round it.</summary>
    public int Depth(int path) => Known ? _depths[path] : 0;

    /// <param name="inside">As <see cref="Stretch.Inside"/> has it.</param>
    /// <returns>Whether the strip between two lines stays: an even number of closed lines round it is waste.</returns>
    public bool IsPart(int a, int b, int inside)
    {
        if (!_anyClosed)
            return false;
        var (withinA, withinB) = ((inside & 1) != 0, (inside & 2) != 0);
        // Within both, of two lines that cross, or of one: the strip lies within the deeper.
        var round = (withinA, withinB) switch
        {
            (true, true) => 1 + Math.Max(Depth(a), Depth(b)),
            (true, false) => 1 + Depth(a),
            (false, true) => 1 + Depth(b),
            _ => _pieces.Paths[a].Area != 0 ? Depth(a)
            : _pieces.Paths[b].Area != 0 ? Depth(b)
            : 0,
        };
        return round % 2 == 1;
    }

    private int DepthOf(int path)
    {
        var depth = 0;
        for (var p = _parents[path]; p != None; p = _parents[p])
            depth++;
        return depth;
    }

    private void Look(int colour)
    {
        var all = _pieces.All;
        var range = _pieces.Of(colour);
        var (from, to) = (range.Start.Value, range.End.Value);
        var closed = new List<int>();
        var (first, end) = _pieces.PathsOf(colour);
        for (var p = first; p < end; p++)
        {
            if (_pieces.Paths[p].Area != 0)
                closed.Add(p);
        }
        if (closed.Count < 2)
            return;
        var grid = new PieceGrid(_pieces, from, to, closed.Count);
        var (above, round) = (new Dictionary<int, int>(closed.Count), new Dictionary<int, int>(closed.Count));
        var points = new Dictionary<int, Point>(closed.Count);
        foreach (var p in closed)
        {
            if (Within(p) is not { } point)
                continue;
            points[p] = point;
            var hit = grid.Above(point, p, ref _tests);
            if (_tests > MostTests)
            {
                Known = false;
                return;
            }
            if (hit < 0)
            {
                round[p] = None;
                continue;
            }
            var piece = all[hit];
            var path = _pieces.PathOf[hit];
            above[p] = path;
            // A line with a positive area has its inside on the left, which is towards larger y where it runs towards larger x.
            if (piece.Side > 0 == piece.B.X > piece.A.X)
                round[p] = path;
        }
        foreach (var p in points.Keys)
        {
            // Only what is larger can lie round it; of two that are alike the one drawn first does.
            if (Resolve(p) is var q && q != None && (Size(q) > Size(p) || (Size(q) == Size(p) && q < p)))
                _parents[p] = q;
        }

        double Size(int path) => Math.Round(Math.Abs(_pieces.Paths[path].Area), 6);

        // What lies beside another line has the same line round it.
        int Resolve(int p)
        {
            var trail = new List<int>();
            var at = p;
            while (!round.ContainsKey(at) && trail.Count < 64 && !trail.Contains(at))
            {
                trail.Add(at);
                at = above[at];
                if (!points.ContainsKey(at))
                    break;
            }
            // Lines that reach into each other lead round in a circle: then all that lies above is counted.
            if (!round.TryGetValue(at, out var parent))
                parent = grid.Round(points[p], p, ref _tests);
            foreach (var t in trail)
                round.TryAdd(t, parent == t ? None : parent);
            round.TryAdd(p, parent);
            return parent;
        }
    }

    /// <summary>A point just inside a closed line, beside the middle of its longest piece.</summary>
    private Point? Within(int p)
    {
        var (best, longest) = (default(Piece), 0.0);
        foreach (ref readonly var piece in _pieces.PiecesOf(p))
        {
            if ((piece.B - piece.A).Length is var length && length > longest)
                (best, longest) = (piece, length);
        }
        if (longest <= 0)
            return null;
        var d = (1 / longest) * (best.B - best.A);
        var side = _pieces.Paths[p].Area > 0 ? 1 : -1;
        return 0.5 * (best.A + best.B) + side * StepMm * new Point(-d.Y, d.X);
    }
}
