using System.Runtime.InteropServices;

namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>A short straight piece of a line; curves are cut into chords.</summary>
/// <param name="Angle">Direction of the line it lies on, whichever way it is drawn: ten-thousandths of a degree, from 0 to below 180
/// degrees.</param>
/// <param name="PerChord">Length of the curve for each mm of its chords.</param>
/// <param name="Side">1 when its line is closed and has its inside on the left, -1 on the right; 0 for an open line.</param>
internal readonly record struct Piece(Point A, Point B, int Angle, float PerChord, short Colour, sbyte Side);

/// <param name="Colour">Number of its colour.</param>
/// <param name="First">Its first piece; it has all up to the next line's first.</param>
/// <param name="Area">Signed area of its pieces, closed by a straight line; 0 for an open line.</param>
/// <param name="Order">When it is drawn: the first is 0.</param>
internal readonly record struct LinePath(Subpath Line, int Colour, int First, double Area, int Order);

/// <param name="Segment">Number within its line.</param>
/// <param name="From">Where on the segment it begins, of 0 to 1.</param>
internal readonly record struct Origin(int Segment, double From, double To);

/// <summary>All stroked lines of a drawing as short straight pieces, colour by colour and along each line.</summary>
internal sealed class LinePieces
{
    public const int HalfTurn = 1_800_000;

    private const double PerRadian = HalfTurn / Math.PI;

    /// <summary>A chord leaves its curve by no more than this.</summary>
    private const double SagMm = 0.003;

    private const double ShortestChordMm = 0.05;

    private const double MostTurn = 6 * Math.PI / 180;

    /// <summary>Chords of all curves together, roughly. Beyond it they become longer than <see cref="MostTurn"/> asks for.</summary>
    private const double MostChords = 3_000_000;

    private readonly List<LinePath> _paths = [];
    private Piece[] _pieces;
    private int[] _pathOf;
    private int _count;
    private readonly List<Origin>? _origins;
    private readonly int[] _starts;
    private readonly int[] _pathStarts;
    private readonly double _coarser = 1;

    /// <param name="traced">Also keeps where on its line each piece lies.</param>
    public LinePieces(Drawing drawing, bool traced = false)
    {
        if (traced)
            _origins = [];
        var stroked = drawing.Shapes.Where(s => s.Stroke is not null).ToList();
        Colours = [.. stroked.Select(s => s.Stroke!).Distinct().Order(StringComparer.Ordinal)];
        _starts = new int[Colours.Count + 1];
        _pathStarts = new int[Colours.Count + 1];
        var chords = Chords(stroked);
        _pieces = new Piece[(int)Math.Min(chords, MostChords) + stroked.Sum(s => s.Subpaths.Sum(p => p.Count)) + 1];
        _pathOf = new int[_pieces.Length];
        if (chords > MostChords)
            _coarser = MostChords / chords;
        var order = 0;
        var byColour = stroked
            .SelectMany(s =>
                s.Subpaths.Select(p => (Line: p, Colour: Colours.BinarySearch(s.Stroke!, StringComparer.Ordinal), Order: order++))
            )
            .ToLookup(p => p.Colour);
        for (var colour = 0; colour < Colours.Count; colour++)
        {
            (_starts[colour], _pathStarts[colour]) = (_count, _paths.Count);
            foreach (var path in byColour[colour])
                Add(path.Line, colour, path.Order);
        }
        (_starts[^1], _pathStarts[^1]) = (_count, _paths.Count);
    }

    /// <summary>Colours in their own order.</summary>
    public List<string> Colours { get; }

    public ReadOnlySpan<Piece> All => _pieces.AsSpan(0, _count);

    /// <summary>Which of the <see cref="Paths"/> each piece belongs to.</summary>
    public ReadOnlySpan<int> PathOf => _pathOf.AsSpan(0, _count);

    public ReadOnlySpan<LinePath> Paths => CollectionsMarshal.AsSpan(_paths);

    /// <summary>Where each piece lies on its line; only when traced.</summary>
    public Origin OriginOf(int piece) => _origins![piece];

