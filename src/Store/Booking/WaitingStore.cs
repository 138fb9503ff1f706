using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;

namespace VelvetGate.Store.Booking;

/// <summary>People who wait for a time, and what they are offered.</summary>
public sealed class WaitingStore(NpgsqlDataSource db, FactLoader facts, BookingStore bookings)
{
    internal const string DropOfferSql = $"update booking.claim set live = false, {Dated.Closed} where offer_id = any(@offers) and live";

    /// <summary>Puts somebody on the list, where there is nothing for them now and waiting may help.</summary>
    /// <param name="id">Client-made: the same again changes nothing.</param>
    public async Task<Result<Guid>> Add(
        Guid id,
        GateQuestion job,
        IReadOnlyList<MachineId> machines,
        Instant from,
        Instant to,
        PersonId askedBy,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    )
    {
        var found = await Times(job, machines, new TimeWish(After: from, Before: to), askedBy, rules, now, cancel);
        if (found.Refusal is { } unknown)
            return unknown;
        if (found.Value.FirstOrDefault(m => m.Choices.Count > 0) is { } open)
            return BookingProblems.WaitingOpen.Refuse(null, $"{open.MachineName}, {HouseDates.Moment(open.Choices[0].Start, rules)}");
        if (Waiting.Helps(found.Value) is { } hopeless)
            return hopeless;
        return await Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                // One after the other for each person: two windows keep to the limit together.
                await connection.ExecuteAsync(
                    "select 1 from people.person where id = @MemberId for update",
                    new { job.MemberId },
                    transaction
                );
                var (waits, there) = await connection.QuerySingleAsync<(int, bool)>(
                    """
                    select (select count(*)::int from booking.waiting where person_id = @MemberId and ended_at is null),
                        exists (select from booking.waiting where id = @id and person_id = @MemberId)
                    """,
                    new { job.MemberId, id },
                    transaction
                );
                if (there)
                    return ((Result<Guid>)id, false);
                if (Waiting.May(from, to, waits, now) is { } refusal)
                    return (refusal, false);
                await connection.ExecuteAsync(
                    """
                    insert into booking.waiting (id, person_id, ask, machine_ids, window_at, at)
                    values (@id, @MemberId, @ask::jsonb, @machines, tstzrange(@from, @to), @now)
                    """,
                    new
                    {
                        id,
                        job.MemberId,
                        ask = GateJson.Write(job),
                        machines = machines.Select(m => m.Value).ToArray(),
                        from,
                        to,
                        now,
                    },
                    transaction
                );
                return (id, true);
            },
            cancel
        );
    }

    /// <summary>What somebody waits for, the oldest first.</summary>
    public async Task<IReadOnlyList<WaitingEntry>> Of(PersonId person, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<WaitingRow>(
            new CommandDefinition(
                $"{WaitingRow.Columns} where w.person_id = @person and w.ended_at is null order by w.at",
                new { person },
                cancellationToken: cancel
            )
        );
        return [.. rows.Select(r => r.ToEntry())];
    }

    /// <summary>Waits no more; what was kept goes to the next.</summary>
    /// <returns>False when there is no such entry of theirs.</returns>
    public Task<bool> TakeBack(Guid id, PersonId person, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var ended = await connection.ExecuteAsync(
                    "update booking.waiting set ended_at = @now, ended_why = 'takenBack' "
                        + "where id = @id and person_id = @person and ended_at is null",
                    new
                    {
                        id,
                        person,
                        now,
                    },
                    transaction
                );
                await End(connection, transaction, "o.waiting_id = @id and o.ended_at is null", "withdrawn", new { id }, now);
                return (ended > 0, ended > 0);
            },
            cancel
        );

    /// <summary>Lets an offer go to the next; the person waits on for another time.</summary>
    /// <returns>False when there is no such open offer of theirs.</returns>
    public Task<bool> Decline(Guid offer, PersonId person, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var ended = await End(
                    connection,
                    transaction,
                    "o.id = @offer and o.ended_at is null and o.waiting_id in (select id from booking.waiting where person_id = @person)",
                    "declined",
                    new { offer, person },
                    now
                );
                return (ended > 0, ended > 0);
            },
            cancel
        );

    /// <summary>Books what was offered: twice pressed, once booked.</summary>
    /// <returns>Refused where it is over; else what booking comes to.</returns>
    public Task<(Refusal? Refusal, BookingOutcome? Outcome)> Take(Guid offer, PersonId person, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<OfferRow>(
                    """
                    select o.id, o.waiting_id, o.machine_id, lower(o.during) as start, o.minutes, o.until, o.ended_why, o.booking_id,
                        w.ask::text as ask
                    from booking.offer o join booking.waiting w on w.id = o.waiting_id
                    where o.id = @offer and w.person_id = @person for update of o
                    """,
                    new { offer, person },
                    transaction
                );
                if (row is null)
                    return (((Refusal?)CommonProblems.NotFound.Refuse(null, "offer of yours"), (BookingOutcome?)null), false);
                if (row.BookingId is { } booked)
                    return ((null, new BookingOutcome.Booked((await BookingRows.FindIn(connection, transaction, booked))!, true)), false);
                if (Waiting.MayTake(row.EndedWhy is not null, row.Start, row.Until, now) is { } refusal)
                    return ((refusal, null), false);
                var ask = GateJson.Read<GateQuestion>(row.Ask) with { MachineId = row.MachineId, Start = row.Start, Minutes = row.Minutes };
                await connection.ExecuteAsync(DropOfferSql, new { offers = new[] { offer }, now }, transaction);
                var (outcome, commit) = await bookings.BookIn(
                    connection,
                    transaction,
                    Guid.NewGuid(),
                    ask,
                    ask.Companions,
                    person,
                    now,
                    cancel
                );
                if (outcome is BookingOutcome.Booked made)
                    await connection.ExecuteAsync(
                        """
                        update booking.offer set ended_at = @now, ended_why = 'taken', booking_id = @booking where id = @offer;
                        update booking.waiting set ended_at = @now, ended_why = 'booked' where id = @WaitingId;
                        """,
                        new
                        {
                            offer,
                            row.WaitingId,
                            now,
                            booking = made.Booking.Id,
                        },
                        transaction
                    );
                return ((null, outcome), commit);
            },
            cancel
        );

    private sealed record OfferRow(
        Guid Id,
        Guid WaitingId,
        MachineId MachineId,
        Instant Start,
        int Minutes,
        Instant Until,
        string? EndedWhy,
        Guid? BookingId,
        string Ask
    );

    /// <summary>Free times on each of these machines, in the order of the table.</summary>
    internal async Task<Result<List<MachineTimes>>> Times(
        GateQuestion job,
        IReadOnlyList<MachineId> machines,
        TimeWish wish,
        PersonId askedBy,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    )
    {
        var asks = machines.Select(m => job with { MachineId = m, Start = now }).ToList();
        var loaded = await facts.LoadEach(asks, now, askedBy, FreeTimes.Until(rules, now), cancel);
        return loaded.Select(l => l.Refusal).FirstOrDefault(r => r is not null) is { } refusal
            ? refusal
            : FreeTimes.Sorted(asks.Zip(loaded, (ask, known) => FreeTimes.On(ask, known.Value, wish))).ToList();
    }

    /// <summary>Ends offers, and lets go of what they held.</summary>
    /// <param name="which">Of <c>booking.offer o</c>.</param>
    internal static async Task<int> End(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string which,
        string why,
        object values,
        Instant now
    )
    {
        var with = new DynamicParameters(values);
        with.Add("now", now);
        with.Add("why", why);
        var ids = (
            await connection.QueryAsync<Guid>($"select o.id from booking.offer o where {which} for update", with, transaction)
        ).ToArray();
        await connection.ExecuteAsync(
            $"{DropOfferSql}; update booking.offer set ended_at = @now, ended_why = @why where id = any(@offers)",
            new
            {
                now,
                why,
                offers = ids,
            },
            transaction
        );
        return ids.Length;
    }
}
