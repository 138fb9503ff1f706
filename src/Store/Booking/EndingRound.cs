using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Booking;

/// <summary>Tells whoever is still on a machine that their time ends, and whoever comes next that somebody is there. Each once.</summary>
public sealed class EndingRound(NpgsqlDataSource db, HouseStore house)
{
    private sealed record Row(
        Guid Id,
        PersonId PersonId,
        string Machine,
        Instant End,
        string Parts,
        PersonId? NextPerson,
        Guid? NextId,
        Instant? NextStart
    );

    public async Task Once(Instant now, CancellationToken cancel)
    {
        if (await house.Rules(now, cancel) is not { } rules)
            return;
        await Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                // Arrived, and not seen to leave: a session that is open, or a machine without a screen.
                var rows = (
                    await connection.QueryAsync<Row>(
                        """
                        select b.id, coalesce(s.person_id, b.person_id) as person_id, m.name as machine, upper(b.during) as "end",
                            b.parts::text as parts, n.person_id as next_person, n.id as next_id, lower(n.during) as next_start
                        from booking.booking b join house.machine m on m.id = b.machine_id
                        left join lateral (select person_id, ended_at from station.session where booking_id = b.id
                            order by at desc limit 1) s on true
                        left join lateral (select id, person_id, during from booking.booking n where n.machine_id = b.machine_id
                            and n.cancelled_at is null and lower(n.during) >= upper(b.during) and lower(n.during) < @day
                            order by lower(n.during) limit 1) n on true
                        where b.cancelled_at is null and b.arrived_at is not null and b.during @> @now
                            and upper(b.during) <= @soon and s.ended_at is null
                        """,
                        new
                        {
                            now,
                            soon = now + Ending.Ahead,
                            day = rules.Clock.Day(rules.Clock.DateOf(now)).End,
                        },
                        transaction
                    )
                ).ToList();
                var tellings = new List<Telling>();
                foreach (var row in rows)
                {
                    var cleanDown = GateJson.Read<List<BookingPart>>(row.Parts).LastOrDefault(p => p.Part == PartKind.CleanDown)?.Minutes;
                    var runner = Ending.ToRunner(
                        row.Machine,
                        row.End,
                        (int)Math.Ceiling(cleanDown ?? rules.CleanDownMinutes),
                        new Following(row.NextStart),
                        rules
                    );
                    var key = $"{row.Id}:{row.End.ToUnixTimeSeconds()}";
                    tellings.Add(new Telling(row.PersonId, $"booking.ending:{key}", runner.Title, runner.Body, "/bookings"));
                    if (row.NextPerson is not { } next || next == row.PersonId || row.NextStart is not { } start)
                        continue;
                    if (!new Following(start).FollowsAtOnce(row.End))
                        continue;
                    var (title, body) = Ending.ToNext(row.Machine, row.End, start, rules);
                    tellings.Add(new Telling(next, $"booking.before:{key}:{row.NextId}", title, body, "/bookings"));
                }
                if (tellings.Count > 0)
                    await MessageStore.Tell(connection, transaction, tellings, now);
                return (rows.Count, tellings.Count > 0);
            },
            cancel
        );
    }
}
