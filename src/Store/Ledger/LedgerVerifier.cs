using System.Data;
using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;

namespace VelvetGate.Store.Ledger;

/// <param name="FirstBad">Number of the first entry that is wrong; null when whole.</param>
/// <param name="Erased">Texts the chain points at that have been erased with their salt: allowed, and said.</param>
/// <param name="Head">Hash of the last entry: keep it elsewhere as an anchor.</param>
/// <param name="Notes">What is odd and breaks nothing: entries whose instant lies before that of the one they follow.</param>
public sealed record Verification(long? FirstBad, string? Why, long Entries, int Erased, string Head, IReadOnlyList<string> Notes)
{
    public bool Whole => FirstBad is null;
}

/// <summary>
/// Proves the chain, then holds what it tells against the tables: bookings, sign-offs, pauses and stops in words, the rows that decide
/// about safety by their hashes.
/// </summary>
public sealed class LedgerVerifier(NpgsqlDataSource db)
{
    public async Task<Verification> Verify((long Seq, string Hash)? anchor, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        // All of one instant: what is written meanwhile is no break.
        await using var snapshot = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        var entries = (
            await connection.QueryAsync<LedgerEntry>("select seq, at, kind, body, prev, hash from ledger.entry order by seq")
        ).ToList();
        var (seq, hash) = await connection.QuerySingleAsync<(long, string)>("select seq, hash from ledger.head");
        var head = entries.Count > 0 ? entries[^1].Hash : Chain.Genesis;
        if (Chain.FirstBreak(entries, anchor) is { } bad)
            return new Verification(bad.Seq, bad.Why, entries.Count, 0, head, []);
        if (seq != entries.Count || hash != head)
            return new Verification(
                entries.Count + 1,
                $"the chain ends at {entries.Count}, but {seq} entries were written",
                entries.Count,
                0,
                head,
                []
            );
        var (textBreak, erased) = await Texts(connection, entries);
        var wrong = textBreak ?? await Reconcile(connection, entries) ?? await SafetyRows(connection, entries);
        return new Verification(
            wrong?.Seq,
            wrong?.Why,
            entries.Count,
            erased,
            head,
            [.. Chain.StepsBack(entries).Select(s => $"entry {s} is dated before the one it follows: a clock was set back")]
        );
    }

    private static async Task<(ChainBreak?, int)> Texts(NpgsqlConnection connection, List<LedgerEntry> entries)
    {
        var kept = (
            await connection.QueryAsync<(Guid Id, byte[] Salt, string Body)>("select id, salt, body from ledger.text")
        ).ToDictionary(t => t.Id);
        var erased = 0;
        var gone = Erasings(entries);
        foreach (var entry in entries)
        {
            using var body = JsonDocument.Parse(entry.Body);
            foreach (
                var member in body
                    .RootElement.EnumerateObject()
                    .Where(m => m.Value.ValueKind == JsonValueKind.Object && m.Value.TryGetProperty("text", out _))
            )
            {
                var id = Guid.Parse(member.Value.GetProperty("text").GetString()!);
                if (!kept.TryGetValue(id, out var text))
                {
                    if (!gone.Unnamed && !gone.Named.Contains(id))
                        return (new ChainBreak(entry.Seq, $"its {member.Name} is gone, and no erasing of it stands in the record"), erased);
                    erased++;
                }
                else if (Chain.SaltedHash(text.Salt, text.Body) != member.Value.GetProperty("hash").GetString())
                    return (new ChainBreak(entry.Seq, $"its {member.Name} was changed after it was written"), erased);
            }
        }
        return (null, erased);
    }

    /// <summary>Texts whose erasing stands in the record. Entries of before it named them let any pass.</summary>
    private static (HashSet<Guid> Named, bool Unnamed) Erasings(List<LedgerEntry> entries)
    {
        var (named, unnamed) = (new HashSet<Guid>(), false);
        foreach (var entry in entries.Where(e => e.Kind is "person.erased" or "person.textsErased"))
        {
            using var body = JsonDocument.Parse(entry.Body);
            if (!body.RootElement.TryGetProperty("texts", out var texts))
                unnamed = true;
            else
                named.UnionWith(texts.EnumerateArray().Select(t => t.GetGuid()));
        }
        return (named, unnamed);
    }

    /// <summary>Each row that the chain speaks of, as the chain tells it and as its own table has it.</summary>
    private static async Task<ChainBreak?> Reconcile(NpgsqlConnection connection, List<LedgerEntry> entries)
    {
        var told = new Dictionary<string, (long Seq, string Line)>();
        foreach (var entry in entries)
        {
            using var body = JsonDocument.Parse(entry.Body);
            if (LedgerLine.Of(entry.Kind, body.RootElement) is { } line)
                told[line.Key] = (entry.Seq, line.Text);
        }
        var stored = (await connection.QueryAsync<(string Key, string Line)>(LedgerLine.StoredSql)).ToDictionary(r => r.Key, r => r.Line);
        foreach (var (key, (seq, line)) in told.OrderBy(t => t.Value.Seq))
        {
            if (!stored.TryGetValue(key, out var have))
                return new ChainBreak(seq, $"{key} stands in the record but not in its table");
            if (have != line)
                return new ChainBreak(seq, $"{key} reads “{have}” in its table and “{line}” in the record");
        }
        var extra = stored.Keys.Except(told.Keys).Order(StringComparer.Ordinal).FirstOrDefault();
        return extra is null ? null : new ChainBreak(entries.Count + 1, $"{extra} stands in its table but not in the record");
    }

