using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using NodaTime;
using NodaTime.Text;

namespace VelvetGate.Core.Ledger;

/// <summary>One line of the record as it is stored.</summary>
/// <param name="Seq">1, 2, 3 … in commit order, without gaps.</param>
/// <param name="At">Instant in ISO 8601 UTC with exactly six decimals.</param>
/// <param name="Body">Canonical JSON.</param>
/// <param name="Prev">SHA-256 of the entry before, lower-case hex; 64 zeros for the first.</param>
public sealed record LedgerEntry(long Seq, string At, string Kind, string Body, string Prev, string Hash);

/// <summary>Where a chain stops being what it was.</summary>
public sealed record ChainBreak(long Seq, string Why);

/// <summary>The hash chain over ledger entries: SHA-256 (FIPS 180-4) of canonical JSON (RFC 8785).</summary>
public static class Chain
{
    /// <summary>
    /// Member of a body that tells the rows its act wrote, each by its hash; it sorts last, so that the body stays canonical.
    /// </summary>
    public const string RowsMember = "~rows";

    public static readonly string Genesis = new('0', 64);

    private static readonly InstantPattern Micros = InstantPattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm:ss.ffffff'Z'");

    /// <summary>Cut to microseconds, as PostgreSQL keeps it.</summary>
    public static string Instant(Instant at) => Micros.Format(at);

    /// <summary>A number that need not be whole, as the chain writes it: digits and a point, no zeros at the end.</summary>
    public static string? Number(decimal? value) => value?.ToString("0.############", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>The canonical text that is hashed. The database builds the same text in <c>ledger.append</c>.</summary>
    public static string Envelope(long seq, string at, string kind, string body, string prev) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $$"""{"at":"{{at}}","body":{{body}},"kind":"{{kind}}","prev":"{{prev}}","seq":{{seq}}}"""
        );

    public static string Hash(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));

    /// <summary>Hash that hides a short text: without its salt it cannot be guessed, and erasing the salt erases the link.</summary>
    public static string SaltedHash(byte[] salt, string text) =>
        Convert.ToHexStringLower(SHA256.HashData([.. salt, .. Encoding.UTF8.GetBytes(text)]));

    /// <summary>Walks the chain and names the first entry that is not as it was written.</summary>
    /// <param name="entries">In ascending <see cref="LedgerEntry.Seq"/>.</param>
    /// <param name="anchor">A hash kept elsewhere for one number; rewriting the whole chain cannot match it.</param>
    /// <returns>Null when whole.</returns>
    public static ChainBreak? FirstBreak(IEnumerable<LedgerEntry> entries, (long Seq, string Hash)? anchor = null)
    {
        var prev = Genesis;
        long expected = 1;
        var anchorMet = anchor is null;
        foreach (var entry in entries)
        {
            if (entry.Seq != expected)
                return new ChainBreak(expected, $"number {expected} is missing, {entry.Seq} comes instead");
            if (entry.Prev != prev)
                return new ChainBreak(entry.Seq, "it does not follow from the entry before it");
            if (!IsCanonical(entry.Body))
                return new ChainBreak(entry.Seq, "its body is not canonical JSON");
            if (Hash(Envelope(entry.Seq, entry.At, entry.Kind, entry.Body, entry.Prev)) != entry.Hash)
                return new ChainBreak(entry.Seq, "its content does not match its hash");
            if (anchor is { } kept && kept.Seq == entry.Seq)
            {
                if (!string.Equals(kept.Hash, entry.Hash, StringComparison.OrdinalIgnoreCase))
                    return new ChainBreak(entry.Seq, "its hash is not the one kept in the anchor: the chain was rewritten");
                anchorMet = true;
            }
            prev = entry.Hash;
            expected++;
        }
        return anchorMet ? null : new ChainBreak(expected, $"the chain ends before the anchor at {anchor!.Value.Seq}");
    }

    /// <summary>
    /// Numbers of entries whose instant lies before that of the one they follow. Their order in the chain holds; a clock was set back.
    /// </summary>
    public static IEnumerable<long> StepsBack(IReadOnlyList<LedgerEntry> entries) =>
        Enumerable
            .Range(1, Math.Max(0, entries.Count - 1))
            .Where(i => string.CompareOrdinal(entries[i].At, entries[i - 1].At) < 0)
            .Select(i => entries[i].Seq);

    private static bool IsCanonical(string body)
    {
        try
        {
            return CanonicalJson.Normalise(body) == body;
        }
        catch (Exception e) when (e is FormatException or System.Text.Json.JsonException)
        {
            return false;
        }
    }
}
