using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Core.House.Calendars;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.Booking;

/// <summary>A calendar address somebody made. The secret is not kept.</summary>
public sealed record FeedMade(
    Guid Id,
    PersonId PersonId,
    FeedKind Kind,
    MachineId? MachineId,
    Instant MadeAt,
    Instant? ReadAt,
    Instant? EndedAt
);

/// <summary>Calendars elsewhere that read the house’s: their addresses, and what stands in them.</summary>
public sealed class FeedStore(NpgsqlDataSource db)
{
    /// <summary>A calendar elsewhere looks often; that it looks at all is worth a write now and then.</summary>
    private static readonly Duration NoteEvery = Duration.FromMinutes(10);

    private const string Columns = "select id, person_id, kind, machine_id, made_at, read_at, ended_at from booking.feed";

    private sealed record Row(
        Guid Id,
        PersonId PersonId,
        string Kind,
        MachineId? MachineId,
        Instant MadeAt,
        Instant? ReadAt,
        Instant? EndedAt
    )
    {
        public FeedMade ToFeed() =>
            new(
                Id: Id,
                PersonId: PersonId,
                Kind: Enum.Parse<FeedKind>(Kind, ignoreCase: true),
                MachineId: MachineId,
                MadeAt: MadeAt,
                ReadAt: ReadAt,
                EndedAt: EndedAt
            );
    }

    private sealed record Time(
        string What,
        string Uid,
        Instant Start,
        Instant End,
        string Title,
        string? Runs,
        string? GivenName,
        string? FamilyName,
        LocalDate? BirthDate,
        bool Cancelled,
        int Sequence,
        Instant ChangedAt
    );

