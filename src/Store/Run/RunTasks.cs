using VelvetGate.Store.Db;

namespace VelvetGate.Store.Run;

/// <summary>Runs that a steward has to look at.</summary>
public sealed class RunTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [
        TaskSql.Of(
            "runToLook",
            "r.id",
            "upper(r.during)",
            $"""
            run.log r join people.person p on p.id = r.person_id where r.wants_look and r.looked_at is null and {TaskSql.Everybody}
            """,
            person: true,
            machine: "r.machine_id",
            title: "r.outcome",
            body: "to_json(r.codes)"
        ),
    ];
}
