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

    /// <summary>Codes of what is against it; empty where it was booked, or not decided at all.</summary>
    public IReadOnlyList<string> Against =>
        this switch
        {
            Refused refused => Shut(refused.Decision),
            Taken { Decision: { } decision } => Shut(decision),
            Taken => [Codes.TimeTaken.Code],
            _ => [],
        };

    private static List<string> Shut(Decision decision) =>
        [.. decision.Reasons.Where(r => r.Standing >= Standing.Ask).Select(r => r.Code).Distinct()];
}

/// <summary>Bookings in PostgreSQL. That nothing is held twice is the database's constraint; this class only asks nicely first.</summary>
public sealed class BookingStore(NpgsqlDataSource db) : IDisposable
{
    /// <summary>What stands between <c>@from</c> and <c>@to</c>, in order.</summary>
    internal static readonly Query<BookingRows.Row> Day = new(
        $"{BookingRows.Columns} where b.during && tstzrange(@from, @to) and b.cancelled_at is null order by lower(b.during), b.machine_id"
    );

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
                (connection, transaction) => BookIn(connection, transaction, id, ask, companions, madeBy, now, cancel),
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

    /// <summary>The same inside another act: what was kept for somebody becomes their booking.</summary>
    internal async Task<(BookingOutcome Outcome, bool Commit)> BookIn(
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
        var resources = BookingClaims.Resources(ask);
        if (await BookingClaims.Lock(connection, transaction, resources, id) is { } before)
            return (IsSame(before, ask, madeBy) ? new BookingOutcome.Booked(before, true) : new BookingOutcome.IdUsed(), false);
        var loaded = await FactLoader.Load(Memory.Of(db), connection, transaction, ask, now, null, madeBy, cancel);
        if (loaded.Refusal is { } refusal)
            return (new BookingOutcome.Unknown(refusal), false);
        var decision = Core.Gating.Gate.Decide(ask, loaded.Value);
        Metering.Decided(decision.Verdict, "booked");
        if (decision.Verdict > Verdict.Conditions)
            return (Against(decision), false);
        var slot = await BookingClaims.Slot(connection, transaction, ask, loaded.Value);
        if (slot is { Free: null })
            return (new BookingOutcome.Taken(null), false);
        if (slot is { Free: { } free })
            resources.Add(free);
        var booked = await Insert(connection, transaction, id, ask, loaded.Value, decision, companions, madeBy, now, resources);
        return await BookingBench.Take(connection, transaction, id, ask, loaded.Value.Rules, now)
            ? (new BookingOutcome.Booked(booked, false), true)
            : (new BookingOutcome.Unknown(BookingProblems.BenchTaken.Refuse("bench")), false);
    }

    /// <summary>When only the calendar is against it, the time was taken: another answer than a gate that is shut.</summary>
    internal static BookingOutcome Against(Decision decision) =>
        decision
            .Reasons.Where(r => r.Standing >= Standing.Ask)
            .All(r => r.Code == Codes.TimeTaken.Code || r.Code == Codes.PersonElsewhere.Code || r.Code == Codes.BenchTaken.Code)
            ? new BookingOutcome.Taken(decision)
            : new BookingOutcome.Refused(decision);

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
            {BookingClaims.HoldSql};
            {BookingRows.Columns} where b.id = @id;
            {BookingRecord.Sql};
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
            },
            transaction
        );
        var booking = (await rows.ReadSingleAsync<BookingRows.Row>()).ToBooking();
        var entry = await rows.ReadSingleAsync<BookingRecord.Row>();
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
        await BookingRecord.Append(connection, transaction, RecordEvents.BookingMade, entry, now, null);
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

    /// <summary>Gives the time back. The booking stays on record.</summary>
    /// <returns>The booking; null when there is none; or why it cannot be cancelled.</returns>
    public Task<Result<BookedTime>> Cancel(Guid id, PersonId by, bool maySeeAll, string? why, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var booking = await BookingRows.FindIn(connection, transaction, id, lockIt: true);
                if (booking is null || (!maySeeAll && booking.PersonId != by))
                    return ((Result<BookedTime>)CommonProblems.NotFound.Refuse(null, "booking of yours"), false);
                if (booking.CancelledAt is not null)
                    return (booking, false);
                if (booking.End <= now)
                    return (BookingProblems.BookingOver.Refuse(), false);
                var text = string.IsNullOrWhiteSpace(why) ? null : await LedgerStore.Keep(connection, transaction, why, booking.PersonId);
                await connection.ExecuteAsync(BookingClaims.DropSql, new { ids = new[] { id }, now }, transaction);
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
                await BookingRecord.Append(connection, transaction, RecordEvents.BookingCancelled, id, by, now, text);
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
                var booking = await BookingRows.FindIn(connection, transaction, id, lockIt: true);
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
                var booking = await BookingRows.FindIn(connection, transaction, id, lockIt: true);
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
                    {BookingClaims.DropSql};
                    update booking.booking set cancelled_at = @now, cancelled_by = @by, no_show = true, version = version + 1
                        where id = @id;
                    """,
                    new
                    {
                        id,
                        ids = new[] { id },
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
                await BookingRecord.Append(connection, transaction, RecordEvents.BookingCancelled, id, by ?? booking.PersonId, now);
                return (booking with { CancelledAt = now, NoShow = true, Version = booking.Version + 1 }, true);
            },
            cancel
        );

    /// <summary>Bookings whose grace is over and that nobody marked as arrived, soonest first.</summary>
    public async Task<IReadOnlyList<BookedTime>> NoShows(int graceMinutes, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<BookingRows.Row>(
            new CommandDefinition(
                BookingRows.Columns
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
        var rows = await connection.QueryAsync<BookingRows.Row>(
            new CommandDefinition(
                BookingRows.Columns
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
                await connection.QueryAsync<BookingRows.Row>(
                    new CommandDefinition(
                        BookingRows.Columns + " where b.id = any(@ids) order by lower(b.during)",
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
        return await BookingRows.FindIn(connection, null, id) is { } before && IsSame(before, ask, madeBy)
            ? new BookingOutcome.Booked(before, true)
            : null;
    }

    private static bool IsSame(BookedTime before, GateQuestion ask, PersonId madeBy) =>
        before.MadeBy == madeBy
        && before.PersonId == ask.MemberId
        && before.MachineId == ask.MachineId
        && before.Start == ask.Start
        && before.Minutes == ask.Minutes
        && before.Ask.Bench == ask.Bench;
}
