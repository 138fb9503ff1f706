using VelvetGate.Store.Db;

namespace VelvetGate.Store.Gate;

/// <summary>Requests that wait for a steward's answer.</summary>
public sealed class GateTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [
        TaskSql.Of(
            "askWaiting",
            "a.id",
            "lower(a.during)",
            $"""
            gate.ask a join people.person p on p.id = a.person_id join gate.decision d on d.id = a.decision_id
                left join ledger.text t on t.id = a.text_id
                where a.state = 'waiting' and lower(a.during) > @AnswerUntil and {TaskSql.Mine("a.person_id")}
            """,
            person: true,
            machine: "a.machine_id",
            details: "t.body",
            body: "d.ask"
        ),
    ];
}