    /// <summary>Makes an address; the same kind again renews it, and the older one reads no more.</summary>
    public Task<Result<FeedMade>> Make(
        PersonId person,
        FeedKind kind,
        MachineId? machine,
        string secret,
        bool staff,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var (has, known) = await connection.QuerySingleAsync<(int, bool)>(
                    """
                    select (select count(*)::int from (select from booking.feed where person_id = @person and ended_at is null
                            and (kind, coalesce(machine_id, '')) <> (@kind, coalesce(@machine, '')) for update) f),
                        exists (select from house.machine where id = @machine)
                    """,
                    new
                    {
                        person,
                        machine,
                        kind = Word(kind),
                    },
                    transaction
                );
                if (Feeds.May(kind, machine?.Value, known, has, staff) is { } refusal)
                    return ((Result<FeedMade>)refusal, false);
                var row = await connection.QuerySingleAsync<Row>(
                    """
                    update booking.feed set ended_at = @now where person_id = @person and kind = @kind
                        and coalesce(machine_id, '') = coalesce(@machine, '') and ended_at is null;
                    insert into booking.feed (id, person_id, kind, machine_id, secret_sha256, made_at)
                        values (gen_random_uuid(), @person, @kind, @machine, @hash, @now)
                        returning id, person_id, kind, machine_id, made_at, read_at, ended_at
                    """,
                    new
                    {
                        person,
                        machine,
                        now,
                        kind = Word(kind),
                        hash = Feeds.Hash(secret),
                    },
                    transaction
                );
                return (row.ToFeed(), true);
            },
            cancel
        );

    public async Task<IReadOnlyList<FeedMade>> Of(PersonId person, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                $"{Columns} where person_id = @person and ended_at is null order by made_at",
                new { person },
                cancellationToken: cancel
            )
        );
        return [.. rows.Select(r => r.ToFeed())];
    }

    /// <returns>False when there is none of this person’s.</returns>
    public async Task<bool> Withdraw(Guid id, PersonId person, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
                new CommandDefinition(
                    "update booking.feed set ended_at = @now where id = @id and person_id = @person and ended_at is null",
                    new
                    {
                        id,
                        person,
                        now,
                    },
                    cancellationToken: cancel
                )
            ) == 1;
    }

    /// <summary>The feed behind a secret; one that ended, too, as it does with the account of whoever made it.</summary>
    /// <returns>Null when there never was one.</returns>
    public async Task<FeedMade?> Find(string secret, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var row = await connection.QuerySingleOrDefaultAsync<Row>(
            new CommandDefinition(
                """
                select id, person_id, kind, machine_id, made_at, read_at, case when exists (select from people.account a
                    where a.person_id = f.person_id and a.held @> @now and upper_inf(a.recorded)) then ended_at else @now end as ended_at
                from booking.feed f where secret_sha256 = @hash
                """,
                new { now, hash = Feeds.Hash(secret) },
                cancellationToken: cancel
            )
        );
        if (row is { EndedAt: null } && (row.ReadAt is not { } read || now - read > NoteEvery))
            await connection.ExecuteAsync(
                new CommandDefinition(
                    "update booking.feed set read_at = @now where id = @Id",
                    new { row.Id, now },
                    cancellationToken: cancel
                )
            );
        return row?.ToFeed();
    }

    /// <summary>What stands in a feed, soonest first; what was cancelled, too.</summary>
    /// <param name="whole">The owner sees whole names.</param>
    /// <param name="house">Name of the house: where it is.</param>
    public async Task<IReadOnlyList<FeedEntry>> Entries(FeedMade feed, bool whole, string house, Instant now, CancellationToken cancel)
    {
        var reach = Feeds.Reach(now);
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Time>(
            new CommandDefinition(
                Sql(feed.Kind),
                new
                {
                    person = feed.PersonId,
                    machine = feed.MachineId,
                    from = reach.Start,
                    to = reach.End,
                    most = Feeds.MostEntries,
                },
                cancellationToken: cancel
            )
        );
        return
        [
            .. rows.Select(r =>
            {
                var name = r.GivenName is null ? "" : PersonName.For(r.GivenName, r.FamilyName!, Ages.On(r.BirthDate, now), whole);
                var runs = BookingDetails.Read(r.Runs).Select(x => FeedWords.Run(x.Drawing, x.Material, x.ThicknessMm, x.Tag)).ToList();
                var (title, description) = FeedWords.Of(r.What, r.Title, name, runs);
                return new FeedEntry(
                    Uid: $"{r.Uid}@velvet-gate",
                    Start: r.Start,
                    End: r.End,
                    Title: title,
                    Description: description,
                    Location: house,
                    Cancelled: r.Cancelled,
                    Sequence: r.Sequence,
                    ChangedAt: r.ChangedAt
                );
            }),
        ];
    }

    private static string Word(FeedKind kind) => kind.ToString().ToLowerInvariant();

    private static string Sql(FeedKind kind) =>
        kind switch
        {
            FeedKind.Mine => All(
                Bookings(FeedWords.Booking, "b.person_id = @person", BookingDetails.Runs),
                Bookings(FeedWords.Supervises, "b.ask ->> 'supervisorId' = @person and b.person_id <> @person", "null"),
                Duties("d.person_id = @person"),
                Planned(
                    "p.kind = 'class' and (p.person_id = @person or exists (select from house.roster r where r.plan_id = p.id "
                        + "and r.person_id = @person and upper_inf(r.recorded)))"
                )
            ),
            // Nobody's name, and nothing of what they run.
            FeedKind.Machine => All(
                Bookings(FeedWords.Taken, "b.machine_id = @machine", "null"),
                Planned("(p.machine_ids = '{}' and p.kind = 'closure' or @machine = any(p.machine_ids))")
            ),
            _ => All(Duties("true"), Planned("true")),
        };

    private static string All(params string[] parts) =>
        $"""
            select * from ({string.Join(
                " union all ",
                parts
            )}) t (what, uid, start, "end", title, runs, given_name, family_name, birth_date,
                cancelled, sequence, changed_at)
            order by start, uid limit @most
            """;

    private static string Bookings(string what, string where, string runs) =>
        $"""
            select '{what}', 'booking-' || b.id, lower(b.during), upper(b.during), m.name, {runs}, null, null, null::date,
                b.cancelled_at is not null, b.version, greatest(b.made_at, b.cancelled_at,
                    (select max(lower(c.recorded)) from booking.claim c where c.booking_id = b.id))
            from booking.booking b join house.machine m on m.id = b.machine_id
            where {where} and b.during && tstzrange(@from, @to)
            """;

    /// <summary>The last that was said of each time: what is no longer planned is cancelled.</summary>
    private static string Duties(string where) =>
        $"""
            select '{FeedWords.Duty}', 'duty-' || coalesce(d.plan_id::text, d.person_id)
                || '-' || extract(epoch from lower(d.during))::bigint, lower(d.during), upper(d.during), '', null::text,
                p.given_name, p.family_name, p.birth_date, not upper_inf(d.recorded),
                case when upper_inf(d.recorded) then 0 else 1 end, coalesce(upper(d.recorded), lower(d.recorded))
            from (select distinct on (coalesce(plan_id::text, person_id), lower(during)) * from house.duty
                where during && tstzrange(@from, @to)
                order by coalesce(plan_id::text, person_id), lower(during), upper_inf(recorded) desc, upper(recorded) desc) d
            join people.person p on p.id = d.person_id where {where}
            """;

    private static string Planned(string where) =>
        $"""
            select p.kind, 'plan-' || p.id || '-' || extract(epoch from lower(o.during))::bigint,
                lower(o.during), upper(o.during), p.title,
                null, null, null, null::date, not upper_inf(o.recorded), case when upper_inf(o.recorded) then 0 else 1 end,
                coalesce(upper(o.recorded), lower(o.recorded))
            from (select distinct on (plan_id, lower(during)) * from house.occurrence where during && tstzrange(@from, @to)
                order by plan_id, lower(during), upper_inf(recorded) desc, upper(recorded) desc) o
            join house.plan p on p.id = o.plan_id where p.kind <> 'duty' and {where}
            """;
}
