using VelvetGate.Store.Db;

namespace VelvetGate.Store.Gate;

/// <summary>Of the house, the person and their training.</summary>
internal static partial class FactQueries
{
    public static readonly FactQuery<RulesRow> Rules = new(
        $"select body::text, {Span} from house.rules where {Known}",
        Topic.House,
        holds: (r, q) => q.AtStart(r.From, r.Until)
    );

    public static readonly FactQuery<PersonRow> Person = new(
        $"""
        select given_name, birth_date from people.person where id = @Person
        """
    );

    public static readonly FactQuery<MachineRow> Machine = new(
        "select id, spec::text from house.machine order by position, id",
        Topic.Machines,
        holds: (m, q) => m.Id == q.Machine
    );

    public static readonly FactQuery<KindSpanRow> PersonSpans = new(
        $"""
        select 'account' as kind, {Span} from people.account where person_id = @Person and {Near} and {Known}
            union all select 'agreement', {Span} from people.agreement where person_id = @Person and {Near} and {Known}
            union all select 'pause', {Span} from people.pause where person_id = @Person and {Near} and {Known} order by 2
        """
    );

    // How many bookings somebody has open has no end; for the rest the time asked about is enough. What is over is passed by in the index.
    public static readonly FactQuery<ClaimRow> Claims = new(
        $"""
        select resource, {ClaimSpan} from booking.claim
            where resource = 'attend:' || @Person and upper(during) > @From and {ClaimKnown}
            union select c.* from (
                    select unnest(array['teach:' || @Person, 'machine:' || @Machine, @Fixture, 'attend:' || @Supervisor,
                        'teach:' || @Supervisor]) as id
                    union all select 'supervise:' || who || '/' || n
                        from unnest(array[@Person, @Supervisor]) who, {Places}
                    union all select 'class:' || p.id || '/' || n
                        from house.occurrence o join house.plan p on p.id = o.plan_id, {Places}
                        where p.kind = 'class' and @Machine = any(p.machine_ids) and o.during && tstzrange(@First, @Last)) r
                cross join lateral (select resource, {ClaimSpan} from booking.claim
                    where resource = r.id and {Around} and {ClaimKnown} offset 0) c
            order by 2
        """
    );

    public static readonly FactQuery<AtRow> NoShows = new(
        $"""
        select lower(during) as at from booking.booking
            where person_id = @Person and no_show and lower(during) > @From::timestamptz - interval '30 days'
              and cancelled_at <= {ThenOrNow}
        """
    );

    public static readonly FactQuery<SpanRow> InClass = new(
        $"""
        select lower(c.during) as "from", upper(c.during) as until from booking.claim c join booking.booking b on b.id = c.booking_id
            where b.person_id = @Person and starts_with(c.resource, 'class:') and upper(c.during) > @From and {LiveThen}
        """
    );

    public static readonly FactQuery<BenchRow> Benches = new(
        $"""
        select n as number, c.* from generate_series(1, 20) n cross join lateral (select {ClaimSpan} from booking.claim
            where resource = 'bench:' || n and upper(during) > @BenchFrom and lower(during) < @BenchTo and {LiveThen}
                and (bench_id is null or bench_id not in (select id from booking.bench where booking_id = any(@Apart))) offset 0) c
        """,
        asked: q => q.BenchFrom is not null
    );

    public static readonly FactQuery<ConsentRow> Consents = new(
        $"""
        select machine_ids, {Span} from people.consent where person_id = @Person and {Near} and {Known}
        """
    );

    public static readonly FactQuery<LiftRow> Lifts = new(
        $"""
        select l.id as ask_id, lower(l.held) as "from", upper(l.held) as until, l.items::text, l.reasons::text
            from gate.lift l join gate.ask a on a.id = l.id
            where l.person_id = @Person and l.machine_id = @Machine and l.{Near} and {Known}
              and (a.booking_id is null or a.booking_id = any(@Apart))
        """
    );

    public static readonly FactQuery<CertificateRow> Certificates = new(
        $"""
        select authority, founding, {Span}, not exists (select from people.founding f where f.certificate_id = c.id
                and (f.confirmed_at is null or f.confirmed_at > {ThenOrNow})) as confirmed
            from training.certificate c where person_id = @Person and (authority = @Machine or starts_with(authority, @Machine || '/'))
                and {Known} order by lower(held)
        """
    );

    public static readonly FactQuery<AtRow> LastUse = new(
        $"""
        select greatest(
            (select max(lower(held)) from training.certificate where person_id = @Person and authority = @Machine and lower(held) <= @Now
                and {Known}),
            (select max(upper(r.during)) from run.log r where r.person_id = @Person and r.machine_id = @Machine
                and upper(r.during) <= @Now and r.counts
                and (r.supervisor_id is null or r.confirmed_at <= {ThenOrNow})
                and {LoggedThen})) as at
        """
    );

    public static readonly FactQuery<KindSpanRow> Supervisor = new(
        $"""
        select 'trains' as kind, {Span} from people.acting
            where person_id = @Supervisor and role = 'trainer' and machine_id = @Machine and {Near} and {Known}
            union all select 'certified', {Span} from training.certificate
                where person_id = @Supervisor and authority = @Machine and {Near} and {Known} order by 2
        """,
        asked: q => q.Supervisor.Length > 0
    );

    public static readonly FactQuery<ModuleRow> Modules = new(
        "select id, kind, title, topic, version from training.module order by position, id",
        Topic.Course
    );

    public static readonly FactQuery<DoneRow> Done = new(
        $"""
        select module_id, max(version) as version from training.done where person_id = @Person and at <= {ThenOrNow} group by module_id
        """
    );

    public static readonly FactQuery<RepeatRow> Repeats = new(
        "select module_id, version, by_day, at from training.repeat order by module_id, version",
        Topic.Course,
        holds: (r, q) => r.At <= (q.KnownAt ?? q.Now)
    );

    public static readonly FactQuery<PathRow> Paths = new(
        $"select authority, body::text as body, {Span} from training.path where {Known}",
        Topic.Course,
        holds: (p, q) =>
            (p.Authority == q.Machine.Value || p.Authority.StartsWith(q.Machine + "/", StringComparison.Ordinal))
            && q.AtStart(p.From, p.Until)
    );

    public static readonly FactQuery<HoldRow> Holds = new(
        $"""
        select authority, kind, conditions::text as conditions, {Span} from training.certificate_hold
            where person_id = @Person and (authority = @Machine or starts_with(authority, @Machine || '/')) and {Near} and {Known}
        """
    );

    public static readonly FactQuery<PracticalRepeatRow> PracticalRepeats = new(
        """
        select r.practical_id, p.title, r.at, r.by_day from training.practical_repeat r
            join training.practical p on p.id = r.practical_id and p.version = r.version
        """,
        Topic.Course,
        holds: (r, q) => r.At <= (q.KnownAt ?? q.Now)
    );
}