    /// <summary>
    /// Every version of a role, clearance, quarantine, consent, hold, lift or ruling, as the last entry about it tells it and as its table
    /// has it.
    /// </summary>
    private static async Task<ChainBreak?> SafetyRows(NpgsqlConnection connection, List<LedgerEntry> entries)
    {
        var told = new Dictionary<string, (long Seq, string? Line)>();
        foreach (var entry in entries.Where(e => e.Body.Contains($"\"{Chain.RowsMember}\":", StringComparison.Ordinal)))
        {
            using var body = JsonDocument.Parse(entry.Body);
            foreach (var row in body.RootElement.GetProperty(Chain.RowsMember).EnumerateObject())
                told[row.Name] = (entry.Seq, row.Value.GetString());
        }
        var stored = (await connection.QueryAsync<(string Key, string Line)>("select key, line from ledger.safety_row")).ToDictionary(
            r => r.Key,
            r => r.Line
        );
        foreach (var (key, (seq, line)) in told.OrderBy(t => t.Value.Seq).ThenBy(t => t.Key, StringComparer.Ordinal))
        {
            var have = stored.GetValueOrDefault(key);
            if (have != line)
                return new ChainBreak(
                    seq,
                    $"{key} "
                        + (
                            have is null ? "stands in the record but not in its table"
                            : line is null ? "was deleted by the record and stands in its table"
                            : "was changed after it was written"
                        )
                );
        }
        var extra = stored.Keys.Except(told.Keys).Order(StringComparer.Ordinal).FirstOrDefault();
        return extra is null ? null : new ChainBreak(entries.Count + 1, $"{extra} stands in its table but not in the record");
    }
}

/// <summary>One comparable line for each thing the chain speaks of. The latest entry about a thing tells its present state.</summary>
internal static class LedgerLine
{
    /// <summary>The same lines from the tables. Instants as epoch microseconds, so that no time zone plays a part.</summary>
    public const string StoredSql = """
        select 'booking ' || b.id as key,
            concat_ws(' ', p.number, b.machine_id, (extract(epoch from lower(b.during)) * 1000000)::bigint,
                (extract(epoch from upper(b.during)) * 1000000)::bigint, d.hash,
                case when b.cancelled_at is null then 'live' else 'cancelled' end,
                (select count(*) from booking.claim c where c.booking_id = b.id and c.live and c.during = b.during)) as line
        from booking.booking b join people.person p on p.id = b.person_id join gate.decision d on d.id = b.decision_id
        union all
        select 'certificate ' || c.id,
            concat_ws(' ', p.number, s.number, c.authority, (extract(epoch from lower(c.held)) * 1000000)::bigint,
                coalesce((extract(epoch from upper(c.held)) * 1000000)::bigint::text, 'open'))
        from training.certificate c join people.person p on p.id = c.person_id join people.person s on s.id = c.signed_by
        where upper_inf(c.recorded)
        union all
        select 'pause ' || u.id,
            concat_ws(' ', p.number, s.number, (extract(epoch from lower(u.held)) * 1000000)::bigint,
                coalesce((extract(epoch from upper(u.held)) * 1000000)::bigint::text, 'open'))
        from people.pause u join people.person p on p.id = u.person_id join people.person s on s.id = u.set_by
        where upper_inf(u.recorded)
        union all
        select 'stop ' || t.id,
            concat_ws(' ', t.machine_id, s.number, (extract(epoch from lower(t.held)) * 1000000)::bigint,
                coalesce((extract(epoch from upper(t.held)) * 1000000)::bigint::text, 'open'))
        from house.stop t join people.person s on s.id = t.set_by
        where upper_inf(t.recorded)
        """;

    public static (string Key, string Text)? Of(string kind, JsonElement body) =>
        kind switch
        {
            "booking.made" or "booking.moved" or "booking.extended" or "booking.swapped" or "booking.handedOver" or "booking.cancelled" => (
                $"booking {S(body, "booking")}",
                string.Join(
                    ' ',
                    S(body, "person"),
                    S(body, "machine"),
                    Micros(body, "start"),
                    Micros(body, "end"),
                    S(body, "decisionHash"),
                    kind == "booking.cancelled" ? "cancelled" : "live",
                    S(body, "claims")
                )
            ),
            "training.signedOff" or "training.paperEntered" => (
                $"certificate {S(body, "certificate")}",
                string.Join(' ', S(body, "person"), S(body, "by"), S(body, "authority"), Micros(body, "start"), Micros(body, "end"))
            ),
            "person.paused" or "person.released" => (
                $"pause {S(body, "pause")}",
                string.Join(' ', S(body, "person"), S(body, "by"), Micros(body, "start"), Micros(body, "end"))
            ),
            "machine.stopped" or "machine.returned" => (
                $"stop {S(body, "stop")}",
                string.Join(' ', S(body, "machine"), S(body, "by"), Micros(body, "start"), Micros(body, "end"))
            ),
            _ => null,
        };

    private static string S(JsonElement body, string name) => body.TryGetProperty(name, out var value) ? value.ToString() : "";

    private static string Micros(JsonElement body, string name)
    {
        if (!body.TryGetProperty(name, out var value) || value.ValueKind == JsonValueKind.Null)
            return "open";
        var at = NodaTime.Text.InstantPattern.ExtendedIso.Parse(value.GetString()!).Value;
        return ((at - NodaConstants.UnixEpoch).ToInt64Nanoseconds() / 1000).ToString(System.Globalization.CultureInfo.InvariantCulture);
    }
}
