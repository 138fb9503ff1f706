using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Booking;

/// <param name="Parts">What each stretch is for, adding up to <paramref name="Minutes"/>.</param>
public sealed record BookedTime(
    Guid Id,
    int Number,
    PersonId PersonId,
    string GivenName,
    string FamilyName,
    LocalDate? BirthDate,
    MachineId MachineId,
    Instant Start,
    Instant End,
    int Minutes,
    IReadOnlyList<BookingPart> Parts,
    PersonId MadeBy,
    Instant? CancelledAt,
    int Version,
    Instant? AtRiskSince,
    IReadOnlyList<RiskReason> AtRisk,
    Instant? ArrivedAt,
    GateQuestion Ask,
    int Companions,
    bool NoShow
);

/// <summary>What came of trying to book. Closed: these are all the cases.</summary>
public abstract record BookingOutcome
{
    private BookingOutcome() { }

    public sealed record Booked(BookedTime Booking, bool Again) : BookingOutcome;

    /// <summary>The gate does not open.</summary>
    public sealed record Refused(Decision Decision) : BookingOutcome;

    /// <summary>Somebody else has the time.</summary>
    public sealed record Taken(Decision? Decision) : BookingOutcome;

    /// <summary>The id is in use for something else.</summary>
    public sealed record IdUsed : BookingOutcome;

    public sealed record Unknown(Refusal Refusal) : BookingOutcome;
}

/// <summary>Bookings in PostgreSQL. That nothing is held twice is the database's constraint; this class only asks nicely first.</summary>
public sealed class BookingStore(NpgsqlDataSource db) : IDisposable
{
    private const string Columns = """
        select b.id, b.number, b.person_id, p.given_name, p.family_name, p.birth_date, b.machine_id, lower(b.during) as start,
            upper(b.during) as "end",
            b.minutes, b.parts::text as parts, b.made_by, b.cancelled_at, b.version, b.at_risk_since, b.at_risk::text as at_risk,
                b.arrived_at, b.ask::text as ask, b.companions, b.no_show
        from booking.booking b join people.person p on p.id = b.person_id
        """;

    /// <summary>What stands between <c>@from</c> and <c>@to</c>, in order.</summary>
    internal static readonly Query<Row> Day = new(
        $"{Columns} where b.during && tstzrange(@from, @to) and b.cancelled_at is null order by lower(b.during), b.machine_id"
    );

    internal sealed record Row(
        Guid Id,
        int Number,
        PersonId PersonId,
        string GivenName,
        string FamilyName,
        LocalDate? BirthDate,
        MachineId MachineId,
        Instant Start,
        Instant End,
        int Minutes,
        string Parts,
        PersonId MadeBy,
        Instant? CancelledAt,
        int Version,
        Instant? AtRiskSince,
        string? AtRisk,
        Instant? ArrivedAt,
        string Ask,
        int Companions,
        bool NoShow
    )
    {
        public BookedTime ToBooking() =>
            new(
                Id: Id,
                Number: Number,
                PersonId: PersonId,
                GivenName: GivenName,
                FamilyName: FamilyName,
                BirthDate: BirthDate,
                MachineId: MachineId,
                Start: Start,
                End: End,
                Minutes: Minutes,
                Parts: GateJson.Read<List<BookingPart>>(Parts),
                MadeBy: MadeBy,
                CancelledAt: CancelledAt,
                Version: Version,
                AtRiskSince: AtRiskSince,
                AtRisk: AtRisk is null ? [] : GateJson.Read<List<RiskReason>>(AtRisk),
                ArrivedAt: ArrivedAt,
                Ask: GateJson.Read<GateQuestion>(Ask),
                Companions: Companions,
                NoShow: NoShow
            );
    }

    /// <summary>
    /// How many bookings one instance decides at a time; the rest wait in the order they came, outside the database. More would only wait
    /// for each other's rows.
    /// </summary>
    private const int AtOnce = 6;

    private readonly SemaphoreSlim _door = new(AtOnce);

    /// <summary>Decides once more under the locks, and books if the gate is open.</summary>
    /// <param name="id">Client-made id: the same again answers with the same booking.</param>
    /// <param name="companions">How many come along; they watch and attend nothing.</param>
    public async Task<BookingOutcome> Book(
        Guid id,
        GateQuestion ask,
        PersonId madeBy,
        Instant now,
        CancellationToken cancel,
        int companions = 0
    )
    {
        await _door.WaitAsync(cancel);
        try
        {
            return await Transaction.Run(
                db,
                (connection, transaction) => Book(connection, transaction, id, ask, companions, madeBy, now, cancel),
                cancel
            );
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ExclusionViolation)
        {
            return new BookingOutcome.Taken(null);
        }
        catch (PostgresException e) when (e is { SqlState: PostgresErrorCodes.UniqueViolation, TableName: "booking" })
        {
            return await Repeat(id, ask, madeBy, cancel) ?? new BookingOutcome.IdUsed();
        }
        finally
        {
            _door.Release();
        }
    }