    /// <summary>The pieces of a colour.</summary>
    public Range Of(int colour) => _starts[colour].._starts[colour + 1];

    /// <summary>The lines of a colour.</summary>
    public (int From, int To) PathsOf(int colour) => (_pathStarts[colour], _pathStarts[colour + 1]);

    /// <summary>The pieces of a line.</summary>
    public ReadOnlySpan<Piece> PiecesOf(int path) => All[_paths[path].First..(path + 1 < _paths.Count ? _paths[path + 1].First : _count)];

    private void Add(Subpath line, int colour, int order)
    {
        var first = _count;
        double twice = 0;
        for (var i = 0; i < line.Count; i++)
        {
            var segment = line[i];
            if (segment.Straight)
            {
                AddPiece(segment.Start, segment.End, 1, new Origin(i, 0, 1));
                continue;
            }
            var count = ChordsOf(segment, _coarser);
            var (from, start, chords) = (segment.Start, _count, 0.0);
            for (var c = 1; c <= count; c++)
            {
                var to = c == count ? segment.End : segment.At((double)c / count);
                chords += (to - from).Length;
                AddPiece(from, to, 1, new Origin(i, (c - 1.0) / count, (double)c / count));
                from = to;
            }
            var per = chords > 0 ? (float)(segment.Length() / chords) : 1;
            for (var p = start; p < _count; p++)
                _pieces[p] = _pieces[p] with { PerChord = per };
        }
        if (line.IsClosed)
        {
            var own = _pieces.AsSpan(first, _count - first);
            foreach (ref readonly var p in own)
                twice += Cross(p.A - line.Start, p.B - line.Start);
            foreach (ref var p in own)
                p = p with { Side = (sbyte)Math.Sign(twice) };
        }
        _paths.Add(new LinePath(line, colour, first, twice / 2, order));

        void AddPiece(Point a, Point b, float per, Origin origin)
        {
            var d = b - a;
            if (d.Length < 1e-6)
                return;
            var angle = (int)Math.Round(Math.Atan2(d.Y, d.X) * PerRadian);
            if (angle < 0)
                angle += HalfTurn;
            if (angle >= HalfTurn)
                angle -= HalfTurn;
            if (_count == _pieces.Length)
            {
                Array.Resize(ref _pieces, 2 * _count);
                Array.Resize(ref _pathOf, 2 * _count);
            }
            _origins?.Add(origin);
            _pathOf[_count] = _paths.Count;
            _pieces[_count++] = new Piece(a, b, angle, per, (short)Math.Min(colour, short.MaxValue), 0);
        }
    }

    private static double Chords(List<Shape> shapes)
    {
        double chords = 0;
        foreach (var path in shapes.SelectMany(s => s.Subpaths))
        {
            for (var i = 0; i < path.Count; i++)
            {
                if (path[i] is { Straight: false } curve)
                    chords += ChordsOf(curve, 1);
            }
        }
        return chords;
    }

    /// <summary>
    /// As many that none turns or sags too much, taking the turning of the control polygon, which is never less than that of the curve.
    /// </summary>
    private static int ChordsOf(in Segment s, double coarser)
    {
        Point a = s.C1 - s.Start,
            b = s.C2 - s.C1,
            c = s.End - s.C2;
        var (turn, length) = (Turn(a, b) + Turn(b, c) + (b.Length < 1e-12 ? Turn(a, c) : 0), a.Length + b.Length + c.Length);
        var wanted = Math.Max(turn / MostTurn, Math.Sqrt(turn * length / (8 * SagMm)));
        return (int)Math.Clamp(Math.Ceiling(Math.Min(wanted, length / ShortestChordMm) * coarser), 1, 4096);
    }

    private static double Turn(Point a, Point b) =>
        a.Length < 1e-12 || b.Length < 1e-12 ? 0 : Math.Abs(Math.Atan2(Cross(a, b), a.X * b.X + a.Y * b.Y));

    private static double Cross(Point a, Point b) => a.X * b.Y - a.Y * b.X;
}
