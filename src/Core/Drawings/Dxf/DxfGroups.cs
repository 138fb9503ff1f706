using System.Buffers.Text;
using System.Globalization;
using System.Text;

namespace VelvetGate.Core.Drawings.Dxf;

/// <summary>
/// The groups of an ASCII DXF file, one after another: a whole number on one line, its value on the next. Nothing is held but the present
/// one.
/// </summary>
internal sealed class DxfGroups(Stream stream, CancellationToken patience)
{
    private const int LongestLine = 32 * 1024;

    private readonly byte[] _buffer = new byte[128 * 1024];
    private int _from,
        _to;
    private long _bytes;
    private int _line;
    private (int From, int Length) _value;

    /// <summary>The group code.</summary>
    public int Code { get; private set; }

    public string Text => Encoding.UTF8.GetString(Value);

    public double Number =>
        Utf8Parser.TryParse(Value, out double number, out var used) && used == Value.Length && double.IsFinite(number) ? number
        : double.TryParse(Text, NumberStyles.Float, CultureInfo.InvariantCulture, out number) && double.IsFinite(number) ? number
        : throw Broken($"“{Shorten(Text)}” on line {_line} is not a number");

    /// <summary>A whole number; beyond a thousand million either way it stays there.</summary>
    public int Whole => Clamp(Number);

    public static int Clamp(double number) => (int)Math.Clamp(number, -1e9, 1e9);

    private ReadOnlySpan<byte> Value => _buffer.AsSpan(_value.From, _value.Length);

    public bool Is(ReadOnlySpan<byte> text) => Value.SequenceEqual(text);

    /// <returns>False where the file ends between two groups.</returns>
    public bool Read()
    {
        if ((_line & 0xFFF) == 0)
            patience.ThrowIfCancellationRequested();
        if (!ReadLine(out var code))
            return false;
        var text = _buffer.AsSpan(code.From, code.Length);
        if (!Utf8Parser.TryParse(text, out int number, out var used) || used != text.Length)
            throw Broken($"line {_line} should be a group code and is “{Shorten(Encoding.UTF8.GetString(text))}”");
        Code = number;
        if (!ReadLine(out _value))
            throw Broken("it ends in the middle of a group");
        return true;
    }

    public static UnreadableDrawingException Broken(string what) =>
        new($"This is not a whole ASCII DXF file: {what}. Save it again as ASCII DXF, R12 or later.");

    /// <summary>The next line without the blanks around it.</summary>
    private bool ReadLine(out (int From, int Length) line)
    {
        var seen = _from;
        while (true)
        {
            var end = _buffer.AsSpan(seen, _to - seen).IndexOf((byte)'\n');
            if (end >= 0)
            {
                line = Trim(_from, seen + end);
                _from = seen + end + 1;
                break;
            }
            seen = _to;
            if (_to - _from > LongestLine)
                throw Broken($"line {_line + 1} has more than {LongestLine} characters");
            if (Fill(ref seen))
                continue;
            if (_from == _to)
            {
                line = default;
                return false;
            }
            line = Trim(_from, _to);
            _from = _to;
            break;
        }
        _line++;
        return true;
    }

    private bool Fill(ref int seen)
    {
        if (_to == _buffer.Length)
        {
            _buffer.AsSpan(_from, _to - _from).CopyTo(_buffer);
            seen -= _from;
            _to -= _from;
            _from = 0;
        }
        var read = stream.Read(_buffer, _to, _buffer.Length - _to);
        _to += read;
        _bytes += read;
        if (_bytes > DrawingLimits.Bytes)
            throw new UnreadableDrawingException($"The file is larger than {DrawingLimits.Bytes / 1024 / 1024} MB. Split it.");
        return read > 0;
    }

    private (int From, int Length) Trim(int from, int to)
    {
        while (to > from && _buffer[to - 1] is (byte)' ' or (byte)'\t' or (byte)'\r')
            to--;
        while (from < to && _buffer[from] is (byte)' ' or (byte)'\t')
            from++;
        return (from, to - from);
    }

    private static string Shorten(string text) => text.Length <= 20 ? text : text[..20] + "…";
}
