using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Incidents;

/// <param name="Link">An address of the house that it is about: a page of the course, a material, a rule.</param>
public sealed record NewAction(string Text, PersonId OwnerId, LocalDate Due, string ShowsBy, string? Link);

/// <summary>Why it happened, what is done about it, and when it is over.</summary>
public sealed class InvestigationStore(NpgsqlDataSource db)
{
    /// <summary>Ticks causes; those ticked before are replaced.</summary>
    public Task<Result<int>> SetCauses(
        Guid id,
        IReadOnlyCollection<string> codes,
        string? note,
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
                if (CauseRules.Check(codes, note) is { } wrong)
                    return (Result<int>)wrong;
                if (IncidentRules.MayInvestigate(act.Involved, act.Incident.ClosedAt is not null) is { } refusal)
                    return refusal;
                var text = await act.KeepIf(note);
                await act.Do(
                    """
                    delete from incidents.cause where incident_id = @id;
                    insert into incidents.cause (incident_id, code) select @id, c from unnest(@codes) c;
                    update incidents.incident set causes_by = @By, causes_at = @Now, causes_text_id = @text, version = version + 1
                        where id = @id;
                    """,
                    new
                    {
                        id,
                        codes = codes.Distinct().ToArray(),
                        act.By,
                        act.Now,
                        text = text?.Id,
                    }
                );
                await act.Record(RecordEvents.IncidentCauses, new { causes = codes.Order(StringComparer.Ordinal), note = text?.InChain });
                return codes.Count;
            },
            cancel
        );

    /// <summary>Somebody does something about it until a day; they are told.</summary>
    public Task<Result<Guid>> AddAction(Guid id, NewAction action, HouseRules rules, PersonId by, Instant now, CancellationToken cancel) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (act.Incident.ClosedAt is not null)
                    return (Result<Guid>)IncidentsProblems.Closed.Refuse();
                if (IncidentRules.MayAct(action.Due, rules.Clock.DateOf(now)) is { } past)
                    return past;
                var known = await act.Connection.ExecuteScalarAsync<bool>(
                    "select exists (select from people.person where id = @OwnerId and not erased)",
                    new { action.OwnerId },
                    act.Transaction
                );
                if (!known)
                    return IncidentsProblems.UnknownPerson.Refuse("ownerId");
                var (text, shows) = (await act.Keep(action.Text), await act.Keep(action.ShowsBy));
                var made = Guid.NewGuid();
                await act.Do(
                    """
                    insert into incidents.action (id, incident_id, text_id, owner_id, due, shows_text_id, link, set_by, set_at)
                    values (@made, @id, @text, @OwnerId, @Due, @shows, @Link, @By, @Now)
                    """,
                    new
                    {
                        made,
                        id,
                        text = text.Id,
                        action.OwnerId,
                        action.Due,
                        shows = shows.Id,
                        action.Link,
                        act.By,
                        act.Now,
                    }
                );
                if (action.OwnerId != by)
                    await MessageStore.Tell(
                        act.Connection,
                        act.Transaction,
                        action.OwnerId,
                        $"incident.action:{made}",
                        $"Yours after incident {act.Incident.Number}: {action.Text}",
                        $"Until {new LastDay(action.Due)}. It helped when: {action.ShowsBy}",
                        $"/incidents/{id}",
                        now
                    );
                await act.Record(
                    RecordEvents.IncidentAction,
                    new
                    {
                        action = made,
                        owner = await act.Number(action.OwnerId),
                        due = action.Due.ToString("uuuu-MM-dd", null),
                        text = text.InChain,
                    }
                );
                return made;
            },
            cancel
        );

    /// <summary>It is done, or given up with a reason. Its owner says so, or a steward.</summary>
    public Task<Result<bool>> EndAction(
        Guid id,
        Guid actionId,
        bool done,
        string? words,
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
                var row = await act.Connection.QuerySingleOrDefaultAsync<(PersonId Owner, bool Ended)?>(
                    "select owner_id, ended_at is not null from incidents.action where id = @actionId and incident_id = @id for update",
                    new { actionId, id },
                    act.Transaction
                );
                if (row is not { } action)
                    return (Result<bool>)CommonProblems.NotFound.Refuse(null, "action");
                if (IncidentRules.MayEndAction(action.Owner, by, steward, action.Ended) is { } refusal)
                    return refusal;
                if (WrittenReason.Wrong(words) is { } wrong)
                    return wrong;
                var text = await act.Keep(words!);
                await act.Do(
                    """
                    update incidents.action set ended_at = @Now, ended_by = @By, done = @done, end_text_id = @text where id = @actionId
                    """,
                    new
                    {
                        actionId,
                        act.By,
                        act.Now,
                        done,
                        text = text.Id,
                    }
                );
                await act.Record(
                    RecordEvents.IncidentActionDone,
                    new
                    {
                        action = actionId,
                        done,
                        words = text.InChain,
                    }
                );
                return done;
            },
            cancel
        );

    /// <summary>Closes it; of two who press at once the second is told that it is closed.</summary>
    public Task<Result<bool>> Close(Guid id, string? note, ClosingRoles roles, PersonId by, Instant now, CancellationToken cancel) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                var facts = await ClosingOf(act.Connection, act.Transaction, act.Incident, now);
                if (
                    IncidentClosing.MayClose(
                        facts,
                        act.Incident.ClosedAt is not null,
                        new Closer(roles.Steward, roles.Countersigner, act.Involved)
                    ) is
                    { } refusal
                )
                    return (Result<bool>)refusal;
                if (WrittenReason.Wrong(note) is { } wrong)
                    return wrong;
                var text = await act.Keep(note!);
                await act.Do(
                    """
                    update incidents.incident set closed_at = @Now, closed_by = @By, close_text_id = @text, version = version + 1
                        where id = @id
                    """,
                    new
                    {
                        id,
                        act.By,
                        act.Now,
                        text = text.Id,
                    }
                );
                await act.Record(RecordEvents.IncidentClosed, new { note = text.InChain });
                return true;
            },
            cancel
        );

    public Task<Result<bool>> Reopen(Guid id, string? reason, PersonId by, Instant now, CancellationToken cancel) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (act.Incident.ClosedAt is null)
                    return (Result<bool>)IncidentsProblems.OpenAlready.Refuse();
                if (WrittenReason.Wrong(reason) is { } wrong)
                    return wrong;
                var text = await act.Keep(reason!);
                await act.Do(
                    """
                    update incidents.incident set closed_at = null, closed_by = null, close_text_id = null, version = version + 1
                        where id = @id
                    """,
                    new { id }
                );
                await act.Record(RecordEvents.IncidentReopened, new { why = text.InChain });
                return true;
            },
            cancel
        );

    /// <summary>A teaching case, without names: everybody who signs in may read it.</summary>
    public Task<Result<bool>> Teach(Guid id, string? words, PersonId by, Instant now, CancellationToken cancel) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (IncidentRules.MayTeach(act.Involved) is { } refusal)
                    return (Result<bool>)refusal;
                var text = await act.KeepIf(words);
                await act.Do(
                    "update incidents.incident set lesson_text_id = @text, version = version + 1 where id = @id",
                    new { id, text = text?.Id }
                );
                await act.Record(RecordEvents.IncidentLesson, new { lesson = text?.InChain });
                return text is not null;
            },
            cancel
        );

    /// <summary>What an incident stands at, for closing it.</summary>
    internal static async Task<ClosingFacts> ClosingOf(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        IncidentRow incident,
        Instant now
    )
    {
        var (_, holdFacts, _) = await IncidentEvidence.Load(connection, transaction, incident);
        using var rows = await connection.QueryMultipleAsync(
            """
            select count(*)::int from incidents.cause where incident_id = @Id;
            select count(*)::int from incidents.action where incident_id = @Id and ended_at is null;
            select kind, target, state from incidents.hold where incident_id = @Id;
            select distinct p.given_name || ' ' || p.family_name from people.acting a join people.person p on p.id = a.person_id
                where a.role = 'steward' and a.held @> @now and upper_inf(a.recorded)
                    and not exists (select from incidents.involved v where v.incident_id = @Id and v.person_id = a.person_id
                        and v.part <> 'told') order by 1;
            """,
            new { incident.Id, now },
            transaction
        );
        var causes = await rows.ReadSingleAsync<int>();
        var actions = await rows.ReadSingleAsync<int>();
        var holds = (await rows.ReadAsync<(string Kind, string Target, string State)>()).ToList();
        var others = (await rows.ReadAsync<string>()).ToList();
        var watch = await FireWatchStore.Of(connection, transaction, incident.Id);
        return new ClosingFacts(
            CausesTicked: causes,
            OpenActions: actions,
            HoldsSet: holds.Count(h => h.State == "set"),
            HoldsProposed: incident.CarriedOver
                ? 0
                : IncidentHolds.Propose(holdFacts).Count(p => !holds.Any(h => h.Kind == IncidentAct.Word(p.Kind) && h.Target == p.Target)),
            LooksLeft: watch is null ? null
                : WatchPlan.Runs(watch.Minutes, [.. watch.Done.Select(d => d.Minute)])
                    ? WatchPlan
                        .Looks(watch.Began, watch.Minutes, [.. watch.Done.Select(d => d.Minute)], now)
                        .Count(l => l.State is LookState.Due or LookState.ToCome)
                : 0,
            WatchWanted: incident.WantsAWatch,
            OtherStewards: others
        );
    }
}

/// <summary>The roles of whoever closes an incident.</summary>
public sealed record ClosingRoles(bool Steward, bool Countersigner);
