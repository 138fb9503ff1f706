using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Incidents;

/// <param name="Struck">A steward struck a name from its words.</param>
public sealed record NearMissNow(Guid Id, string HalfDay, MachineId? MachineId, string What, string Note, bool Struck);

/// <summary>Near misses: kept without anything that says who.</summary>
public sealed class NearMissStore(NpgsqlDataSource db)
{
    /// <summary>How many people used each machine in this time; where few did, a half day would name one.</summary>
    private static readonly Duration Using = Duration.FromDays(90);

    /// <summary>Keeps one; the same id again changes nothing.</summary>
    /// <param name="halfDay">As whoever told it wrote, without a network; null for now.</param>
    /// <returns>Whether somebody is to look at the machine.</returns>
    public Task<Result<bool>> Tell(
        Guid id,
        NearMissTime? halfDay,
        MachineId? machineId,
        Mishap what,
        string note,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var (name, users) = await connection.QuerySingleAsync<(string? Name, int Users)>(
                    """
                    select (select name from house.machine where id = @machineId),
                        (select count(distinct person_id)::int from run.log where upper(during) > @since
                            and (@machineId::text is null or machine_id = @machineId))
                    """,
                    new { machineId, since = now - Using },
                    transaction
                );
                if (machineId is { } machine && name is null)
                    return ((Result<bool>)IncidentsProblems.UnknownMachine.Refuse("machineId", machine), false);
                var few = users < NearMisses.FewPeople;
                var local = rules.Clock.At(now).LocalDateTime;
                var at =
                    halfDay is null ? NearMissTime.At(local, few)
                    : few || halfDay.Span == NearMissSpan.Week ? NearMissTime.At(halfDay.Day.AtMidnight(), few: true)
                    : halfDay;
                var told = new NearMiss(id, at, machineId, what, note);
                if (NearMisses.Check(told, local.Date) is { } refusal)
                    return (refusal, false);
                var look = machineId is not null && Mishaps.WantsALook(what);
                var kept = await connection.ExecuteAsync(
                    """
                    insert into incidents.near_miss (id, half_day, machine_id, what, note)
                    values (@id, @halfDay, @machineId, @what, @note) on conflict (id) do nothing
                    """,
                    new
                    {
                        id,
                        halfDay = at.ToString(),
                        machineId,
                        what = IncidentAct.Word(what),
                        note,
                    },
                    transaction
                );
                if (kept == 1 && look)
                    await AskForALook(connection, transaction, machineId!.Value, name!, rules, now);
                return (look, true);
            },
            cancel
        );

    /// <summary>Dated by the half day: the minute is nobody's business.</summary>
    private static async Task AskForALook(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machineId,
        string name,
        HouseRules rules,
        Instant now
    )
    {
        var local = rules.Clock.At(now).LocalDateTime;
        var since = rules.Clock.Between(local.Date, local.Hour < 12 ? LocalTime.Midnight : LocalTime.Noon, LocalTime.Midnight).Start;
        var asked = await connection.ExecuteScalarAsync<long?>(
            """
            insert into incidents.look_asked (machine_id, held, recorded)
            select @machineId, tstzrange(greatest(@since, (select max(upper(held)) from incidents.look_asked
                    where machine_id = @machineId and upper_inf(recorded))), null), tstzrange(@since, null)
            where not exists (select from incidents.look_asked where machine_id = @machineId and upper_inf(recorded) and upper_inf(held))
            returning row_id
            """,
            new { machineId, since },
            transaction
        );
        if (asked is null)
            return;
        await HouseStore.TellStewards(
            connection,
            transaction,
            null,
            $"nearMiss.look:{machineId}:{asked}",
            $"Somebody told of fire or smoke at {name}, without a name",
            "Look at bed, lens, filter and duct before it starts again. Its words show once the half day is over.",
            "/incidents",
            now
        );
    }

    /// <summary>A steward has looked.</summary>
    public Task<Result<bool>> Looked(MachineId machineId, string? words, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (WrittenReason.Wrong(words) is { } wrong)
                    return ((Result<bool>)wrong, false);
                var text = await LedgerStore.Keep(connection, transaction, words!.Trim(), null);
                var ended = await connection.ExecuteAsync(
                    """
                    with closed as (update incidents.look_asked set recorded = tstzrange(lower(recorded), greatest(@now, lower(recorded)))
                        where machine_id = @machineId and upper_inf(recorded) and upper_inf(held) returning *)
                    insert into incidents.look_asked (machine_id, looked_by, text_id, held, recorded)
                    select machine_id, @by, @text, tstzrange(lower(held), greatest(@now, lower(held) + interval '1 millisecond')),
                        tstzrange(@now, null) from closed
                    """,
                    new
                    {
                        machineId,
                        by,
                        text = text.Id,
                        now,
                    },
                    transaction
                );
                if (ended == 0)
                    return (CommonProblems.NotFound.Refuse(null, "look that is asked for"), false);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.NearMissLooked,
                    new
                    {
                        machine = machineId,
                        by = await LedgerStore.Number(connection, transaction, by),
                        words = text.InChain,
                    }
                );
                return ((Result<bool>)true, true);
            },
            cancel
        );

    /// <summary>A name stands in the words of one: a steward writes them anew without it.</summary>
    public Task<Result<bool>> Strike(Guid id, string? words, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (NearMisses.MayStrike(words) is { } refusal)
                    return ((Result<bool>)refusal, false);
                var struck = await connection.ExecuteAsync(
                    "update incidents.near_miss set note = @words, struck = true where id = @id",
                    new { id, words = words?.Trim() ?? "" },
                    transaction
                );
                if (struck == 0)
                    return (CommonProblems.NotFound.Refuse(null, "near miss"), false);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.NearMissStruck,
                    new { by = await LedgerStore.Number(connection, transaction, by) }
                );
                return ((Result<bool>)true, true);
            },
            cancel
        );

    /// <summary>Tells the record of every half day and week that is over: how many, and a digest. One entry for each.</summary>
    public Task<int> TellRecord(HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730025)", transaction: transaction);
                var rows = await connection.QueryAsync<NearMissNow>(
                    """
                    select n.id, n.half_day, n.machine_id, n.what, n.note, n.struck from incidents.near_miss n
                        where not exists (select from incidents.near_miss_told t where t.near_miss_id = n.id)
                    """,
                    transaction: transaction
                );
                var local = rules.Clock.At(now).LocalDateTime;
                var told = rows.Select(Read).Where(n => n.When.Over <= local).GroupBy(n => n.When.ToString()).ToList();
                foreach (var half in told.OrderBy(h => h.Key, StringComparer.Ordinal))
                {
                    await connection.ExecuteAsync(
                        "insert into incidents.near_miss_told (near_miss_id) select unnest(@ids)",
                        new { ids = half.Select(n => n.Id).Order().ToArray() },
                        transaction
                    );
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.NearMissesTold,
                        new
                        {
                            halfDay = half.Key,
                            count = half.Count(),
                            digest = NearMisses.Digest(half),
                        }
                    );
                }
                return (told.Count, told.Count > 0);
            },
            cancel
        );

    /// <summary>All that may be read now, latest first: contents show once their half day or week is over.</summary>
    public async Task<(IReadOnlyList<NearMissNow> Shown, int Hidden)> All(HouseRules rules, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var all = (
            await connection.QueryAsync<NearMissNow>(
                new CommandDefinition(
                    "select id, half_day, machine_id, what, note, struck from incidents.near_miss order by half_day desc, id",
                    cancellationToken: cancel
                )
            )
        ).ToList();
        var local = rules.Clock.At(now).LocalDateTime;
        var shown = all.Where(n => Read(n).When.Over <= local).ToList();
        return (shown, all.Count - shown.Count);
    }

    /// <summary>Machines that somebody is to look at before their next start.</summary>
    public async Task<IReadOnlyList<MachineId>> LooksAsked(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<MachineId>(
                new CommandDefinition(
                    "select machine_id from incidents.look_asked where upper_inf(recorded) and held @> @now order by machine_id",
                    new { now },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    private static NearMiss Read(NearMissNow row) =>
        new(row.Id, NearMissTime.Read(row.HalfDay)!, row.MachineId, Enum.Parse<Mishap>(row.What, ignoreCase: true), row.Note);
}
