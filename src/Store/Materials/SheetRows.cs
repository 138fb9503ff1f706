using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Materials;

/// <summary>
/// Clearances and quarantines as rows: begun and ended for several sheets together. The caller holds the sheets' rows locked.
/// </summary>
internal static class SheetRows
{
    private const string QuarantineColumns = "tag, set_by, text_id, incident_id";

    // The pieces of one whole sheet, all of their batch, and the pieces of those.
    public const string FamilySql = """
        with recursive family (tag, material_id, batch) as (
            select tag, material_id, batch from materials.sheet where tag = @tag
            union
            select s.tag, s.material_id, s.batch from materials.sheet s join family f
                on split_part(s.tag, '-', 1) = split_part(f.tag, '-', 1) and split_part(s.tag, '-', 2) = split_part(f.tag, '-', 2)
                or (f.batch <> '' and s.batch = f.batch and s.material_id = f.material_id))
        select tag from family order by tag
        """;

    public static Task EndClearances(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        IReadOnlyList<SheetTag> tags,
        Instant now
    ) =>
        connection.ExecuteAsync(
            Dated.End(
                "materials.clearance",
                "tag, operations, machine_ids, cleared_by, text_id",
                "tag = any(@tags) and held && tstzrange(@now, null)"
            ),
            new { tags = tags.ToArray(), now },
            transaction
        );

    public static Task Quarantine(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        IReadOnlyList<SheetTag> tags,
        PersonId by,
        TextLink text,
        Instant now,
        Guid? incident = null
    ) =>
        connection.ExecuteAsync(
            """
            insert into materials.quarantine (tag, held, recorded, set_by, text_id, incident_id)
            select t, tstzrange(@now, null), tstzrange(@now, null), @by, @text, @incident from unnest(@tags) t
            where not exists (select from materials.quarantine q where q.tag = t and upper_inf(q.recorded) and upper_inf(q.held))
            """,
            new
            {
                tags = tags.ToArray(),
                by,
                text = text.Id,
                now,
                incident,
            },
            transaction
        );

    /// <summary>Every sheet that an incident holds is let go.</summary>
    public static Task EndQuarantines(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid incident, Instant now) =>
        connection.ExecuteAsync(
            Dated.End("materials.quarantine", QuarantineColumns, "incident_id = @incident and held @> @now"),
            new { incident, now },
            transaction
        );

    /// <returns>Number of the incident that holds a sheet; null where none does.</returns>
    public static Task<int?> HeldBy(NpgsqlConnection connection, NpgsqlTransaction transaction, SheetTag tag, Instant now) =>
        connection.ExecuteScalarAsync<int?>(
            """
            select i.number from materials.quarantine q join incidents.incident i on i.id = q.incident_id
                where q.tag = @tag and q.held @> @now and upper_inf(q.recorded)
            """,
            new { tag, now },
            transaction
        );

    public static Task EndQuarantine(NpgsqlConnection connection, NpgsqlTransaction transaction, SheetTag tag, Instant now) =>
        connection.ExecuteAsync(
            Dated.End("materials.quarantine", QuarantineColumns, "tag = @tag and held @> @now"),
            new { tag, now },
            transaction
        );

    public static async Task<ReportHits> Hits(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        SheetTag[] family,
        SheetTag[] recheck,
        Instant now
    )
    {
        using var rows = await connection.QueryMultipleAsync(
            """
            select b.id from booking.booking b where b.cancelled_at is null and upper(b.during) > @now
                and exists (select from jsonb_array_elements(b.ask -> 'items') i where i ->> 'sheetTag' = any(@all))
                    order by lower(b.during);
            select r.number from run.log r join booking.booking b on b.id = r.booking_id
                where exists (select from jsonb_array_elements(b.ask -> 'items') i where i ->> 'sheetTag' = any(@all))
                    order by lower(r.during) desc;
            select distinct r.machine_id from run.log r join booking.booking b on b.id = r.booking_id
                where exists (select from jsonb_array_elements(b.ask -> 'items') i where i ->> 'sheetTag' = any(@all)) order by 1;
            """,
            new { all = family.Concat(recheck).ToArray(), now },
            transaction
        );
        return new ReportHits(
            family,
            recheck,
            [.. await rows.ReadAsync<Guid>()],
            [.. await rows.ReadAsync<int>()],
            [.. await rows.ReadAsync<MachineId>()]
        );
    }
}