    public void Dispose() => _door.Dispose();

    private async Task<(BookingOutcome, bool)> Book(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        GateQuestion ask,
        int companions,
        PersonId madeBy,
        Instant now,
        CancellationToken cancel
    )
    {
        var resources = Resources(ask);
        if (await Lock(connection, transaction, resources, id) is { } before)
            return (IsSame(before, ask, madeBy) ? new BookingOutcome.Booked(before, true) : new BookingOutcome.IdUsed(), false);
        var loaded = await FactLoader.Load(Memory.Of(db), connection, transaction, ask, now, null, madeBy, cancel);
        if (loaded.Refusal is { } refusal)
            return (new BookingOutcome.Unknown(refusal), false);
        var decision = Core.Gating.Gate.Decide(ask, loaded.Value);
        Metering.Decided(decision.Verdict, "booked");
        if (decision.Verdict > Verdict.Conditions)
            return (Against(decision), false);
        var slot = await Slot(connection, transaction, ask, loaded.Value);
        if (slot is { Free: null })
            return (new BookingOutcome.Taken(null), false);
        if (slot is { Free: { } free })
            resources.Add(free);
        return (
            new BookingOutcome.Booked(
                await Insert(connection, transaction, id, ask, loaded.Value, decision, companions, madeBy, now, resources),
                false
            ),
            true
        );
    }

    /// <summary>When only the calendar is against it, the time was taken: another answer than a gate that is shut.</summary>
    private static BookingOutcome Against(Decision decision) =>
        decision
            .Reasons.Where(r => r.Standing >= Standing.Ask)
            .All(r => r.Code == Codes.TimeTaken.Code || r.Code == Codes.PersonElsewhere.Code)
            ? new BookingOutcome.Taken(decision)
            : new BookingOutcome.Refused(decision);

    private static List<string> Resources(GateQuestion ask)
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
    private static async Task<(bool Needed, string? Free)?> Slot(
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
    private static async Task<BookedTime?> Lock(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        List<string> resources,
        Guid? id
    )
    {
        const string InOrder =
            "select id from booking.resource where id = any(@ids) order by id for update; " + Columns + " where b.id = @id;";
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
            return ((await rows.ReadAsync<string>()).Count(), (await rows.ReadAsync<Row>()).SingleOrDefault()?.ToBooking());
        }
    }

    private static async Task<BookedTime> Insert(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        GateQuestion ask,
        GateFacts facts,
        Decision decision,
        int companions,
        PersonId madeBy,
        Instant now,
        List<string> resources
    )
    {
        var (decisionId, _) = await DecisionStore.Save(connection, transaction, ask, facts, now);
        using var rows = await connection.QueryMultipleAsync(
            $"""
            insert into booking.booking (id, person_id, machine_id, during, minutes, parts, ask, decision_id, made_by, made_at, companions)
            values (@id, @MemberId, @MachineId, tstzrange(@Start, @End), @Minutes, @parts::jsonb, @ask::jsonb, @decisionId, @madeBy, @now,
                @companions);
            insert into booking.claim (booking_id, resource, during, recorded)
            select @id, r, tstzrange(@Start, @End), tstzrange(@now, null) from unnest(@resources) r where r <> @supervises;
            {Columns} where b.id = @id;
            {ForRecord};
            """,
            new
            {
                id,
                ask.MemberId,
                ask.MachineId,
                ask.Start,
                ask.End,
                ask.Minutes,
                decisionId,
                madeBy,
                now,
                companions,
                by = madeBy,
                parts = GateJson.Write(decision.Length.FilledTo(ask.Minutes)),
                ask = GateJson.Write(ask),
                resources = resources.ToArray(),
                supervises = $"supervise:{ask.SupervisorId}",
            },
            transaction
        );
        var booking = (await rows.ReadSingleAsync<Row>()).ToBooking();
        var entry = await rows.ReadSingleAsync<RecordRow>();
        if (decision.Lifted.Count > 0)
            await connection.ExecuteAsync(
                "update gate.ask set booking_id = @id, version = version + 1 where id = any(@asks)",
                new { id, asks = decision.Lifted.ToArray() },
                transaction
            );
        if (ask.SupervisorId is { } supervisor)
            await TellSupervisor(
                connection,
                transaction,
                id,
                supervisor,
                "made",
                $"You are booked to supervise on {facts.Machine.Spec.Name}",
                ask,
                facts.Rules,
                now
            );
        await Append(connection, transaction, RecordEvents.BookingMade, entry, now, null);
        return booking;
    }

