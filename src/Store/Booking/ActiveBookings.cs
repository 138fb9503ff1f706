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

/// <summary>Decides standing bookings again when the record says that a fact changed. A booking gives time, not permission.</summary>
public sealed class ActiveBookings(NpgsqlDataSource db)
{
    private const string Cursor = "standing";
    private const int Batch = 2000;

    private sealed record Row(
        Guid Id,
        int Number,
        PersonId PersonId,
        int PersonNumber,
        MachineId MachineId,
        string Ask,
        Instant Start,
        bool AtRisk,
        PersonId MadeBy
    );

    /// <param name="Decided">Null where nothing could be decided: what is not known never stays clear.</param>
    /// <param name="Why">Then, what stood in the way.</param>
    private sealed record Change(Row Booking, (GateQuestion Ask, GateFacts Facts, Decision Decision)? Decided, RiskReason? Why = null)
    {
        public IReadOnlyList<RiskReason> Reasons =>
            Why is { } why
                ? [why]
                : [.. Decided!.Value.Decision.Reasons.Where(r => r.Standing >= Standing.Ask).Select(r => new RiskReason(r.Code, r.Text))];

        public bool Open => Decided is { Decision.Verdict: <= Verdict.Conditions };
    }

    /// <summary>Reads on in the record, and decides again what it touched. Another instance at the same work lets this one pass.</summary>
    /// <returns>How many bookings were decided.</returns>
    public Task<int> Follow(Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (
                    await connection.QuerySingleOrDefaultAsync<long?>(
                        "select seq from ledger.worker_cursor where name = @Cursor for update skip locked",
                        new { Cursor },
                        transaction
                    )
                    is not { } seq
                )
                    return (0, false);
                var entries = (
                    await connection.QueryAsync<(long Seq, string Kind, string Body)>(
                        "select seq, kind, body from ledger.entry where seq > @seq order by seq limit @Batch",
                        new { seq, Batch },
                        transaction
                    )
                ).ToList();
                if (entries.Count == 0)
                    return (0, false);
                var touched = RecordImpact.Of(entries);
                foreach (var odd in touched.Unreadable)
                    await ParkedWork.Park(
                        connection,
                        transaction,
                        Cursor,
                        $"entry {odd}",
                        "This entry of the record cannot be read; every standing booking was decided again.",
                        now
                    );
                var standing = touched.Nothing ? [] : await StandingNow(connection, transaction, touched, now);
                var changes = new List<Change>();
                foreach (var booking in standing)
                {
                    if (await Decide(connection, transaction, booking, now, cancel) is { } decided)
                        changes.Add(decided);
                }
                await connection.ExecuteAsync(
                    "update ledger.worker_cursor set seq = @to where name = @Cursor",
                    new { Cursor, to = entries[^1].Seq },
                    transaction
                );
                await Keep(connection, transaction, changes, now);
                return (standing.Count, true);
            },
            cancel
        );

    private static async Task<List<Row>> StandingNow(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordImpact touched,
        Instant now
    ) =>
        [
            .. await connection.QueryAsync<Row>(
                """
                select b.id, b.number, b.person_id, p.number as person_number, b.machine_id, b.ask::text as ask, lower(b.during) as start,
                    b.at_risk_since is not null as at_risk, b.made_by
                from booking.booking b join people.person p on p.id = b.person_id
                where b.cancelled_at is null and upper(b.during) > @now and lower(b.during) > @now
                  and (@All or p.number = any(@people) or b.machine_id = any(@machines)
                    or b.ask ->> 'supervisorId' in (select id from people.person where number = any(@people)))
                order by lower(b.during)
                """,
                new
                {
                    now,
                    touched.All,
                    people = touched.People.ToArray(),
                    machines = touched.Machines.ToArray(),
                },
                transaction
            ),
        ];

    /// <returns>Null when the booking stands as it stood.</returns>
    private async Task<Change?> Decide(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Row booking,
        Instant now,
        CancellationToken cancel
    )
    {
        Change change;
        try
        {
            var ask = GateJson.Read<GateQuestion>(booking.Ask) with { Phase = Phase.Standing };
            var facts = await FactLoader.Load(Memory.Of(db), connection, transaction, ask, now, null, booking.MadeBy, cancel, [booking.Id]);
            change = facts.Refusal is { } refusal
                ? new Change(
                    booking,
                    null,
                    new RiskReason("facts.unknown", $"What the gate needs to know could not be found: {refusal.Text}")
                )
                : new Change(booking, (ask, facts.Value, Core.Gating.Gate.Decide(ask, facts.Value)));
            if (change.Decided is { } decided)
                Metering.Decided(decided.Decision.Verdict, "followed");
        }
        catch (Exception e) when (e is not (NpgsqlException or OperationCanceledException))
        {
            // One odd booking must not hold up the rest, and must not stay clear.
            await ParkedWork.Park(
                connection,
                transaction,
                Cursor,
                booking.Id.ToString(),
                $"Booking {booking.Number} could not be decided: {e.Message}",
                now
            );
            change = new Change(
                booking,
                null,
                new RiskReason("facts.unknown", "What the gate needs to know cannot be read. A steward looks at it.")
            );
        }
        return change.Open == booking.AtRisk ? change : null;
    }

    /// <summary>
    /// Stores what changed and tells the people, each in one statement for all; the record comes last, so that its lock is short.
    /// </summary>
    private static async Task Keep(NpgsqlConnection connection, NpgsqlTransaction transaction, List<Change> changes, Instant now)
    {
        if (changes.Count == 0)
            return;
        var decided = changes.Where(c => c.Decided is not null).ToList();
        var saved = await DecisionStore.Save(
            connection,
            transaction,
            [.. decided.Select(c => (c.Decided!.Value.Ask, c.Decided.Value.Facts))],
            now
        );
        var byBooking = decided.Zip(saved).ToDictionary(d => d.First.Booking.Id, d => d.Second);
        var kept = (
            await connection.QueryAsync<Guid>(
                """
                update booking.booking b set at_risk_since = case when c.open then null else @now end, at_risk = case when c.open
                    then null else c.reasons::jsonb end,
                    at_risk_decision_id = c.decision, version = version + 1
                from unnest(@ids, @open, @reasons, @decisions) c (id, open, reasons, decision)
                where b.id = c.id and b.cancelled_at is null returning b.id
                """,
                new
                {
                    now,
                    ids = changes.Select(c => c.Booking.Id).ToArray(),
                    open = changes.Select(c => c.Open).ToArray(),
                    reasons = changes.Select(c => GateJson.Write(c.Reasons)).ToArray(),
                    decisions = changes.Select(c => byBooking.TryGetValue(c.Booking.Id, out var d) ? d.Id : (Guid?)null).ToArray(),
                },
                transaction
            )
        ).ToHashSet();
        var told = changes.Where(c => kept.Contains(c.Booking.Id)).ToList();
        await MessageStore.Tell(connection, transaction, [.. told.Select(c => Telling(c, now))], now);
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            [.. told.Select(c => Entry(c, byBooking.TryGetValue(c.Booking.Id, out var d) ? d : null))]
        );
    }

    private static string What(Change change) => change.Open ? "openAgain" : "atRisk";

    private static Telling Telling(Change change, Instant now) =>
        new(
            change.Booking.PersonId,
            $"booking.{What(change)}:{change.Booking.Id}:{Core.Ledger.Chain.Instant(now)}",
            change.Open ? $"Booking {change.Booking.Number} is open again" : $"Booking {change.Booking.Number} is at risk",
            change.Open
                ? "The gate is open for it as things stand. It is asked again at the machine."
                : string.Join(" ", change.Reasons.Select(r => r.Text)) + " The time is kept for you.",
            "/bookings"
        );

    private static (RecordEvent Kind, object Body) Entry(Change change, (Guid Id, string Hash)? decision) =>
        (
            change.Open ? RecordEvents.BookingOpenAgain : RecordEvents.BookingAtRisk,
            new
            {
                booking = change.Booking.Id,
                person = change.Booking.PersonNumber,
                machine = change.Booking.MachineId,
                decision = decision?.Id,
                decisionHash = decision?.Hash,
                codes = change.Reasons.Select(r => r.Code).Distinct(),
            }
        );
}
