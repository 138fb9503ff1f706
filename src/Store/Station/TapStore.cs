using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Station;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.Station;

/// <summary>What the last tap at a machine was.</summary>
/// <param name="Code">Of the problem; null where it went well.</param>
public sealed record LastTap(Instant At, string? Code, string Says);

/// <summary>What a tap was; both null where nobody is tapped in.</summary>
public sealed record TapMade(TapMeans? Means, StationSession? Session);

/// <summary>Taps at a machine with an open session, and what its screen says of the last one.</summary>
public sealed class TapStore(NpgsqlDataSource db, StationStore stations)
{
    /// <summary>A tap of somebody while a session is open.</summary>
    public Task<Result<TapMade>> Tapped(MachineId machine, PersonId person, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await StationStore.OpenLocked(connection, transaction, machine) is not { } session)
                    return ((Result<TapMade>)new TapMade(null, null), false);
                var by = await Tapper(connection, transaction, machine, person, now);
                var means = session.Means(by, now);
                var after =
                    means == TapMeans.TakesOver
                        ? await HandedOver(connection, transaction, session, session.Taker(person), now, cancel)
                        : session.Tapped(by, now);
                if (after.Refusal is { } not)
                    return (not, false);
                await StationStore.Save(connection, transaction, session, after.Value, now, person);
                if (means == TapMeans.TakesOver)
                    await StationStore.Write(connection, transaction, after.Value, RecordEvents.WatchHandedOver, session.Person, now);
                return (new TapMade(means, after.Value), true);
            },
            cancel
        );

    private async Task<Result<StationSession>> HandedOver(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        StationSession session,
        PersonId second,
        Instant now,
        CancellationToken cancel
    )
    {
        var theirs = session with { Person = second, BookedBy = session.BookedBy ?? session.Person, Supervisor = null };
        var facts = await stations.FactsOf(connection, transaction, theirs, now, cancel);
        if (facts.Refusal is { } unknown)
            return unknown;
        return session.HandedTo(
            second,
            facts.Value.Against,
            await StationStore.Elsewhere(connection, transaction, second, session.MachineId)
        );
    }

    private static async Task<Tapper> Tapper(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machine,
        PersonId person,
        Instant now
    )
    {
        var (steward, certified) = await connection.QuerySingleAsync<(bool, bool)>(
            """
            select exists (select from people.role where person_id = @person and role = 'steward' and upper_inf(recorded) and held @> @now),
                exists (select from training.certificate where person_id = @person and authority = @machine and upper_inf(recorded)
                    and held @> @now) and not exists (select from training.certificate_hold where person_id = @person
                    and authority = @machine and upper_inf(recorded) and held @> @now)
            """,
            new
            {
                person,
                machine,
                now,
            },
            transaction
        );
        return new Tapper(person, steward, certified);
    }

    /// <summary>Somebody supervises at the machine from now on, without running it.</summary>
    public async Task Supervises(MachineId machine, PersonId person, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                """
                insert into station.supervising (machine_id, person_id, at) values (@machine, @person, @now)
                on conflict (machine_id) do update set person_id = @person, at = @now
                """,
                new
                {
                    machine,
                    person,
                    now,
                },
                cancellationToken: cancel
            )
        );
    }

    /// <returns>Who last tapped to supervise there; null for nobody within the last minutes.</returns>
    public async Task<(PersonId Person, Instant At)?> Supervising(MachineId machine, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<(PersonId, Instant)?>(
            new CommandDefinition(
                "select person_id, at from station.supervising where machine_id = @machine and at >= @since",
                new { machine, since = now - Taps.SupervisorEvery },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Somebody tapped: on duty, they are known to be there.</summary>
    /// <returns>The end of their duty; null for somebody who has none now.</returns>
    public async Task<Instant?> Seen(MachineId machine, PersonId person, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<Instant?>(
            new CommandDefinition(
                """
                with duty as (select max(upper(during)) as until from house.duty
                    where person_id = @person and upper_inf(recorded) and lower(during) <= @soon and upper(during) > @now),
                seen as (insert into station.seen (person_id, machine_id, at)
                    select @person, @machine, @now from duty where until is not null
                    on conflict (person_id) do update set machine_id = @machine, at = greatest(seen.at, @now))
                select until from duty where until is not null
                """,
                new
                {
                    person,
                    machine,
                    now,
                    soon = now + Taps.OnDutyFrom,
                },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>What the screen at the machine says of a tap.</summary>
    public async Task Keep(MachineId machine, PersonId? person, LastTap tap, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                """
                insert into station.tap (machine_id, at, person_id, code, says) values (@machine, @At, @person, @Code, @Says)
                on conflict (machine_id) do update set at = @At, person_id = @person, code = @Code, says = @Says where tap.at <= @At
                """,
                new
                {
                    machine,
                    person,
                    tap.At,
                    tap.Code,
                    tap.Says,
                },
                cancellationToken: cancel
            )
        );
    }

    /// <returns>Null where nobody tapped a short while ago.</returns>
    public async Task<LastTap?> Last(MachineId machine, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<LastTap?>(
            new CommandDefinition(
                "select at, code, says from station.tap where machine_id = @machine and at > @since",
                new { machine, since = now - Taps.ShownFor },
                cancellationToken: cancel
            )
        );
    }
}