    private static Task TellSupervisor(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        PersonId supervisor,
        string what,
        string title,
        GateQuestion ask,
        Core.House.HouseRules rules,
        Instant now
    )
    {
        var clock = rules.Clock;
        var time =
            $"{clock.At(ask.Start).ToString("ddd d MMM HH:mm", System.Globalization.CultureInfo.InvariantCulture)} to "
            + $"{clock.At(ask.End).ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture)}";
        return MessageStore.Tell(
            connection,
            transaction,
            supervisor,
            $"supervise.{what}:{id}",
            title,
            $"{time}. You stay for the whole time; tell a steward at once if you cannot.",
            "/bookings",
            now
        );
    }

    private const string ForRecord = """
        select b.id as booking, p.number as person, (select number from people.person where id = @by) as by, b.machine_id as machine,
            lower(b.during) as start, upper(b.during) as "end",
            b.decision_id as decision, d.hash, (select count(*)::int from booking.claim c where c.booking_id = b.id and c.live) as claims
        from booking.booking b join people.person p on p.id = b.person_id join gate.decision d on d.id = b.decision_id where b.id = @id
        """;

    private sealed record RecordRow(
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

    private static async Task Append(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        Guid id,
        PersonId by,
        Instant now,
        TextLink? why = null
    ) =>
        await Append(
            connection,
            transaction,
            kind,
            await connection.QuerySingleAsync<RecordRow>(ForRecord, new { id, by }, transaction),
            now,
            why
        );

    private static Task Append(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        RecordRow row,
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

    /// <summary>Gives the time back. The booking stays on record.</summary>
    /// <returns>The booking; null when there is none; or why it cannot be cancelled.</returns>
    public Task<Result<BookedTime>> Cancel(Guid id, PersonId by, bool maySeeAll, string? why, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var booking = await FindIn(connection, transaction, id, lockIt: true);
                if (booking is null || (!maySeeAll && booking.PersonId != by))
                    return ((Result<BookedTime>)CommonProblems.NotFound.Refuse(null, "booking of yours"), false);
                if (booking.CancelledAt is not null)
                    return (booking, false);
                if (booking.End <= now)
                    return (BookingProblems.BookingOver.Refuse(), false);
                var text = string.IsNullOrWhiteSpace(why) ? null : await LedgerStore.Keep(connection, transaction, why, booking.PersonId);
                await connection.ExecuteAsync(
                    $"update booking.claim set live = false, {Dated.Closed} " + "where booking_id = @id and live",
                    new { id, now },
                    transaction
                );
                await connection.ExecuteAsync(
                    "update booking.booking set cancelled_at = @now, cancelled_by = @by, cancel_text_id = @text, version = version "
                        + "+ 1 where id = @id",
                    new
                    {
                        id,
                        now,
                        by,
                        text = text?.Id,
                    },
                    transaction
                );
                // A lift that was never used is there again.
                await connection.ExecuteAsync(
                    "update gate.ask set booking_id = null, version = version + 1 where booking_id = @id",
                    new { id },
                    transaction
                );
                await Append(connection, transaction, RecordEvents.BookingCancelled, id, by, now, text);
                return (booking with { CancelledAt = now, Version = booking.Version + 1 }, true);
            },
            cancel
        );

    /// <summary>Marks a booking as arrived.</summary>
    /// <returns>The booking; null when there is none of this person's; or why it cannot be marked.</returns>
    public Task<Result<BookedTime>> Arrive(Guid id, PersonId by, bool maySeeAll, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var booking = await FindIn(connection, transaction, id, lockIt: true);
                if (booking is null || (!maySeeAll && booking.PersonId != by))
                    return ((Result<BookedTime>)CommonProblems.NotFound.Refuse(null, "booking of yours"), false);
                if (booking.ArrivedAt is not null)
                    return (booking, false);
                if (Core.Run.RunLog.MayArrive(booking.Start, booking.End, booking.CancelledAt is not null, now) is { } refusal)
                    return (refusal, false);
                await Arrived(connection, transaction, booking, by, now);
                return (booking with { ArrivedAt = now, Version = booking.Version + 1 }, true);
            },
            cancel
        );

