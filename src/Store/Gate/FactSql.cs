using VelvetGate.Store.Drawings;

namespace VelvetGate.Store.Gate;

/// <summary>The statements of one ask, sent as one batch. Their order is the order in which <see cref="FactReading"/> reads.</summary>
internal static class FactSql
{
    // "Known" keeps what is known now, or was known then; "Near" what touches the time the facts are wanted for.
    private const string Known = "((@knownAt::timestamptz is null and upper_inf(recorded)) or recorded @> @knownAt::timestamptz)";
    private const string Near = "held && tstzrange(@from, @until)";
    private const string Span = "lower(held) as \"from\", upper(held) as until";
    private const string ClaimSpan = "lower(during) as \"from\", upper(during) as until";

    // "Around" is the time asked about alone; "Near" reaches over the weeks of the house limits; how many bookings are open has no end.
    private const string Around = "during && tstzrange(@first, @last)";
    private const string LiveThen = "((@knownAt::timestamptz is null and live) or recorded @> @knownAt::timestamptz)";
    private const string ThenOrNow = "coalesce(@knownAt::timestamptz, @now)";
    private const string LoggedThen = "(@knownAt::timestamptz is null or r.at <= @knownAt::timestamptz)";
    private const string ClaimKnown = $"{LiveThen} and (booking_id is null or booking_id is distinct from @booking::uuid)";

    private const string House = $"""
        select body::text from house.rules where held @> @start and {Known};
        select given_name, birth_date from people.person where id = @person;
        select spec::text from house.machine where id = @machine;
        """;

    private const string Person = $"""
        select {Span} from people.account where person_id = @person and {Near} and {Known};
        select {Span} from people.agreement where person_id = @person and {Near} and {Known};
        select {Span} from people.pause where person_id = @person and {Near} and {Known};
        select {ClaimSpan} from booking.claim where resource = 'attend:' || @person and during && tstzrange(@from, null) and {ClaimKnown}
            order by 1;
        select {ClaimSpan} from booking.claim where resource = 'teach:' || @person and {Around} and {ClaimKnown}
            union all select {ClaimSpan} from booking.claim where resource between 'supervise:' || @person || '/1'
                and 'supervise:' || @person || '/9' and {Around} and {ClaimKnown};
        select machine_ids, {Span} from people.consent where person_id = @person and {Near} and {Known};
        select l.id as ask_id, lower(l.held) as "from", upper(l.held) as until, l.items::text, l.reasons::text
            from gate.lift l join gate.ask a on a.id = l.id
            where l.person_id = @person and l.machine_id = @machine and l.{Near} and {Known}
              and (a.booking_id is null or a.booking_id is not distinct from @booking::uuid);
        """;

    private const string Training = $"""
        select authority, founding, {Span}, not exists (select from people.founding f where f.certificate_id = c.id
                and (f.confirmed_at is null or f.confirmed_at > {ThenOrNow})) as confirmed
            from training.certificate c where person_id = @person and (authority = @machine or starts_with(authority, @machine || '/'))
                and {Known} order by lower(held);
        select greatest(
            (select max(lower(held)) from training.certificate where person_id = @person and authority = @machine and lower(held) <= @now
                and {Known}),
            (select max(upper(r.during)) from run.log r where r.person_id = @person and r.machine_id = @machine
                and upper(r.during) <= @now and r.counts
                and (r.supervisor_id is null or r.confirmed_at <= {ThenOrNow})
                and {LoggedThen})) as at;
        select {Span} from people.acting where person_id = @supervisor and role = 'trainer' and machine_id = @machine and {Near}
            and {Known};
        select {Span} from training.certificate where person_id = @supervisor and authority = @machine and {Near} and {Known};
        select {ClaimSpan} from booking.claim where resource = 'attend:' || @supervisor and {Around} and {ClaimKnown};
        select {ClaimSpan} from booking.claim where resource = 'teach:' || @supervisor and {Around} and {ClaimKnown};
        select {ClaimSpan} from booking.claim where resource between 'supervise:' || @supervisor || '/1'
            and 'supervise:' || @supervisor || '/9' and {Around} and {ClaimKnown};
        select m.id, m.kind, m.title, m.topic, m.version, coalesce((select max(d.version) from training.done d where d.person_id = @person
            and d.module_id = m.id and d.at <= {ThenOrNow}), 0) as done,
                (select string_agg(r.version || ' ' || r.by_day, ',' order by r.version) from training.repeat r where r.module_id = m.id
                    and r.at <= {ThenOrNow}) as repeats
            from training.module m order by m.position, m.id;
        select authority, 'path' as kind, body::text as body, {Span} from training.path where (authority = @machine
            or starts_with(authority, @machine || '/')) and held @> @start and {Known}
            union all select authority, kind, conditions::text, {Span} from training.certificate_hold
                where person_id = @person and (authority = @machine or starts_with(authority, @machine || '/')) and {Near} and {Known}
            union all select r.practical_id, 'repeat', r.by_day || ' ' || p.title, r.at, null from training.practical_repeat r
                join training.practical p on p.id = r.practical_id and p.version = r.version where r.at <= {ThenOrNow};
        """;

