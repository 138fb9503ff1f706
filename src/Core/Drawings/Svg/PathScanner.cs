using System.Runtime.InteropServices;

namespace VelvetGate.Core.Drawings.Svg;

/// <summary>Reads SVG path data in double precision. Data that is wrong counts up to its error (SVG 2, section 9.3.9).</summary>
/// <param name="scratch">Where the open subpath grows: one list for all paths of a file, so that it is grown once.</param>
internal ref struct PathScanner(string data, int budget, List<Segment> scratch)
{
    private readonly string _data = data;
    private int _at = 0;
    private readonly List<Subpath> _done = [];
    private readonly List<Segment> _open = scratch;
    private Point _start;
    private Point _here;
    private Point _lastControl;
    private char _lastCommand;
    private bool _started;

    public bool HadError { get; private set; }

    /// <exception cref="UnreadableDrawingException">More segments than the budget left for this file.</exception>
    public List<Subpath> Read()
    {
        var count = 0;
        var command = '\0';
        _open.Clear();
        while (SkipSeparators(command == '\0'))
        {
            var c = _data[_at];
            if (char.IsAsciiLetter(c))
            {
                command = c;
                _at++;
            }
            else if (command is 'Z' or 'z' or '\0')
            {
                HadError = true;
                break;
            }
            if ((!_started && command is not ('M' or 'm')) || !Step(command))
            {
                HadError = true;
                break;
            }
            if (command == 'M')
                command = 'L';
            if (command == 'm')
                command = 'l';
            if (++count > budget)
                throw new UnreadableDrawingException($"The drawing holds more than {DrawingLimits.Segments} pieces of line. Split it.");
        }
        Finish(closed: false);
        return _done;
    }

    private bool Step(char command)
    {
        var relative = char.IsAsciiLetterLower(command);
        var origin = relative ? _here : default;
        var upper = char.ToUpperInvariant(command);
        Point p,
            q,
            r;
        switch (upper)
        {
            case 'M':
                if (!Pair(origin, out p))
                    return false;
                Finish(closed: false);
                _start = _here = p;
                _started = true;
                break;
            case 'Z':
                if (_open.Count > 0 && (_here - _start).Length > 0)
                    _open.Add(Segment.Line(_here, _start));
                Finish(closed: true);
                _here = _start;
                break;
            case 'L':
                if (!Pair(origin, out p))
                    return false;
                LineTo(p);
                break;
            case 'H':
                if (!Number(out var x))
                    return false;
                LineTo(new Point(origin.X + x, _here.Y));
                break;
            case 'V':
                if (!Number(out var y))
                    return false;
                LineTo(new Point(_here.X, origin.Y + y));
                break;
            case 'C':
                if (!Pair(origin, out p) || !Pair(origin, out q) || !Pair(origin, out r))
                    return false;
                CubicTo(p, q, r);
                break;
            case 'S':
                if (!Pair(origin, out q) || !Pair(origin, out r))
                    return false;
                CubicTo(_lastCommand is 'C' or 'S' ? 2 * _here - _lastControl : _here, q, r);
                break;
            case 'Q':
                if (!Pair(origin, out p) || !Pair(origin, out r))
                    return false;
                QuadraticTo(p, r);
                break;
            case 'T':
                if (!Pair(origin, out r))
                    return false;
                QuadraticTo(_lastCommand is 'Q' or 'T' ? 2 * _here - _lastControl : _here, r);
                break;
            case 'A':
                if (
                    !Number(out var rx)
                    || !Number(out var ry)
                    || !Number(out var turn)
                    || !Flag(out var large)
                    || !Flag(out var sweep)
                    || !Pair(origin, out r)
                )
                    return false;
                foreach (var piece in Arcs.ToCubics(_here, rx, ry, turn, large, sweep, r))
                    _open.Add(piece);
                _here = r;
                break;
            default:
                return false;
        }
        _lastCommand = upper;
        return true;
    }

    private void LineTo(Point p)
    {
        _open.Add(Segment.Line(_here, p));
        _here = p;
    }

    private void CubicTo(Point c1, Point c2, Point end)
    {
        _open.Add(Segment.Cubic(_here, c1, c2, end));
        (_here, _lastControl) = (end, c2);
    }

    private void QuadraticTo(Point c, Point end)
    {
        _open.Add(Segment.Quadratic(_here, c, end));
        (_here, _lastControl) = (end, c);
    }

    private void Finish(bool closed)
    {
        if (_open.Count == 0)
            return;
        _done.Add(new Subpath(CollectionsMarshal.AsSpan(_open), closed));
        _open.Clear();
    }

    private bool Pair(Point origin, out Point p)
    {
        p = default;
        if (!Number(out var x) || !Number(out var y))
            return false;
        p = new Point(origin.X + x, origin.Y + y);
        return true;
    }

    /// <summary>A flag is one character and may touch its neighbours: <c>a1 1 0 01.5.5</c>.</summary>
    private bool Flag(out bool flag)
    {
        SkipSeparators(false);
        flag = _at < _data.Length && _data[_at] == '1';
        if (_at >= _data.Length || _data[_at] is not ('0' or '1'))
            return false;
        _at++;
        return true;
    }

    private bool Number(out double value)
    {
        SkipSeparators(false);
        var read = PathNumber.Read(_data.AsSpan(_at), out value);
        _at += read;
        return read > 0 && double.IsFinite(value);
    }

    /// <returns>False at the end of the data.</returns>
    private bool SkipSeparators(bool spacesOnly)
    {
        while (_at < _data.Length && (_data[_at] is ' ' or '\t' or '\n' or '\r' or '\f' || (!spacesOnly && _data[_at] == ',')))
            _at++;
        return _at < _data.Length;
    }
}
