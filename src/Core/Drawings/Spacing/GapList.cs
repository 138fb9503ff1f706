namespace VelvetGate.Core.Drawings.Spacing;

/// <summary>
/// A list that is changed in the middle, near to where it was changed before: what lies behind is moved only when the place moves (a gap
/// buffer).
/// </summary>
public sealed class GapList<T>
{
    private T[] _items = new T[64];
    private int _gapAt,
        _gapEnd = 64;

    public int Count => _items.Length - (_gapEnd - _gapAt);

    public ref readonly T this[int index] => ref _items[index < _gapAt ? index : index + (_gapEnd - _gapAt)];

    public void Clear() => (_gapAt, _gapEnd) = (0, _items.Length);

    /// <summary>Puts other items in the place of those from <paramref name="from"/> up to, and without, <paramref name="to"/>.</summary>
    public void Replace(int from, int to, ReadOnlySpan<T> with)
    {
        if (with.Length == to - from && (to <= _gapAt || from >= _gapAt))
        {
            with.CopyTo(_items.AsSpan(from < _gapAt ? from : from + (_gapEnd - _gapAt)));
            return;
        }
        MoveGap(to);
        _gapAt = from;
        if (with.Length > _gapEnd - _gapAt)
            Grow(with.Length);
        with.CopyTo(_items.AsSpan(_gapAt));
        _gapAt += with.Length;
    }

    private void MoveGap(int to)
    {
        if (to < _gapAt)
            Array.Copy(_items, to, _items, _gapEnd - (_gapAt - to), _gapAt - to);
        else if (to > _gapAt)
            Array.Copy(_items, _gapEnd, _items, _gapAt, to - _gapAt);
        (_gapAt, _gapEnd) = (to, _gapEnd + to - _gapAt);
    }

    private void Grow(int atLeast)
    {
        var after = _items.Length - _gapEnd;
        var larger = new T[Math.Max(2 * _items.Length, _gapAt + atLeast + after)];
        Array.Copy(_items, larger, _gapAt);
        Array.Copy(_items, _gapEnd, larger, larger.Length - after, after);
        (_items, _gapEnd) = (larger, larger.Length - after);
    }
}
