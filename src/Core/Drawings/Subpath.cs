namespace VelvetGate.Core.Drawings;

/// <summary>
/// A run of joined pieces: one pen-down stroke. Kept as its points, each joint once: a drawing may hold a million pieces.
/// </summary>
public sealed class Subpath
{
    /// <summary>Ends nearer than this are one point.</summary>
    public const double ClosedWithinMm = 0.001;

    // Straight ones alone: n + 1 points. With curves among them: 3n + 1, the two between being the controls.
    private readonly Point[] _points;

    private readonly bool[]? _straight;

    /// <param name="pieces">At least one; each begins where the one before ends.</param>
    /// <param name="closedByCommand">The file says that it is closed.</param>
    public Subpath(ReadOnlySpan<Segment> pieces, bool closedByCommand)
    {
        ClosedByCommand = closedByCommand;
        Count = pieces.Length;
        foreach (ref readonly var piece in pieces)
        {
            if (!piece.Straight)
                _straight = new bool[Count];
            if (_straight is not null)
                break;
        }
        _points = new Point[(_straight is null ? 1 : 3) * Count + 1];
        _points[0] = pieces[0].Start;
        for (var i = 0; i < Count; i++)
        {
            ref readonly var piece = ref pieces[i];
            if (_straight is null)
            {
                _points[i + 1] = piece.End;
                continue;
            }
            _straight[i] = piece.Straight;
            (_points[3 * i + 1], _points[3 * i + 2], _points[3 * i + 3]) = (piece.C1, piece.C2, piece.End);
        }
    }

    private Subpath(Subpath from, Point[] points) =>
        (_points, _straight, Count, ClosedByCommand) = (points, from._straight, from.Count, from.ClosedByCommand);

    public bool ClosedByCommand { get; }

    public int Count { get; }

    public Point Start => _points[0];

    public Point End => _points[^1];

    public bool IsClosed => ClosedByCommand || (End - Start).Length <= ClosedWithinMm;

    public Segment this[int i] =>
        _straight is null ? Segment.Line(_points[i], _points[i + 1])
        : _straight[i] ? Segment.Line(_points[3 * i], _points[3 * i + 3])
        : Segment.Cubic(_points[3 * i], _points[3 * i + 1], _points[3 * i + 2], _points[3 * i + 3]);

    public Subpath Map(in Matrix m)
    {
        var mapped = new Point[_points.Length];
        for (var i = 0; i < mapped.Length; i++)
            mapped[i] = m.Map(_points[i]);
        return new Subpath(this, mapped);
    }

    /// <returns>Whether every point lies within so many mm of the origin, both ways; false also for what is not a number.</returns>
    public bool LiesWithin(double mm)
    {
        foreach (var p in _points)
        {
            if (!(Math.Abs(p.X) <= mm && Math.Abs(p.Y) <= mm))
                return false;
        }
        return true;
    }
}
