using Dapper;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.Booking;

/// <summary>The things that a booking holds, each for one at a time: the database’s constraint sees to it.</summary>
internal static class BookingClaims
{
    /// <summary>
    /// Takes <c>@resources</c> for <c>@id</c> from <c>@Start</c> to <c>@End</c>; a supervisor gives a place of theirs, not all of them.
    /// </summary>
    public const string HoldSql = """
        insert into booking.claim (booking_id, resource, during, recorded)
        select @id, r, tstzrange(@Start, @End), tstzrange(@now, null) from unnest(@resources) r where not starts_with(r, 'supervise:')
            or strpos(r, '/') > 0
        """;

    /// <summary>Lets go of all that the bookings <c>@ids</c> hold.</summary>
    public const string DropSql = $"""
        {BookingBench.DropSql};
        update booking.claim set live = false, {Dated.Closed} where booking_id = any(@ids) and live
        """;

    public static List<string> Resources(GateQuestion ask)
    {
        var all = new List<string> { $"machine:{ask.MachineId}", $"attend:{ask.MemberId}" };
        if (ask.Fixture is { } fixture)
            all.Add($"fixture:{fixture}");
        if (ask.SupervisorId is { } supervisor)
            all.Add($"supervise:{supervisor}");
        all.Sort(StringComparer.Ordinal);
        return all;
    }

    /// <summary>Which of several equal places a run takes: one of its class, or one of its supervisor's.</summary>
    /// <returns>Null when it takes none; a <c>Free</c> of null when all are taken.</returns>
    public static async Task<(bool Needed, string? Free)?> Slot(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        GateQuestion ask,
        GateFacts facts
    )
    {
        var lesson = facts.Time.Classes?.FirstOrDefault(c => c.OnRoster && c.During.Overlaps(ask.Start, ask.End));
        if (lesson is null && ask.SupervisorId is null)
            return null;
        var (place, count) = lesson is null
            ? ($"supervise:{ask.SupervisorId}", facts.Rules.MachinesPerAdult)
            : ($"class:{lesson.Plan}", Core.House.Classes.AtOnce(lesson.AtOnce, facts.Rules));
        // Always after the other locks, so that no two bookings wait for each other.
        if (lesson is not null)
            await Lock(connection, transaction, [place], null);
        var places = Enumerable.Range(1, count).Select(n => $"{place}/{n}").ToArray();
        await connection.ExecuteAsync(
            "insert into booking.resource (id) select unnest(@places) order by 1 on conflict do nothing",
            new { places },
            transaction
        );
        var taken = (
            await connection.QueryAsync<string>(
                "select distinct resource from booking.claim where resource = any(@places) and live and during && tstzrange(@Start, @End)",
                new
                {
                    places,
                    ask.Start,
                    ask.End,
                },
                transaction
            )
        ).ToHashSet();
        return (true, places.FirstOrDefault(p => !taken.Contains(p)));
    }

    /// <summary>Locks the resource rows in id order: without this, simultaneous claims deadlock, sorted or not.</summary>
    /// <returns>The booking that has the id already, as it stands once the locks are held.</returns>
    public static async Task<BookedTime?> Lock(NpgsqlConnection connection, NpgsqlTransaction transaction, List<string> resources, Guid? id)
    {
        const string InOrder =
            "select id from booking.resource where id = any(@ids) order by id for update; " + BookingRows.Columns + " where b.id = @id;";
        var ids = resources.ToArray();
        var (locked, before) = await Take();
        if (locked == ids.Length)
            return before;
        await connection.ExecuteAsync(
            "insert into booking.resource (id) select unnest(@ids) order by 1 on conflict do nothing",
            new { ids },
            transaction
        );
        return (await Take()).Before;

        async Task<(int Locked, BookedTime? Before)> Take()
        {
            using var rows = await connection.QueryMultipleAsync(InOrder, new { ids, id }, transaction);
            return ((await rows.ReadAsync<string>()).Count(), (await rows.ReadAsync<BookingRows.Row>()).SingleOrDefault()?.ToBooking());
        }
    }
}