    /// <summary>Marks a booking as arrived, in the transaction of whoever saw the person come.</summary>
    internal static async Task Arrived(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        BookedTime booking,
        PersonId by,
        Instant now
    )
    {
        await connection.ExecuteAsync(
            "update booking.booking set arrived_at = @now, arrived_by = @by, version = version + 1 where id = @Id and arrived_at is null",
            new
            {
                booking.Id,
                now,
                by,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.BookingArrived,
            new
            {
                booking = booking.Id,
                person = await LedgerStore.Number(connection, transaction, booking.PersonId),
                by = await LedgerStore.Number(connection, transaction, by),
                machine = booking.MachineId,
            }
        );
    }

    /// <summary>Gives back what is left of the time of a booking that nobody came to, and tells the person.</summary>
    /// <param name="by">The steward; null when the house releases by itself.</param>
    /// <returns>The booking; null when there is none; or why it stays.</returns>
    public Task<Result<BookedTime>> ReleaseNoShow(Guid id, PersonId? by, int graceMinutes, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var booking = await FindIn(connection, transaction, id, lockIt: true);
                if (booking is null)
                    return ((Result<BookedTime>)CommonProblems.NotFound.Refuse(null, "booking"), false);
                if (
                    Core.Run.RunLog.MayRelease(
                        booking.Start,
                        booking.End,
                        booking.ArrivedAt is not null,
                        booking.CancelledAt is not null,
                        graceMinutes,
                        now
                    ) is
                    { } refusal
                )
                    return (refusal, false);
                await connection.ExecuteAsync(
                    $"""
                    update booking.claim set live = false, {Dated.Closed}
                        where booking_id = @id and live;
                    update booking.booking set cancelled_at = @now, cancelled_by = @by, no_show = true, version = version + 1
                        where id = @id;
                    """,
                    new
                    {
                        id,
                        now,
                        by,
                    },
                    transaction
                );
                await MessageStore.Tell(
                    connection,
                    transaction,
                    booking.PersonId,
                    $"booking.noShow:{id}",
                    $"Booking {booking.Number} was released",
                    $"Nobody arrived within {graceMinutes} minutes of its start, so others may have the time. Ask the gate for another.",
                    "/bookings",
                    now
                );
                await Append(connection, transaction, RecordEvents.BookingCancelled, id, by ?? booking.PersonId, now);
                return (booking with { CancelledAt = now, NoShow = true, Version = booking.Version + 1 }, true);
            },
            cancel
        );

    /// <summary>Bookings whose grace is over and that nobody marked as arrived, soonest first.</summary>
    public async Task<IReadOnlyList<BookedTime>> NoShows(int graceMinutes, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                Columns
                    + " where b.cancelled_at is null and b.arrived_at is null and lower(b.during) <= @late and upper(b.during) > "
                    + "@now order by lower(b.during)",
                new { now, late = now - Duration.FromMinutes(graceMinutes) },
                cancellationToken: cancel
            )
        );
        return [.. rows.Select(r => r.ToBooking())];
    }

    /// <summary>Bookings that touch the time, in order; cancelled ones only where asked.</summary>
    public async Task<IReadOnlyList<BookedTime>> Between(Instant from, Instant to, PersonId? personId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                Columns
                    + " where b.during && tstzrange(@from, @to) and b.cancelled_at is null and (@personId::text is null or "
                    + "b.person_id = @personId) order by lower(b.during), b.machine_id",
                new
                {
                    from,
                    to,
                    personId,
                },
                cancellationToken: cancel
            )
        );
        return [.. rows.Select(r => r.ToBooking())];
    }

    /// <summary>These bookings, soonest first.</summary>
    public async Task<IReadOnlyList<BookedTime>> Of(IReadOnlyList<Guid> ids, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<Row>(
                    new CommandDefinition(
                        Columns + " where b.id = any(@ids) order by lower(b.during)",
                        new { ids = ids.ToArray() },
                        cancellationToken: cancel
                    )
                )
            ).Select(r => r.ToBooking()),
        ];
    }

    private async Task<BookingOutcome?> Repeat(Guid id, GateQuestion ask, PersonId madeBy, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await FindIn(connection, null, id) is { } before && IsSame(before, ask, madeBy)
            ? new BookingOutcome.Booked(before, true)
            : null;
    }

    private static bool IsSame(BookedTime before, GateQuestion ask, PersonId madeBy) =>
        before.MadeBy == madeBy
        && before.PersonId == ask.MemberId
        && before.MachineId == ask.MachineId
        && before.Start == ask.Start
        && before.Minutes == ask.Minutes;

    private static async Task<BookedTime?> FindIn(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        Guid id,
        bool lockIt = false
    ) =>
        (
            await connection.QuerySingleOrDefaultAsync<Row>(
                Columns + " where b.id = @id" + (lockIt ? " for update of b" : ""),
                new { id },
                transaction
            )
        )?.ToBooking();
}
