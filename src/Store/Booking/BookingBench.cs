using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.Booking;

/// <summary>The finishing bench that a booking holds, after it or at another time: all or nothing with the machine.</summary>
internal static class BookingBench
{
    /// <summary>Takes the bench that the question asks for.</summary>
    /// <returns>False when none is free; true also when none is asked for.</returns>
    public static async Task<bool> Take(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid booking,
        GateQuestion ask,
        HouseRules rules,
        Instant now
    )
    {
        if (ask.Bench is not { } wish)
            return true;
        var at = wish.At(ask.End, rules);
        var resources = Enumerable.Range(1, rules.FinishingBenches).Select(Finishing.Resource).ToList();
        // After all other things, so that no two bookings wait for each other.
        await BookingClaims.Lock(connection, transaction, resources, null);
        var held = await connection.QueryAsync<(int Number, Instant Start, Instant End)>(
            """
            select substr(resource, 7)::int, lower(during), upper(during) from booking.claim
            where resource = any(@resources) and live and during && tstzrange(@Start, @End)
            """,
            new
            {
                resources = resources.ToArray(),
                at.Start,
                at.End,
            },
            transaction
        );
        if (
            Finishing.Free([.. held.Select(h => new BenchFacts(h.Number, new Span(h.Start, h.End)))], rules.FinishingBenches, at)
            is not { } free
        )
            return false;
        await connection.ExecuteAsync(
            """
            insert into booking.bench (id, booking_id, bench, during, at)
                values (gen_random_uuid(), @booking, @free, tstzrange(@Start, @End), @now);
            insert into booking.claim (bench_id, resource, during, recorded)
                select id, 'bench:' || bench, during, tstzrange(@now, null) from booking.bench
                where booking_id = @booking and ended_at is null
            """,
            new
            {
                booking,
                free,
                at.Start,
                at.End,
                now,
            },
            transaction
        );
        return true;
    }

    /// <summary>Lets go of what the bookings <c>@ids</c> hold of benches. The claims first: each stands on its bench.</summary>
    public const string DropSql = $"""
        update booking.claim set live = false, {Dated.Closed} where live
            and bench_id in (select id from booking.bench where booking_id = any(@ids) and ended_at is null);
        update booking.bench set ended_at = @now where booking_id = any(@ids) and ended_at is null
        """;
}
