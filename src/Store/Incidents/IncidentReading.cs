using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Incidents;

namespace VelvetGate.Store.Incidents;

public sealed record SeenNow(Guid Id, Instant? At, string? Words, PersonId By, Instant ToldAt);

public sealed record InvolvedNow(PersonId PersonId, string Part);

/// <param name="Reason">Why it is proposed; <paramref name="Words"/> why it is not needed, or what ended it.</param>
public sealed record HoldNow(
    Guid Id,
    string Kind,
    string Target,
    string Reason,
    string State,
    PersonId SetBy,
    Instant SetAt,
    PersonId? EndedBy,
    Instant? EndedAt,
    string? Words
);

public sealed record ActionNow(
    Guid Id,
    string? Text,
    PersonId OwnerId,
    LocalDate Due,
    string? ShowsBy,
    string? Link,
    Instant? EndedAt,
    bool? Done,
    string? EndWords
);

/// <summary>One incident with all that hangs on it.</summary>
public sealed record IncidentWhole(
    IncidentRow Incident,
    IReadOnlyList<SeenNow> Seen,
    IReadOnlyList<InvolvedNow> Involved,
    IReadOnlyList<HoldNow> Holds,
    IReadOnlyList<ProposedHold> Proposed,
    IReadOnlyList<string> Causes,
    IReadOnlyList<ProposedCause> ProposedCauses,
    IReadOnlyList<ActionNow> Actions,
    IReadOnlyList<PhotoNow> Photos,
    IReadOnlyList<InjuryNow> Injuries,
    FireWatchNow? Watch,
    ClosingFacts Closing,
    RunOfIncident? Run,
    string? MaterialName,
    int AtRisk
);

/// <param name="Decision">The stored decision of the booking behind the run.</param>
public sealed record RunOfIncident(
    Guid Id,
    int Number,
    PersonId PersonId,
    Instant Start,
    Instant End,
    string? Settings,
    Guid? Decision,
    string? Outcome,
    string[] Codes
)
{
    /// <summary>Which reasons of the gate stood then.</summary>
    public IReadOnlyList<string> AtTheGate =>
        GateThen.Says(Outcome is null ? null : GateJson.Read<Core.Gating.StoredOutcome>(Outcome), Codes);
}

/// <summary>Reads incidents for lists, pages, papers and files.</summary>
public sealed class IncidentReading(NpgsqlDataSource db)
{
    /// <summary>All, latest first; for a member those they were part of.</summary>
    public async Task<IReadOnlyList<IncidentLine>> List(PersonId? only, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await IncidentRow.Read(
            connection,
            null,
            """
            where @only::text is null or exists (select from incidents.involved v where v.incident_id = i.id and v.person_id = @only)
            order by i.at desc, i.number desc
            """,
            new { only }
        );
        var causes = (
            await connection.QueryAsync<(Guid Id, string Code)>("select incident_id, code from incidents.cause order by code")
        ).ToLookup(c => c.Id, c => c.Code);
        var holds = (
            await connection.QueryAsync<(Guid Id, string Kind, string State)>("select incident_id, kind, state from incidents.hold")
        ).ToLookup(h => h.Id);
        return
        [
            .. rows.Select(r => new IncidentLine(
                r,
                [.. causes[r.Id]],
                holds[r.Id].Count(h => h.State == "set"),
                holds[r.Id].Count(h => h.State == "ended")
            )),
        ];
    }

    /// <summary>Teaching cases: what happened, without names.</summary>
    public async Task<IReadOnlyList<IncidentRow>> Lessons(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await IncidentRow.Read(connection, null, "where i.lesson_text_id is not null order by i.at desc", new { });
    }

