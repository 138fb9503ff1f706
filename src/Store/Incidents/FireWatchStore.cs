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

/// <param name="Done">Minute, when it was made, by whom and what was found.</param>
public sealed record FireWatchNow(PersonId PersonId, Instant Began, int Minutes, IReadOnlyList<LookMade> Done);

public sealed record LookMade(int Minute, Instant At, PersonId By, Found Found, string? Note);

/// <summary>The watch after a fire: a named person, and a look at each of its minutes.</summary>
public sealed class FireWatchStore(NpgsqlDataSource db)
{
    /// <summary>Begins the watch, by whoever does it or by a steward who names somebody.</summary>
    public Task<Result<int>> Begin(Guid id, PersonId watcher, HouseRules rules, PersonId by, Instant now, CancellationToken cancel) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                var known = await act.Connection.ExecuteScalarAsync<bool>(
                    "select exists (select from people.person where id = @watcher and not erased)",
                    new { watcher },
                    act.Transaction
                );
                if (!known)
                    return (Result<int>)IncidentsProblems.UnknownPerson.Refuse("personId");
                if (act.Incident.ClosedAt is not null)
                    return IncidentsProblems.Closed.Refuse();
                var began = await act.Do(
                    """
                    insert into incidents.fire_watch (incident_id, person_id, began, minutes, ends_at)
                    values (@id, @watcher, @Now, @minutes, @ends) on conflict do nothing
                    """,
                    new
                    {
                        id,
                        watcher,
                        act.Now,
                        minutes = rules.FireWatchMinutes,
                        ends = act.Now + Duration.FromMinutes(rules.FireWatchMinutes),
                    }
                );
                if (began == 0)
                {
                    var who = await act.Connection.ExecuteScalarAsync<string>(
                        """
                        select p.given_name || ' ' || p.family_name from incidents.fire_watch w
                            join people.person p on p.id = w.person_id where w.incident_id = @id
                        """,
                        new { id },
                        act.Transaction
                    );
                    return IncidentsProblems.WatchBegun.Refuse(null, who);
                }
                await act.Record(
                    RecordEvents.IncidentWatchBegun,
                    new { watcher = await act.Number(watcher), minutes = rules.FireWatchMinutes }
                );
                return rules.FireWatchMinutes;
            },
            cancel
        );

    /// <summary>Writes down one look. What is warm or burning calls the stewards.</summary>
    public Task<Result<int>> Look(Guid id, int minute, Found found, string? note, PersonId by, Instant now, CancellationToken cancel) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (await Of(act.Connection, act.Transaction, id) is not { } watch)
                    return (Result<int>)CommonProblems.NotFound.Refuse(null, "fire watch");
                var looks = WatchPlan.Looks(watch.Began, watch.Minutes, [.. watch.Done.Select(d => d.Minute)], now);
                if (WatchPlan.MayLook(looks, minute) is { } refusal)
                    return refusal;
                var text = await act.KeepIf(note);
                var made = await act.Do(
                    """
                    insert into incidents.look (incident_id, minute, at, by, found, text_id) values (@id, @minute, @Now, @By, @found, @text)
                    on conflict do nothing
                    """,
                    new
                    {
                        id,
                        minute,
                        act.Now,
                        act.By,
                        found = IncidentAct.Word(found),
                        text = text?.Id,
                    }
                );
                if (made == 0)
                    return IncidentsProblems.LookDone.Refuse("minute");
                if (found != Found.Nothing)
                    await HouseStore.TellStewards(
                        act.Connection,
                        act.Transaction,
                        by,
                        $"incident.look:{id}:{minute}",
                        $"Incident {act.Incident.Number}: the fire watch found "
                            + (found == Found.Warm ? "something warm" : "smoke, glow or flame"),
                        "Nobody opens it. Leave, and call.",
                        $"/incidents/{id}",
                        now
                    );
                await act.Record(
                    RecordEvents.IncidentLooked,
                    new
                    {
                        minute,
                        found = IncidentAct.Word(found),
                        note = text?.InChain,
                    }
                );
                return minute;
            },
            cancel
        );

    /// <summary>Calls the stewards for each look that nobody made in time; once for each watch until somebody looks.</summary>
    /// <returns>For how many watches they were called.</returns>
    public async Task<int> Call(Instant now, CancellationToken cancel)
    {
        await using var reading = await db.OpenConnectionAsync(cancel);
        var running = await reading.QueryAsync<Guid>(
            """
            select w.incident_id from incidents.fire_watch w where w.called_at is null
                and not exists (select from incidents.look l where l.incident_id = w.incident_id and l.minute = w.minutes)
            """
        );
        var called = 0;
        foreach (var id in running)
            called += await Transaction.Run(
                db,
                async (connection, transaction) =>
                {
                    if (await IncidentRow.Lock(connection, transaction, id) is not { } incident)
                        return (0, false);
                    var watch = (await Of(connection, transaction, id))!;
                    var looks = WatchPlan.Looks(watch.Began, watch.Minutes, [.. watch.Done.Select(d => d.Minute)], now);
                    if (!WatchPlan.WantsACall(looks, now))
                        return (0, false);
                    var marked = await connection.ExecuteAsync(
                        "update incidents.fire_watch set called_at = @now where incident_id = @id and called_at is null",
                        new { id, now },
                        transaction
                    );
                    if (marked == 0)
                        return (0, false);
                    await HouseStore.TellStewards(
                        connection,
                        transaction,
                        null,
                        $"incident.watch:{id}",
                        $"Incident {incident.Number}: nobody answered a look of the fire watch",
                        "Go and look now: filter casing, duct, outlet and bin. Nobody opens a warm filter.",
                        $"/incidents/{id}",
                        now
                    );
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.IncidentWatchCalled,
                        new { incident = incident.Number, machine = incident.MachineId?.Value }
                    );
                    return (1, true);
                },
                cancel
            );
        return called;
    }

    internal static async Task<FireWatchNow?> Of(NpgsqlConnection connection, NpgsqlTransaction? transaction, Guid id)
    {
        using var rows = await connection.QueryMultipleAsync(
            """
            select person_id, began, minutes from incidents.fire_watch where incident_id = @id;
            select l.minute, l.at, l.by, l.found, t.body as note from incidents.look l left join ledger.text t on t.id = l.text_id
                where l.incident_id = @id order by l.minute;
            """,
            new { id },
            transaction
        );
        var watch = await rows.ReadSingleOrDefaultAsync<(PersonId Person, Instant Began, int Minutes)?>();
        var looks = (await rows.ReadAsync<(int Minute, Instant At, PersonId By, string Found, string? Note)>())
            .Select(l => new LookMade(l.Minute, l.At, l.By, Enum.Parse<Found>(l.Found, ignoreCase: true), l.Note))
            .ToList();
        return watch is { } w ? new FireWatchNow(w.Person, w.Began, w.Minutes, looks) : null;
    }

    /// <summary>A watch is wanted and not over: begun or not.</summary>
    internal static async Task<bool> Runs(NpgsqlConnection connection, NpgsqlTransaction transaction, IncidentRow incident) =>
        await Of(connection, transaction, incident.Id) is { } watch
            ? WatchPlan.Runs(watch.Minutes, [.. watch.Done.Select(d => d.Minute)])
            : incident.WantsAWatch;
}
