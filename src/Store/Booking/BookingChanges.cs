using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Booking;

/// <summary>What came of trying to change a booking.</summary>
/// <param name="Decision">The gate’s answer, where it is against it.</param>
public sealed record ChangeOutcome(BookedTime? Booking, Refusal? Refusal, Decision? Decision = null);

/// <summary>Somebody would swap times: whose booking is asked for, and the time it would have instead.</summary>
public sealed record SwapAsked(Guid BookingId, int Number, MachineId MachineId, Instant Start, int Minutes, Instant Until);

/// <summary>
/// Moves, lengthens, swaps and hands over bookings: in one transaction, decided under the locks, so that nothing is ever held twice or let
/// go of for nothing.
/// </summary>
public sealed class BookingChanges(NpgsqlDataSource db)
{
    /// <param name="machine">Null stays on the same machine.</param>
    public Task<ChangeOutcome> Move(
        Guid id,
        Instant start,
        MachineId? machine,
        int? version,
        PersonId by,
        bool staff,
        Instant now,
        CancellationToken cancel
    ) =>
        Change(
            id,
            version,
            by,
            staff,
            RecordEvents.BookingMoved,
            b => BookingChange.MayMove(Standing(b), now) ?? (Result<GateQuestion>)Moved(b.Ask, machine ?? b.MachineId, start),
            now,
            cancel
        );

    public Task<ChangeOutcome> Extend(Guid id, int minutes, int? version, PersonId by, bool staff, Instant now, CancellationToken cancel) =>
        Change(
            id,
            version,
            by,
            staff,
            RecordEvents.BookingExtended,
            b => BookingChange.MayExtend(minutes) ?? (Result<GateQuestion>)(b.Ask with { Minutes = b.Minutes + minutes }),
            now,
            cancel
        );

    /// <summary>Another person has the time from now on; the drawings stay those of whoever booked.</summary>
    public Task<ChangeOutcome> HandOver(
        Guid id,
        PersonId to,
        int? version,
        PersonId by,
        bool staff,
        Instant now,
        CancellationToken cancel
    ) =>
        Change(
            id,
            version,
            by,
            staff,
            RecordEvents.BookingHandedOver,
            b =>
                BookingChange.MayHandOver(Standing(b), to)
                ?? (Result<GateQuestion>)(
                    b.Ask with
                    {
                        MemberId = to,
                        SupervisorId = b.Ask.SupervisorId == to ? (PersonId?)null : b.Ask.SupervisorId,
                    }
                ),
            now,
            cancel
        );

