using System.Buffers;
using System.Globalization;
using System.Text;
using System.Text.Json;

namespace VelvetGate.Core.Ledger;

/// <summary>
/// JSON in one byte-for-byte form (RFC 8785), for hashing. Own writer because the ledger takes only
/// strings, booleans, integers, nulls, arrays and objects; a fraction is written as a string.
/// </summary>
public static class CanonicalJson
{
    /// <summary>Largest integer that every JSON reader keeps exactly (RFC 8785 section 3.2.2.3, IEEE 754).</summary>
    public const long LargestInteger = 9_007_199_254_740_991;

    /// <exception cref="FormatException">A number is not an integer within ±2^53-1, a name is repeated, or a string holds a lone
    /// surrogate.</exception>
    public static string Write(JsonElement element)
    {
        var text = new StringBuilder();
        Write(element, text, depth: 0);
        return text.ToString();
    }

    /// <summary>Reads any JSON text and writes it canonically.</summary>
    public static string Normalise(string json)
    {
        using var document = JsonDocument.Parse(json, new JsonDocumentOptions { AllowDuplicateProperties = false });
        return Write(document.RootElement);
    }

    private static void Write(JsonElement element, StringBuilder text, int depth)
    {
        if (depth > 64)
            throw new FormatException("JSON nested deeper than 64.");
        switch (element.ValueKind)
        {
            case JsonValueKind.Object:
                WriteObject(element, text, depth);
                break;
            case JsonValueKind.Array:
                var first = true;
                text.Append('[');
                foreach (var item in element.EnumerateArray())
                {
                    if (!first)
                        text.Append(',');
                    first = false;
                    Write(item, text, depth + 1);
                }
                text.Append(']');
                break;
            case JsonValueKind.String:
                WriteString(element.GetString()!, text);
                break;
            case JsonValueKind.Number:
                if (!element.TryGetInt64(out var number) || number is > LargestInteger or < -LargestInteger)
                    throw new FormatException($"{element.GetRawText()} is not an integer this ledger takes; write it as a string.");
                text.Append(number.ToString(CultureInfo.InvariantCulture));
                break;
            case JsonValueKind.True:
                text.Append("true");
                break;
            case JsonValueKind.False:
                text.Append("false");
                break;
            default:
                text.Append("null");
                break;
        }
    }

    private static void WriteObject(JsonElement element, StringBuilder text, int depth)
    {
        // RFC 8785 3.2.3: names sorted by UTF-16 code units, which is what ordinal comparison does.
        var members = element.EnumerateObject().OrderBy(p => p.Name, StringComparer.Ordinal).ToList();
        text.Append('{');
        for (var i = 0; i < members.Count; i++)
        {
            if (i > 0 && members[i].Name == members[i - 1].Name)
                throw new FormatException($"The name “{members[i].Name}” is repeated.");
            if (i > 0)
                text.Append(',');
            WriteString(members[i].Name, text);
            text.Append(':');
            Write(members[i].Value, text, depth + 1);
        }
        text.Append('}');
    }

    private static void WriteString(string value, StringBuilder text)
    {
        var remaining = value.AsSpan();
        while (!remaining.IsEmpty)
        {
            if (Rune.DecodeFromUtf16(remaining, out _, out var used) != OperationStatus.Done)
                throw new FormatException("A string holds half a character (a lone surrogate).");
            remaining = remaining[used..];
        }
        text.Append('"');
        foreach (var c in value)
        {
            switch (c)
            {
                case '"':
                    text.Append("\\\"");
                    break;
                case '\\':
                    text.Append("\\\\");
                    break;
                case '\b':
                    text.Append("\\b");
                    break;
                case '\f':
                    text.Append("\\f");
                    break;
                case '\n':
                    text.Append("\\n");
                    break;
                case '\r':
                    text.Append("\\r");
                    break;
                case '\t':
                    text.Append("\\t");
                    break;
                case < ' ':
                    text.Append(CultureInfo.InvariantCulture, $"\\u{(int)c:x4}");
                    break;
                default:
                    text.Append(c);
                    break;
            }
        }
        text.Append('"');
    }
}