    private const string Sheets = $"""
        select id, name, cut_energy, heavy_residue from materials.material where id = any(@materials);
        select distinct m.id as material_id, t.name
            from materials.look_alikes l, unnest(l.material_ids) m(id), unnest(l.material_ids) o(id)
            join materials.material t on t.id = o.id
            where m.id = any(@materials) and o.id <> m.id
              and exists (select from materials.ruling where material_id = o.id and standing in ('banned', 'never') and {Known} offset 0)
            order by 1, 2;
        select r.* from unnest(@materials) m(id) cross join lateral (
            select material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling,
                filtered_needs_arrangement, {Span}
            from materials.ruling where material_id = m.id and held && tstzrange(@first, @last) and {Known} offset 0) r;
        select s.tag, s.material_id, m.name as material_name, s.thickness_mm, s.width_mm, s.height_mm
            from materials.sheet s join materials.material m on m.id = s.material_id where s.tag = any(@tags);
        select tag, operations, machine_ids, {Span} from materials.clearance where tag = any(@tags) and {Near} and {Known};
        select tag, {Span} from materials.quarantine where tag = any(@tags) and {Near} and {Known};
        """;

    private const string Machine = $"""
        select id, name, {DrawingStore.WholeSummary} as summary from bench.drawing where id = any(@drawings)
            and person_id in (@person, @askedBy);
        select {Span} from house.stop where machine_id = @machine and held && tstzrange(@idleFrom, @until) and {Known};
        select name as task, overdue_from from upkeep.task where machine_id = @machine and held @> @start and {Known} order by overdue_from;
        select id from house.fixture where machine_id = @machine order by id;
        select material_id, thickness_mm, operation, at from bench.test_result
            where machine_id = @machine and material_id = any(@materials) and operation is not null
              and at > coalesce((select max(upper(held)) from house.stop where machine_id = @machine and optics_touched
                  and {Known}), '-infinity');
        """;

    private const string TimeAndRoom = $"""
        select {ClaimSpan} from booking.claim where resource = 'machine:' || @machine and {Around} and {ClaimKnown} order by 1;
        select {ClaimSpan} from booking.claim where resource = @fixture and {Around} and {ClaimKnown} order by 1;
        select p.id as plan, p.title, lower(o.during) as "from", upper(o.during) as until
            from house.occurrence o join house.plan p on p.id = o.plan_id
            where p.kind = 'closure' and (cardinality(p.machine_ids) = 0 or @machine = any(p.machine_ids))
                and o.during && tstzrange(@first, @last) and {Known} order by 3;
        select p.id as plan, p.title, lower(o.during) as "from", upper(o.during) as until, p.person_id as adult_id, p.at_once,
                exists (select from house.roster where plan_id = p.id and person_id = @person and {Known}) as on_roster
            from house.occurrence o join house.plan p on p.id = o.plan_id
            where p.kind = 'class' and @machine = any(p.machine_ids) and o.during && tstzrange(@first, @last) and {Known} order by 3;
        select substr(resource, 7, 36)::uuid as plan, {ClaimSpan} from booking.claim
            where resource between 'class:' and 'class:~' and resource like 'class:%/%' and {Around} and {ClaimKnown};
        select name, in_date_until from house.fire_kit where held @> @start and {Known} order by id;
        select lower(during) as "from", upper(during) as until from house.duty d where {Around} and {Known}
                and exists (select from people.acting a where a.person_id = d.person_id and a.role = 'steward' and a.held && d.during)
                    order by 1;
        select max(upper(during)) as at from house.duty where {Known};
        select body::text from house.room where held @> @start and {Known};
        select name, min_nm, max_nm, optical_density, damage_rated, count from house.eyewear where held @> @start and {Known} order by id;
        """;

    /// <summary>As they were known at <c>@knownAt</c>.</summary>
    public const string Then = House + Person + Training + Sheets + Machine + TimeAndRoom;

    /// <summary>
    /// As they are known now: the same without asking when, so that the database plans each statement once and uses the index of live
    /// claims.
    /// </summary>
    public static readonly string Now = Then.Replace(Known, "upper_inf(recorded)", StringComparison.Ordinal)
        .Replace(LiveThen, "live", StringComparison.Ordinal)
        .Replace(ThenOrNow, "@now", StringComparison.Ordinal)
        .Replace(LoggedThen, "true", StringComparison.Ordinal);
}
