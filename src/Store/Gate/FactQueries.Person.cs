namespace VelvetGate.Store.Gate;

/// <summary>Of the house, the person and their training.</summary>
internal static partial class FactQueries
{
    public static readonly FactQuery<string> Rules = new(
        $"""
        select body::text from house.rules where held @> @start and {Known}
        """
    );

    public static readonly FactQuery<PersonRow> Person = new(
        $"""
        select given_name, birth_date from people.person where id = @person
        """
    );

    public static readonly FactQuery<string> Machine = new(
        $"""
        select spec::text from house.machine where id = @machine
        """
    );

    public static readonly FactQuery<SpanRow> Accounts = new(
        $"""
        select {Span} from people.account where person_id = @person and {Near} and {Known}
        """
    );

    public static readonly FactQuery<SpanRow> Agreements = new(
        $"""
        select {Span} from people.agreement where person_id = @person and {Near} and {Known}
        """
    );

    public static readonly FactQuery<SpanRow> Pauses = new(
        $"""
        select {Span} from people.pause where person_id = @person and {Near} and {Known}
        """
    );

    public static readonly FactQuery<SpanRow> Attending = new(
        $"""
        select {ClaimSpan} from booking.claim where resource = 'attend:' || @person and during && tstzrange(@from, null) and {ClaimKnown}
            order by 1
        """
    );

    public static readonly FactQuery<SpanRow> Duties = new(
        $"""
        select {ClaimSpan} from booking.claim where resource = 'teach:' || @person and {Around} and {ClaimKnown}
            union all select {ClaimSpan} from booking.claim where resource between 'supervise:' || @person || '/1'
                and 'supervise:' || @person || '/9' and {Around} and {ClaimKnown}
        """
    );

    public static readonly FactQuery<ConsentRow> Consents = new(
        $"""
        select machine_ids, {Span} from people.consent where person_id = @person and {Near} and {Known}
        """
    );

    public static readonly FactQuery<LiftRow> Lifts = new(
        $"""
        select l.id as ask_id, lower(l.held) as "from", upper(l.held) as until, l.items::text, l.reasons::text
            from gate.lift l join gate.ask a on a.id = l.id
            where l.person_id = @person and l.machine_id = @machine and l.{Near} and {Known}
              and (a.booking_id is null or a.booking_id is not distinct from @booking::uuid)
        """
    );

    public static readonly FactQuery<CertificateRow> Certificates = new(
        $"""
        select authority, founding, {Span}, not exists (select from people.founding f where f.certificate_id = c.id
                and (f.confirmed_at is null or f.confirmed_at > {ThenOrNow})) as confirmed
            from training.certificate c where person_id = @person and (authority = @machine or starts_with(authority, @machine || '/'))
                and {Known} order by lower(held)
        """
    );

    public static readonly FactQuery<AtRow> LastUse = new(
        $"""
        select greatest(
            (select max(lower(held)) from training.certificate where person_id = @person and authority = @machine and lower(held) <= @now
                and {Known}),
            (select max(upper(r.during)) from run.log r where r.person_id = @person and r.machine_id = @machine
                and upper(r.during) <= @now and r.counts
                and (r.supervisor_id is null or r.confirmed_at <= {ThenOrNow})
                and {LoggedThen})) as at
        """
    );

    public static readonly FactQuery<SpanRow> SupervisorTrains = new(
        $"""
        select {Span} from people.acting where person_id = @supervisor and role = 'trainer' and machine_id = @machine and {Near}
            and {Known}
        """
    );

    public static readonly FactQuery<SpanRow> SupervisorCertified = new(
        $"""
        select {Span} from training.certificate where person_id = @supervisor and authority = @machine and {Near} and {Known}
        """
    );

    public static readonly FactQuery<SpanRow> SupervisorAttends = new(
        $"""
        select {ClaimSpan} from booking.claim where resource = 'attend:' || @supervisor and {Around} and {ClaimKnown}
        """
    );

    public static readonly FactQuery<SpanRow> SupervisorTeaches = new(
        $"""
        select {ClaimSpan} from booking.claim where resource = 'teach:' || @supervisor and {Around} and {ClaimKnown}
        """
    );

    public static readonly FactQuery<SpanRow> SupervisorSupervises = new(
        $"""
        select {ClaimSpan} from booking.claim where resource between 'supervise:' || @supervisor || '/1'
            and 'supervise:' || @supervisor || '/9' and {Around} and {ClaimKnown}
        """
    );

    public static readonly FactQuery<ModuleRow> Modules = new(
        $"""
        select m.id, m.kind, m.title, m.topic, m.version, coalesce((select max(d.version) from training.done d where d.person_id = @person
            and d.module_id = m.id and d.at <= {ThenOrNow}), 0) as done
            from training.module m order by m.position, m.id
        """
    );

    public static readonly FactQuery<RepeatRow> Repeats = new(
        $"""
        select module_id, version, by_day from training.repeat where at <= {ThenOrNow} order by module_id, version
        """
    );

    public static readonly FactQuery<PathRow> Paths = new(
        $"""
        select body::text as body, lower(held) as "from" from training.path where (authority = @machine
            or starts_with(authority, @machine || '/')) and held @> @start and {Known}
        """
    );

    public static readonly FactQuery<HoldRow> Holds = new(
        $"""
        select authority, kind, conditions::text as conditions, {Span} from training.certificate_hold
            where person_id = @person and (authority = @machine or starts_with(authority, @machine || '/')) and {Near} and {Known}
        """
    );

    public static readonly FactQuery<PracticalRepeatRow> PracticalRepeats = new(
        $"""
        select r.practical_id, p.title, r.at, r.by_day from training.practical_repeat r
            join training.practical p on p.id = r.practical_id and p.version = r.version where r.at <= {ThenOrNow}
        """
    );
}
