using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Incidents;

namespace VelvetGate.Store.Incidents;

/// <summary>Who is thought to be inside, from what the house has been told.</summary>
public sealed class HeadCountStore(NpgsqlDataSource db)
{
    private static readonly string Sql = $"""
        select case when exists (select from station.seen s where s.person_id = d.person_id
                    and s.at >= lower(d.during) - interval '{Core.Station.Taps.OnDutyFrom.TotalMinutes} minutes')
                then 'onDutySeen' else 'onDuty' end as how, null as machine_id, d.person_id, upper(d.during) as until, 0 as companions
            from house.duty d where d.during @> @now and upper_inf(d.recorded)
        union all
        select 'fireWatch', i.machine_id, w.person_id, w.began + interval '1 minute' * w.minutes, 0
            from incidents.fire_watch w join incidents.incident i on i.id = w.incident_id
            where not exists (select from incidents.look l where l.incident_id = w.incident_id and l.minute = w.minutes)
                and w.began + interval '1 minute' * w.minutes > @ran
        union all
        select case when b.arrived_at is null then 'booked' else 'arrived' end, b.machine_id, b.person_id, upper(b.during), b.companions
            from booking.booking b where b.cancelled_at is null and not b.no_show and b.during @> @now
                and not exists (select from station.session s where s.booking_id = b.id and s.ended_at is null)
        union all
        select 'tappedIn', s.machine_id, s.person_id, upper(b.during), b.companions
            from station.session s join booking.booking b on b.id = s.booking_id where s.ended_at is null and upper(b.during) > @ran
        union all
        select 'supervises', b.machine_id, b.ask ->> 'supervisorId', upper(b.during), 0
            from booking.booking b where b.cancelled_at is null and not b.no_show and b.during @> @now and b.ask ->> 'supervisorId' <> ''
        union all
        select 'ran', r.machine_id, r.person_id, max(upper(r.during)), 0 from run.log r
            where upper(r.during) between @ran and @now and not exists (select from booking.booking b
                where b.person_id = r.person_id and b.cancelled_at is null and not b.no_show and b.during @> @now)
            group by r.machine_id, r.person_id
        union all
        select 'teaches', n.machine_id, n.trainer_id, upper(n.during), 0 from training.induction n
            where n.cancelled_at is null and n.during @> @now
        union all
        select 'learns', n.machine_id, l.person_id, upper(n.during), 0
            from training.induction n join training.place l on l.induction_id = n.id
            where n.cancelled_at is null and n.during @> @now and l.attended is distinct from false
        union all
        select 'leads', null, p.person_id, upper(o.during), 0 from house.occurrence o join house.plan p on p.id = o.plan_id
            where p.kind = 'class' and o.during @> @now and upper_inf(o.recorded)
        union all
        select 'class', null, r.person_id, upper(o.during), 0
            from house.occurrence o join house.plan p on p.id = o.plan_id join house.roster r on r.plan_id = p.id
            where p.kind = 'class' and o.during @> @now and upper_inf(o.recorded) and upper_inf(r.recorded)
        """;

    public async Task<IReadOnlyList<Present>> Now(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                $"""
                select t.how, t.machine_id, t.person_id, trim(p.given_name || ' ' || p.family_name) as name, t.until, t.companions
                from ({Sql}) t join people.person p on p.id = t.person_id
                order by t.machine_id nulls first, t.until, name
                """,
                new { now, ran = now - HeadCount.RanWithin },
                cancellationToken: cancel
            )
        );
        return
        [
            .. rows.Select(r => new Present(Enum.Parse<Presence>(r.How, true), r.MachineId, r.PersonId, r.Name, r.Until, r.Companions)),
        ];
    }

    private sealed record Row(string How, MachineId? MachineId, PersonId PersonId, string Name, Instant Until, int Companions);
}
