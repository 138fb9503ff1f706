using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Store.House;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Booking;

/// <summary>
/// Offers what came free to whoever waits for it, in the order of the house; what nobody answers goes to the next. Any number of servers
/// may run it: one makes an offer at a time.
/// </summary>
public sealed class OfferRound(NpgsqlDataSource db, WaitingStore waiting, HouseStore house)
{
    private const int LockKey = 20_035;

    /// <summary>What no booking tells of, such as a machine that is back or a certificate, is looked at so often.</summary>
    private static readonly Duration AtLeastEvery = Duration.FromMinutes(1);

    private (Instant At, long Seq) _looked = (Instant.MinValue, 0);

    /// <returns>How many offers were made.</returns>
    public async Task<int> Once(Instant now, CancellationToken cancel)
    {
        var (waits, freed, seq) = await Settle(now, cancel);
        if (!waits || (!freed && now - _looked.At < AtLeastEvery && now >= _looked.At))
            return 0;
        if (await house.Rules(now, cancel) is not { } rules || !Waiting.MayOffer(now, rules))
            return 0;
        var (made, passed) = (0, new HashSet<Guid>());
        while (await Next(passed, rules, now, cancel))
            made++;
        _looked = (now, seq);
        return made;
    }

    /// <summary>Ends what ran out.</summary>
    /// <returns>Whether somebody waits; whether time may have come free, or somebody came to wait, since it was last looked at; and how
    /// far the record is.</returns>
    private Task<(bool Waits, bool Freed, long Seq)> Settle(Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var silent = await WaitingStore.End(
                    connection,
                    transaction,
                    "o.ended_at is null and o.until <= @at",
                    "silent",
                    new { at = now },
                    now
                );
                var over = (
                    await connection.QueryAsync<(Guid Id, PersonId Person)>(
                        """
                        update booking.waiting w set ended_at = @now, ended_why = 'over' where ended_at is null and upper(window_at) <= @now
                            and not exists (select from booking.offer o where o.waiting_id = w.id and o.ended_at is null)
                        returning id, person_id
                        """,
                        new { now },
                        transaction
                    )
                ).ToList();
                await MessageStore.Tell(
                    connection,
                    transaction,
                    [
                        .. over.Select(o => new Telling(
                            o.Person,
                            $"waiting.over:{o.Id}",
                            "Nothing came free in the time you waited for",
                            "Ask which machine is free soonest, or wait for another time.",
                            "/bookings"
                        )),
                    ],
                    now
                );
                var seen = await connection.QuerySingleAsync<(bool Waits, bool Freed, long Seq)>(
                    """
                    select exists (select from booking.waiting where ended_at is null),
                        exists (select from ledger.entry where seq > @Seq and starts_with(kind, 'booking.'))
                            or exists (select from booking.offer where ended_at >= @At)
                            or exists (select from booking.waiting where at >= @At),
                        (select seq from ledger.head)
                    """,
                    new { _looked.At, _looked.Seq },
                    transaction
                );
                return (seen, silent + over.Count > 0);
            },
            cancel
        );

    /// <summary>Makes the next offer.</summary>
    /// <param name="passed">Entries for which nothing was found in this round.</param>
    /// <returns>False when there is none to make.</returns>
    private Task<bool> Next(HashSet<Guid> passed, HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (
                    !await connection.ExecuteScalarAsync<bool>(
                        "select pg_try_advisory_xact_lock(730021, @LockKey)",
                        new { LockKey },
                        transaction
                    )
                )
                    return (false, false);
                foreach (var entry in await InOrder(connection, transaction, rules, now))
                {
                    if (!passed.Contains(entry.Id) && await Offer(connection, transaction, entry, rules, now, cancel))
                        return (true, true);
                    passed.Add(entry.Id);
                }
                return (false, false);
            },
            cancel
        );

    /// <summary>Whoever has no offer yet, in the order in which the house asks.</summary>
    private static async Task<IReadOnlyList<WaitingEntry>> InOrder(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        HouseRules rules,
        Instant now
    )
    {
        var today = rules.Clock.DateOf(now);
        var monday = today.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday));
        var hours = Waiting.ByHours(rules)
            ? """
                (select coalesce(sum(extract(epoch from upper(b.during * @week) - lower(b.during * @week))), 0) from booking.booking b
                    where b.person_id = w.person_id and b.cancelled_at is null and b.during && @week)
                """.Replace("@week", "tstzrange(@from, @to)", StringComparison.Ordinal)
            : "w.at";
        var rows = await connection.QueryAsync<WaitingRow>(
            $"{WaitingRow.Columns} where w.ended_at is null and o.id is null order by {hours}, w.at, w.number",
            new { from = rules.Clock.Day(monday).Start, to = rules.Clock.Day(monday.PlusDays(6)).End },
            transaction
        );
        return [.. rows.Select(r => r.ToEntry())];
    }

    private async Task<bool> Offer(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        WaitingEntry entry,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    )
    {
        var wish = new TimeWish(After: Instant.Max(entry.From, Waiting.FirstStart(now)), Before: entry.To);
        var found = await waiting.Times(entry.Ask, entry.MachineIds, wish, entry.PersonId, rules, now, cancel);
        if (found.Refusal is not null)
            return false;
        var before = (
            await connection.QueryAsync<(MachineId Machine, Instant Start, Instant End)>(
                "select machine_id, lower(during), upper(during) from booking.offer where waiting_id = @Id",
                new { entry.Id },
                transaction
            )
        ).ToList();
        // What somebody let pass is not offered to them again.
        var times = found
            .Value.SelectMany(m => m.Choices.Select(c => (m.MachineId, Choice: c, m.Minutes)))
            .Where(t => !before.Exists(b => b.Machine == t.MachineId && b.Start < t.Choice.End && t.Choice.Start < b.End))
            .OrderBy(t => t.Choice.End);
        foreach (var (machine, choice, _) in times)
        {
            var minutes = (int)(choice.End - choice.Start).TotalMinutes;
            if (await Hold(connection, transaction, entry, machine, choice.Start, minutes, rules, now, cancel))
                return true;
        }
        return false;
    }

    /// <summary>Keeps a time for somebody, if it is free under the locks still.</summary>
    private async Task<bool> Hold(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        WaitingEntry entry,
        MachineId machine,
        Instant start,
        int minutes,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    )
    {
        var ask = entry.Ask with { MachineId = machine, Start = start, Minutes = minutes };
        var resources = BookingClaims.Resources(ask);
        await BookingClaims.Lock(connection, transaction, resources, null);
        var facts = await FactLoader.Load(Memory.Of(db), connection, transaction, ask, now, null, entry.PersonId, cancel);
        if (facts.Refusal is not null || Core.Gating.Gate.Decide(ask, facts.Value).Verdict > Verdict.Conditions)
            return false;
        var slot = await BookingClaims.Slot(connection, transaction, ask, facts.Value);
        if (slot is { Free: null })
            return false;
        if (slot is { Free: { } free })
            resources.Add(free);
        var until = Waiting.Until(now, start, rules);
        var id = await connection.QuerySingleAsync<Guid>(
            $"""
            with offer as (insert into booking.offer (id, waiting_id, machine_id, during, minutes, at, until)
                values (gen_random_uuid(), @Waiting, @machine, tstzrange(@Start, @End), @minutes, @now, @until) returning id)
            select id from offer
            """,
            new
            {
                Waiting = entry.Id,
                machine,
                ask.Start,
                ask.End,
                minutes,
                now,
                until,
            },
            transaction
        );
        await connection.ExecuteAsync(
            BookingClaims.HoldSql.Replace("(booking_id, ", "(offer_id, ", StringComparison.Ordinal),
            new
            {
                id,
                ask.Start,
                ask.End,
                now,
                resources = resources.ToArray(),
            },
            transaction
        );
        await MessageStore.Tell(
            connection,
            transaction,
            entry.PersonId,
            $"offer:{id}",
            $"A time is free for you: {facts.Value.Machine.Spec.Name}, {HouseDates.Moment(start, rules)} to "
                + $"{rules.Clock.At(ask.End):HH:mm}",
            $"It is kept for you until {HouseDates.Moment(until, rules)}. Take it under Bookings; after that it goes to the next.",
            "/bookings",
            now
        );
        return true;
    }
}