    /// <summary>Proposes to swap times; the other agrees, or lets it be.</summary>
    public Task<Result<Guid>> ProposeSwap(Guid id, Guid with, PersonId by, bool staff, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var mine = await BookingRows.FindIn(connection, transaction, id, lockIt: true);
                if (BookingChange.May(mine is null ? null : Standing(mine), by, staff, null, now) is { } refusal)
                    return ((Result<Guid>)refusal, false);
                var theirs = await BookingRows.FindIn(connection, transaction, with);
                if (BookingChange.MaySwap(Standing(mine!), theirs is null ? null : Standing(theirs), now) is { } not)
                    return (not, false);
                var proposal = await connection.QuerySingleAsync<Guid>(
                    """
                    update booking.swap set ended_at = @now where ended_at is null and booking_id = @id;
                    insert into booking.swap (id, booking_id, with_id, asked_by, at, until)
                    values (gen_random_uuid(), @id, @with, @by, @now, @until) returning id
                    """,
                    new
                    {
                        id,
                        with,
                        by,
                        now,
                        until = now + BookingChange.SwapWaits,
                    },
                    transaction
                );
                await MessageStore.Tell(
                    connection,
                    transaction,
                    theirs!.PersonId,
                    $"booking.swap:{proposal}",
                    $"Somebody would like to swap times with your booking {theirs.Number}",
                    "Under Bookings you see which time you would have instead. Nothing changes unless you agree.",
                    "/bookings",
                    now
                );
                return (proposal, true);
            },
            cancel
        );

    /// <summary>Agrees to what waits for a booking: each takes the other’s machine and start, for as long as before.</summary>
    /// <param name="id">The booking that was asked for.</param>
    public async Task<ChangeOutcome> AgreeSwap(Guid id, PersonId by, bool staff, Instant now, CancellationToken cancel)
    {
        try
        {
            return await Transaction.Run(db, (c, t) => AgreeSwap(c, t, id, by, staff, now, cancel), cancel);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ExclusionViolation)
        {
            return new ChangeOutcome(null, BookingProblems.MoveTaken.Refuse());
        }
    }

    private async Task<(ChangeOutcome, bool)> AgreeSwap(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        PersonId by,
        bool staff,
        Instant now,
        CancellationToken cancel
    )
    {
        var proposal = await connection.QuerySingleOrDefaultAsync<Guid?>(
            "select booking_id from booking.swap where with_id = @id and ended_at is null and until > @now order by at desc limit 1",
            new { id, now },
            transaction
        );
        if (proposal is not { } other)
            return (new ChangeOutcome(null, BookingProblems.SwapNone.Refuse()), false);
        var (mine, theirs) = (
            await BookingRows.FindIn(connection, transaction, id),
            await BookingRows.FindIn(connection, transaction, other)
        );
        if (BookingChange.May(mine is null ? null : Standing(mine), by, staff, null, now) is { } refusal)
            return (new ChangeOutcome(null, refusal), false);
        if (BookingChange.MaySwap(Standing(mine!), theirs is null ? null : Standing(theirs), now) is { } not)
            return (new ChangeOutcome(null, not), false);
        var apart = new[] { id, other };
        var pairs = new (BookedTime Booking, GateQuestion Ask)[]
        {
            (mine!, Moved(mine!.Ask, theirs!.MachineId, theirs.Start)),
            (theirs, Moved(theirs.Ask, mine.MachineId, mine.Start)),
        };
        await BookingClaims.Lock(
            connection,
            transaction,
            [
                .. pairs
                    .SelectMany(p => BookingClaims.Resources(p.Ask).Concat(BookingClaims.Resources(p.Booking.Ask)))
                    .Distinct()
                    .Order(StringComparer.Ordinal),
            ],
            null
        );
        // Read once more under the locks: what moved meanwhile is not what was agreed to.
        foreach (var (booking, _) in pairs)
        {
            if ((await BookingRows.FindIn(connection, transaction, booking.Id, lockIt: true))!.Version != booking.Version)
                return (new ChangeOutcome(null, BookingProblems.BookingChanged.Refuse()), false);
        }
        var decided = new List<(BookedTime Booking, GateQuestion Ask, GateFacts Facts, Decision Decision)>();
        foreach (var (booking, ask) in pairs)
        {
            var found = await Decide(connection, transaction, ask, booking.MadeBy, apart, now, cancel);
            if (found.Refused is { } refused)
                return (booking.Id == id ? refused : new ChangeOutcome(null, BookingProblems.SwapShut.Refuse()), false);
            decided.Add((booking, ask, found.Facts!, found.Decision!));
        }
        await connection.ExecuteAsync(BookingClaims.DropSql, new { ids = apart, now }, transaction);
        foreach (var (booking, ask, facts, decision) in decided)
        {
            if (await Write(connection, transaction, booking, ask, ask, facts, decision, RecordEvents.BookingSwapped, by, now) is { } taken)
                return (new ChangeOutcome(null, taken), false);
        }
        await connection.ExecuteAsync(
            "update booking.swap set ended_at = @now, agreed = with_id = @id where ended_at is null "
                + "and (booking_id = any(@apart) or with_id = any(@apart))",
            new
            {
                id,
                apart,
                now,
            },
            transaction
        );
        await Tell(
            connection,
            transaction,
            decided[1].Booking.PersonId,
            decided[1].Booking,
            "swapped",
            decided[1].Ask,
            decided[1].Facts,
            now
        );
        return (new ChangeOutcome(await BookingRows.FindIn(connection, transaction, id), null), true);
    }

    private async Task<ChangeOutcome> Change(
        Guid id,
        int? version,
        PersonId by,
        bool staff,
        RecordEvent kind,
        Func<BookedTime, Result<GateQuestion>> wanted,
        Instant now,
        CancellationToken cancel
    )
    {
        try
        {
            return await Transaction.Run(db, (c, t) => Change(c, t, id, version, by, staff, kind, wanted, now, cancel), cancel);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ExclusionViolation)
        {
            return new ChangeOutcome(null, BookingProblems.MoveTaken.Refuse());
        }
    }

    private async Task<(ChangeOutcome, bool)> Change(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        int? version,
        PersonId by,
        bool staff,
        RecordEvent kind,
        Func<BookedTime, Result<GateQuestion>> wanted,
        Instant now,
        CancellationToken cancel
    )
    {
        var before = await BookingRows.FindIn(connection, transaction, id);
        if (BookingChange.May(before is null ? null : Standing(before), by, staff, version, now) is { } refusal)
            return (new ChangeOutcome(null, refusal), false);
        var asked = wanted(before!);
        if (asked.Refusal is { } not)
            return (new ChangeOutcome(null, not), false);
        var whole = asked.Value;
        // Old and new things together, in order: two changes that cross wait for each other, and never both ways.
        var booking = await BookingClaims.Lock(
            connection,
            transaction,
            [.. BookingClaims.Resources(whole).Union(BookingClaims.Resources(before!.Ask)).Order(StringComparer.Ordinal)],
            id
        );
        if (BookingChange.May(booking is null ? null : Standing(booking), by, staff, before.Version, now) is { } changed)
            return (new ChangeOutcome(null, changed), false);
        if (whole.MemberId != booking!.PersonId && await IsAtMachine(connection, transaction, id))
            return (new ChangeOutcome(null, BookingProblems.HandOverAtMachine.Refuse()), false);
        var ask = BookingChange.Asked(whole, now);
        var (refused, facts, decision) = await Decide(connection, transaction, whole, booking.MadeBy, [id], now, cancel);
        // What the gate has against somebody is theirs to read.
        if (refused is not null)
            return (!staff && whole.MemberId != by ? new ChangeOutcome(null, BookingProblems.HandOverShut.Refuse()) : refused, false);
        await connection.ExecuteAsync(BookingClaims.DropSql, new { ids = new[] { id }, now }, transaction);
        if (await Write(connection, transaction, booking, whole, ask, facts!, decision!, kind, by, now) is { } taken)
            return (new ChangeOutcome(null, taken), false);
        if (whole.MemberId != booking.PersonId || by != booking.PersonId)
            await Tell(connection, transaction, whole.MemberId, booking, kind.Kind, whole, facts!, now);
        if (whole.MemberId != booking.PersonId && by != booking.PersonId)
            await Tell(connection, transaction, booking.PersonId, booking, "handedOn", whole, facts!, now);
        return (new ChangeOutcome(await BookingRows.FindIn(connection, transaction, id), null), true);
    }

    /// <summary>Somebody runs it: whoever takes over taps there.</summary>
    private static Task<bool> IsAtMachine(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id) =>
        connection.ExecuteScalarAsync<bool>(
            "select exists (select from station.session where booking_id = @id and ended_at is null)",
            new { id },
            transaction
        );

    /// <summary>Proposals that wait for this person’s word.</summary>
    public async Task<IReadOnlyList<SwapAsked>> Swaps(PersonId person, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<SwapAsked>(
                new CommandDefinition(
                    """
                    select s.with_id as booking_id, m.number, o.machine_id, lower(o.during) as start, o.minutes, s.until
                    from booking.swap s join booking.booking m on m.id = s.with_id join booking.booking o on o.id = s.booking_id
                    where m.person_id = @person and s.ended_at is null and s.until > @now and m.cancelled_at is null
                        and o.cancelled_at is null and lower(m.during) > @now and lower(o.during) > @now order by s.at
                    """,
                    new { person, now },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>What the gate says of a changed booking, its own time left aside.</summary>
    private async Task<(ChangeOutcome? Refused, GateFacts? Facts, Decision? Decision)> Decide(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        GateQuestion whole,
        PersonId madeBy,
        IReadOnlyList<Guid> apart,
        Instant now,
        CancellationToken cancel
    )
    {
        var ask = BookingChange.Asked(whole, now);
        var loaded = await FactLoader.Load(Memory.Of(db), connection, transaction, ask, now, null, madeBy, cancel, apart);
        if (loaded.Refusal is { } unknown)
            return (new ChangeOutcome(null, unknown), null, null);
        var facts = BookingChange.Facts(loaded.Value, whole, now);
        var decision = Core.Gating.Gate.Decide(ask, facts);
        Metering.Decided(decision.Verdict, "changed");
        var against = BookingChange.Against(decision, begun: ask.Phase == Phase.Standing);
        return against.Count > 0
            // Of what has begun the rest alone was asked about: its posts would speak of another job.
            ? (new ChangeOutcome(null, BookingChange.Refused(against), ask.Phase == Phase.Standing ? null : decision), null, null)
            : (null, facts, decision);
    }

    /// <summary>Writes a booking whose old claims are let go of as it is from now on, and takes its new ones.</summary>
    /// <param name="whole">What is kept with it.</param>
    /// <param name="ask">What was decided: the rest of it, where it has begun.</param>
    /// <returns>Null when it is written; else that a place is taken.</returns>
    private static async Task<Refusal?> Write(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        BookedTime booking,
        GateQuestion whole,
        GateQuestion ask,
        GateFacts facts,
        Decision decision,
        RecordEvent kind,
        PersonId by,
        Instant now
    )
    {
        var resources = BookingClaims.Resources(whole);
        var slot = await BookingClaims.Slot(connection, transaction, whole, facts);
        if (slot is { Free: null })
            return BookingProblems.MoveTaken.Refuse();
        if (slot is { Free: { } free })
            resources.Add(free);
        var (decisionId, _) = await DecisionStore.Save(connection, transaction, ask, facts, now);
        await connection.ExecuteAsync(
            $"""
            update booking.booking set person_id = @MemberId, machine_id = @MachineId, during = tstzrange(@Start, @End),
                minutes = @Minutes, parts = @parts::jsonb, ask = @ask::jsonb, decision_id = @decisionId, version = version + 1,
                at_risk_since = null, at_risk = null, at_risk_decision_id = null
            where id = @id;
            {BookingClaims.HoldSql};
            update station.session set body = jsonb_set(body, '{"{until}"}', to_jsonb(@until::text))
                where booking_id = @id and ended_at is null;
            update house.fixture_out set due = greatest(due, @End) where booking_id = @id and back_at is null;
            update gate.ask set booking_id = @id, version = version + 1 where id = any(@lifted);
            """,
            new
            {
                id = booking.Id,
                whole.MemberId,
                whole.MachineId,
                whole.Start,
                whole.End,
                whole.Minutes,
                parts = GateJson.Write(BookingParts(decision, whole, booking)),
                ask = GateJson.Write(whole),
                decisionId,
                now,
                resources = resources.ToArray(),
                until = GateJson.Write(whole.End).Trim('"'),
                lifted = decision.Lifted.ToArray(),
            },
            transaction
        );
        if (!await BookingBench.Take(connection, transaction, booking.Id, whole, facts.Rules, now))
            return BookingProblems.BenchTaken.Refuse("bench");
        await BookingRecord.Append(connection, transaction, kind, booking.Id, by, now);
        return null;
    }

    /// <summary>What has begun keeps its parts; what it is longer by is to spare.</summary>
    private static IReadOnlyList<BookingPart> BookingParts(Decision decision, GateQuestion whole, BookedTime booking) =>
        booking.Start >= whole.Start && decision.Length.NeededMinutes <= whole.Minutes
            ? decision.Length.FilledTo(whole.Minutes)
            : [.. booking.Parts, new BookingPart(PartKind.Spare, whole.Minutes - booking.Minutes)];

    private static GateQuestion Moved(GateQuestion ask, MachineId machine, Instant start) =>
        ask with
        {
            MachineId = machine,
            Start = start,
            // Settings are for one machine; on another the sheet reads as that machine knows it.
            Items = machine == ask.MachineId ? ask.Items : [.. ask.Items.Select(i => i with { SettingIds = null })],
            // A bench of before would come before the run: it follows it now.
            Bench =
                ask.Bench is { Start: { } bench } wish && bench < start + Duration.FromMinutes(ask.Minutes)
                    ? wish with
                    {
                        Start = null,
                    }
                    : ask.Bench,
        };

    private static StandingTime Standing(BookedTime b) =>
        new(b.PersonId, b.Start, b.End, b.CancelledAt is not null, b.ArrivedAt is not null, b.Version);

    private static Task Tell(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId person,
        BookedTime booking,
        string what,
        GateQuestion ask,
        GateFacts facts,
        Instant now
    )
    {
        var time = $"{HouseDates.Moment(ask.Start, facts.Rules)} to {facts.Rules.Clock.At(ask.End):HH:mm} on {facts.Machine.Spec.Name}";
        var (title, body) =
            what == "handedOn"
                ? (
                    $"Your booking {booking.Number} was handed over",
                    $"{time} is somebody else’s now. Ask the gate if you want another time."
                )
            : person != booking.PersonId
                ? ($"Booking {booking.Number} was handed to you", $"{time} is yours now. Give it back under Bookings if you cannot come.")
            : ($"Booking {booking.Number} was changed", $"It is {time} now.");
        return MessageStore.Tell(
            connection,
            transaction,
            person,
            $"booking.changed:{booking.Id}:{booking.Version}:{person}",
            title,
            body,
            "/bookings",
            now
        );
    }
}
