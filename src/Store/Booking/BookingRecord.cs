using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Booking;

/// <summary>What the record keeps of a booking: each entry tells the whole of it, as it stands then.</summary>
internal static class BookingRecord
{
    public const string Sql = """
        select b.id as booking, p.number as person, (select number from people.person where id = @by) as by, b.machine_id as machine,
            lower(b.during) as start, upper(b.during) as "end",
            b.decision_id as decision, d.hash, (select count(*)::int from booking.claim c where c.booking_id = b.id and c.live) as claims
        from booking.booking b join people.person p on p.id = b.person_id join gate.decision d on d.id = b.decision_id where b.id = @id
        """;

    public sealed record Row(
        Guid Booking,
        int Person,
        int By,
        MachineId Machine,
        Instant Start,
        Instant End,
        Guid Decision,
        string Hash,
        int Claims
    );

    public static async Task Append(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        Guid id,
        PersonId by,
        Instant now,
        TextLink? why = null
    ) => await Append(connection, transaction, kind, await connection.QuerySingleAsync<Row>(Sql, new { id, by }, transaction), now, why);

    public static Task Append(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        Row row,
        Instant now,
        TextLink? why
    ) =>
        LedgerStore.Append(
            connection,
            transaction,
            now,
            kind,
            new
            {
                booking = row.Booking,
                person = row.Person,
                by = row.By,
                machine = row.Machine,
                start = Core.Ledger.Chain.Instant(row.Start),
                end = Core.Ledger.Chain.Instant(row.End),
                decision = row.Decision,
                decisionHash = row.Hash,
                claims = row.Claims,
                why = why?.InChain,
            }
        );
}