    /// <returns>Null when there is no such incident.</returns>
    public async Task<IncidentWhole?> Find(Guid id, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        if ((await IncidentRow.Read(connection, null, "where i.id = @id", new { id })).SingleOrDefault() is not { } incident)
            return null;
        var (known, holdFacts, rules) = await IncidentEvidence.Load(connection, null, incident);
        using var rows = await connection.QueryMultipleAsync(
            """
            select s.id, s.at, t.body as words, s.by, s.told_at from incidents.seen s left join ledger.text t on t.id = s.text_id
                where s.incident_id = @id order by coalesce(s.at, s.told_at), s.told_at;
            select person_id, part from incidents.involved where incident_id = @id order by part, person_id;
            select h.id, h.kind, h.target, h.reason, h.state, h.set_by, h.set_at, h.ended_by, h.ended_at,
                coalesce(e.body, t.body) as words
                from incidents.hold h left join ledger.text t on t.id = h.text_id left join ledger.text e on e.id = h.end_text_id
                where h.incident_id = @id order by h.set_at, h.kind;
            select code from incidents.cause where incident_id = @id order by code;
            select a.id, t.body as text, a.owner_id, a.due, s.body as shows_by, a.link, a.ended_at, a.done, e.body as end_words
                from incidents.action a left join ledger.text t on t.id = a.text_id left join ledger.text s on s.id = a.shows_text_id
                    left join ledger.text e on e.id = a.end_text_id
                where a.incident_id = @id order by a.due, a.set_at;
            select id, media_type, width, height, length(bytes) as length, at from incidents.photo where incident_id = @id order by at, id;
            select id, person_id, body, kept_until, at from incidents.injury where incident_id = @id order by at;
            select r.id, r.number, r.person_id, lower(r.during) as start, upper(r.during) as "end", t.body as settings,
                b.decision_id as decision, d.outcome, r.codes
                from run.log r left join ledger.text t on t.id = r.text_id left join booking.booking b on b.id = r.booking_id
                    left join gate.decision d on d.id = b.decision_id
                where r.id = @RunId;
            select name from materials.material where id = @MaterialId;
            select count(*)::int from booking.booking where machine_id = @MachineId and at_risk_since is not null
                and cancelled_at is null and upper(during) > @now;
            """,
            new
            {
                id,
                now,
                incident.RunId,
                incident.MaterialId,
                incident.MachineId,
            }
        );
        var seen = (await rows.ReadAsync<SeenNow>()).ToList();
        var involved = (await rows.ReadAsync<InvolvedNow>()).ToList();
        var holds = (await rows.ReadAsync<HoldNow>()).ToList();
        var causes = (await rows.ReadAsync<string>()).ToList();
        var actions = (await rows.ReadAsync<ActionNow>()).ToList();
        var photos = (await rows.ReadAsync<PhotoNow>()).ToList();
        var injuries = (await rows.ReadAsync<InjuryNow>()).ToList();
        var run = await rows.ReadSingleOrDefaultAsync<RunOfIncident>();
        var material = await rows.ReadSingleOrDefaultAsync<string>();
        var atRisk = await rows.ReadSingleAsync<int>();
        return new IncidentWhole(
            Incident: incident,
            Seen: seen,
            Involved: involved,
            Holds: holds,
            Proposed: incident.CarriedOver
                ? []
                :
                [
                    .. IncidentHolds
                        .Propose(holdFacts)
                        .Where(p => !holds.Any(h => h.Kind == IncidentAct.Word(p.Kind) && h.Target == p.Target)),
                ],
            Causes: causes,
            ProposedCauses: incident.CarriedOver
                ? []
                : Core.Incidents.Causes.Propose(incident.What, known, incident.Facts, rules.HotPassFactor),
            Actions: actions,
            Photos: photos,
            Injuries: injuries,
            Watch: await FireWatchStore.Of(connection, null, id),
            Closing: await InvestigationStore.ClosingOf(connection, null, incident, now),
            Run: run,
            MaterialName: material,
            AtRisk: atRisk
        );
    }

    /// <summary>Whether somebody was part of it, or is who watches after it.</summary>
    /// <returns>Null when there is no such incident.</returns>
    public async Task<bool?> IsPartOf(Guid id, PersonId person, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteScalarAsync<bool?>(
            new CommandDefinition(
                """
                select exists (select from incidents.involved v where v.incident_id = i.id and v.person_id = @person)
                    or exists (select from incidents.fire_watch w where w.incident_id = i.id and w.person_id = @person)
                from incidents.incident i where i.id = @id
                """,
                new { id, person },
                cancellationToken: cancel
            )
        );
    }
}

/// <param name="HoldsSet">That stand; <paramref name="HoldsEnded"/> that stood.</param>
public sealed record IncidentLine(IncidentRow Incident, IReadOnlyList<string> Causes, int HoldsSet, int HoldsEnded);
