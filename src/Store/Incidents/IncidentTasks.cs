using VelvetGate.Store.Db;

namespace VelvetGate.Store.Incidents;

/// <summary>Incidents that are open, watches that run, actions that are late, machines to look at.</summary>
public sealed class IncidentTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [
        TaskSql.Of(
            "incidentOpen",
            "i.id",
            "i.at",
            $"incidents.incident i where i.closed_at is null and {TaskSql.Everybody}",
            machine: "i.machine_id",
            title: "i.number",
            details: "i.what",
            body: """
            jsonb_build_object('severity', i.severity, 'watch', i.what in ('flame', 'glow')
                and i.reported_at - i.at < interval '12 hours'
                and not exists (select from incidents.fire_watch w where w.incident_id = i.id),
                'causeless', not exists (select from incidents.cause c where c.incident_id = i.id and c.code <> 'open')
                    and i.causes_text_id is null)
            """
        ),
        TaskSql.Of(
            "fireWatchRunning",
            "w.incident_id",
            """
            (w.began + interval '1 minute' * coalesce((select min(m) from unnest(array[0, 10, 20, 30, 45, 60, w.minutes]) m
                where m <= w.minutes and m > coalesce((select max(l.minute) from incidents.look l
                    where l.incident_id = w.incident_id), -1)), w.minutes))
            """,
            $"""
            incidents.fire_watch w join incidents.incident i on i.id = w.incident_id join people.person p on p.id = w.person_id
                where not exists (select from incidents.look l where l.incident_id = w.incident_id and l.minute = w.minutes)
                    and {TaskSql.Mine("w.person_id")}
            """,
            person: true,
            machine: "i.machine_id",
            title: "i.number"
        ),
        TaskSql.Of(
            "incidentActionLate",
            "a.incident_id",
            "a.due::timestamptz",
            $"""
            incidents.action a join incidents.incident i on i.id = a.incident_id join people.person p on p.id = a.owner_id
                left join ledger.text t on t.id = a.text_id
                where a.ended_at is null and (a.due < @Today or @Person::text is not null) and {TaskSql.Mine("a.owner_id")}
            """,
            person: true,
            title: "i.number",
            details: "t.body",
            body: "to_json(a.due)"
        ),
        TaskSql.Of(
            "lookAsked",
            "l.machine_id",
            "lower(l.held)",
            $"incidents.look_asked l where l.held @> @Now and upper_inf(l.recorded) and {TaskSql.Everybody}",
            machine: "l.machine_id"
        ),
        TaskSql.Of(
            "roomShut",
            "r.incident_id",
            "lower(r.held)",
            $"""
            incidents.room_shut r join incidents.incident i on i.id = r.incident_id
                where r.held @> @Now and upper_inf(r.recorded) and {TaskSql.Everybody}
            """,
            title: "i.number"
        ),
    ];
}
