using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Store.Upkeep;

namespace VelvetGate.Store.Incidents;

/// <summary>Holds after an incident: set with one press, each ended by somebody.</summary>
public sealed class IncidentHoldStore(NpgsqlDataSource db, ConductStore conduct)
{
    /// <summary>Sets holds that the incident speaks for; one that is set already stays as it is.</summary>
    public async Task<Result<int>> Set(
        Guid id,
        IReadOnlyList<(HoldKind Kind, string Target)> holds,
        HouseRules rules,
        PersonId by,
        Instant now,
        CancellationToken cancel
    )
    {
        var words = new List<(PersonId Person, MachineId? Machine, int Number)>();
        var set = await IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (act.Incident.ClosedAt is not null)
                    return (Result<int>)IncidentsProblems.Closed.Refuse();
                var (_, facts, _) = await IncidentEvidence.Load(act.Connection, act.Transaction, act.Incident);
                var proposed = IncidentHolds.Propose(facts);
                foreach (var (kind, target) in holds)
                {
                    if (proposed.FirstOrDefault(p => p.Kind == kind && p.Target == target) is not { } hold)
                        return IncidentsProblems.HoldNone.Refuse("holds", IncidentAct.Word(kind), target);
                    if (IncidentRules.MaySetHold(kind, target, by) is { } own)
                        return own;
                    if (await Set(act, hold) && kind == HoldKind.Conduct)
                        words.Add((target, act.Incident.MachineId, act.Incident.Number));
                }
                await act.Record(RecordEvents.IncidentHeld, new { holds = holds.Select(h => $"{IncidentAct.Word(h.Kind)} {h.Target}") });
                return holds.Count;
            },
            cancel
        );
        if (set.Refusal is null)
            foreach (var (person, machine, number) in words)
            {
                var step = await conduct.Next(person, ConductMatter.NeverStock, rules, now, cancel);
                await conduct.Write(
                    person,
                    machine,
                    ConductMatter.NeverStock,
                    step,
                    $"Stock that is never allowed was in the machine: incident {number}.",
                    by,
                    rules,
                    now,
                    cancel
                );
            }
        return set;
    }

    /// <summary>A proposed hold is not needed, and why.</summary>
    public Task<Result<int>> Refuse(
        Guid id,
        HoldKind kind,
        string target,
        string? reason,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (WrittenReason.Wrong(reason) is { } wrong)
                    return (Result<int>)wrong;
                if (IncidentRules.MayInvestigate(act.Involved, act.Incident.ClosedAt is not null) is { } refusal)
                    return refusal;
                var (_, facts, _) = await IncidentEvidence.Load(act.Connection, act.Transaction, act.Incident);
                if (IncidentHolds.Propose(facts).FirstOrDefault(p => p.Kind == kind && p.Target == target) is not { } hold)
                    return IncidentsProblems.HoldNone.Refuse("target", IncidentAct.Word(kind), target);
                var text = await act.Keep(reason!);
                var refused = await act.Do(
                    """
                    insert into incidents.hold (id, incident_id, kind, target, reason, state, set_by, set_at, text_id)
                    values (gen_random_uuid(), @id, @kind, @target, @Reason, 'refused', @By, @Now, @text)
                    on conflict (incident_id, kind, target) do nothing
                    """,
                    new
                    {
                        id,
                        kind = IncidentAct.Word(kind),
                        target,
                        hold.Reason,
                        act.By,
                        act.Now,
                        text = text.Id,
                    }
                );
                if (refused == 0)
                    return IncidentsProblems.HoldOver.Refuse();
                await act.Record(RecordEvents.IncidentHoldRefused, new { hold = $"{IncidentAct.Word(kind)} {target}", why = text.InChain });
                return 1;
            },
            cancel
        );

    /// <summary>Ends a hold: of a machine once its list has been gone through, and none while the fire watch runs.</summary>
    public Task<Result<int>> End(
        Guid id,
        Guid holdId,
        IReadOnlyCollection<string> ticked,
        string? reason,
        bool opticsTouched,
        bool steward,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                var row = await act.Connection.QuerySingleOrDefaultAsync<(string Kind, string Target, string State)?>(
                    "select kind, target, state from incidents.hold where id = @holdId and incident_id = @id for update",
                    new { holdId, id },
                    act.Transaction
                );
                if (row is not { } hold)
                    return (Result<int>)CommonProblems.NotFound.Refuse(null, "hold");
                if (hold.State != "set")
                    return IncidentsProblems.HoldOver.Refuse();
                var kind = Enum.Parse<HoldKind>(hold.Kind, ignoreCase: true);
                var deputy =
                    kind == HoldKind.Machine
                    && await act.Connection.ExecuteScalarAsync<bool>(
                        """
                        select exists (select from people.acting where person_id = @By and role = 'repair' and machine_id = @Target
                            and held @> @Now and upper_inf(recorded))
                        """,
                        new
                        {
                            act.By,
                            hold.Target,
                            act.Now,
                        },
                        act.Transaction
                    );
                var runs = await FireWatchStore.Runs(act.Connection, act.Transaction, act.Incident);
                // Whoever ran it does not say that all is well again; a steward who came to help may.
                if (IncidentHolds.MayEnd(kind, new HoldEnder(steward, deputy, act.Part == "ran", runs, ticked), reason) is { } refusal)
                    return refusal;
                var text = await act.Keep(reason!);
                await act.Do(
                    """
                    update incidents.hold set state = 'ended', ended_by = @By, ended_at = @Now, end_text_id = @text where id = @holdId
                    """,
                    new
                    {
                        holdId,
                        act.By,
                        act.Now,
                        text = text.Id,
                    }
                );
                await LetGo(act, kind, hold.Target, reason!, opticsTouched);
                await act.Record(
                    RecordEvents.IncidentHoldEnded,
                    new
                    {
                        hold = $"{hold.Kind} {hold.Target}",
                        list = ticked.Order(StringComparer.Ordinal),
                        why = text.InChain,
                    }
                );
                return 1;
            },
            cancel
        );

    /// <summary>Sets one hold, and what it keeps shut.</summary>
    /// <returns>False where it stood already.</returns>
    internal static async Task<bool> Set(IncidentAct act, ProposedHold hold)
    {
        var added = await act.Connection.ExecuteScalarAsync<Guid?>(
            """
            insert into incidents.hold (id, incident_id, kind, target, reason, state, set_by, set_at)
            values (gen_random_uuid(), @id, @kind, @Target, @Reason, 'set', @By, @Now)
            on conflict (incident_id, kind, target) do update set state = 'set', set_by = @By, set_at = @Now, text_id = null
                where incidents.hold.state = 'refused'
            returning id
            """,
            new
            {
                id = act.Incident.Id,
                kind = IncidentAct.Word(hold.Kind),
                hold.Target,
                hold.Reason,
                act.By,
                act.Now,
            },
            act.Transaction
        );
        if (added is null)
            return false;
        switch (hold.Kind)
        {
            case HoldKind.Machine or HoldKind.Optics:
                await HouseStore.Stop(
                    act.Connection,
                    act.Transaction,
                    hold.Target,
                    act.By,
                    $"Incident {act.Incident.Number}. {hold.Reason}",
                    act.Now,
                    act.Incident.Id
                );
                break;
            case HoldKind.Room:
                await act.Do(
                    """
                    insert into incidents.room_shut (incident_id, held, recorded)
                    values (@id, tstzrange(@Now, null), tstzrange(@Now, null))
                    """,
                    new { id = act.Incident.Id, act.Now }
                );
                break;
            case HoldKind.Sheets:
                await HoldSheets(act, hold);
                break;
        }
        return true;
    }

    private static async Task HoldSheets(IncidentAct act, ProposedHold hold)
    {
        SheetTag tag = hold.Target;
        var family = (await act.Connection.QueryAsync<SheetTag>(SheetRows.FamilySql, new { tag }, act.Transaction)).ToArray();
        await act.Do("select 1 from materials.sheet where tag = any(@family) order by tag for update", new { family });
        var text = await act.Keep($"Incident {act.Incident.Number}. {hold.Reason}");
        await SheetRows.EndClearances(act.Connection, act.Transaction, family, act.Now);
        await SheetRows.Quarantine(act.Connection, act.Transaction, family, act.By, text, act.Now, act.Incident.Id);
        await act.Do(
            """
            update materials.sheet set state = 'recheck', state_by = @By, state_at = @Now, state_text_id = @text, version = version + 1
                where tag = any(@family) and state not in ('retired', 'refused')
            """,
            new
            {
                family,
                act.By,
                act.Now,
                text = text.Id,
            }
        );
    }

    private static async Task LetGo(IncidentAct act, HoldKind kind, string target, string reason, bool opticsTouched)
    {
        switch (kind)
        {
            case HoldKind.Machine or HoldKind.Optics:
                var others = await act.Connection.ExecuteScalarAsync<bool>(
                    """
                    select exists (select from incidents.hold where incident_id = @id and target = @target and kind in ('machine', 'optics')
                        and state = 'set')
                    """,
                    new { id = act.Incident.Id, target },
                    act.Transaction
                );
                // Two holds of one incident on one machine: it comes back with the second.
                if (!others)
                    await ReturnStore.EndStopsOf(
                        act.Connection,
                        act.Transaction,
                        act.Incident.Id,
                        target,
                        act.By,
                        reason,
                        opticsTouched || kind == HoldKind.Optics,
                        opticsTouched,
                        act.Now
                    );
                break;
            case HoldKind.Room:
                await act.Do(
                    Dated.End("incidents.room_shut", "incident_id", "incident_id = @id and held @> @now"),
                    new { id = act.Incident.Id, now = act.Now }
                );
                break;
            case HoldKind.Sheets:
                await SheetRows.EndQuarantines(act.Connection, act.Transaction, act.Incident.Id, act.Now);
                break;
        }
    }
}
