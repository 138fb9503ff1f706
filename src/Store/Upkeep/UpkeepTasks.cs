using VelvetGate.Store.Db;

namespace VelvetGate.Store.Upkeep;

/// <summary>Upkeep that is overdue, and faults that somebody has to decide on.</summary>
public sealed class UpkeepTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [
        TaskSql.Of(
            "upkeepOverdue",
            "u.id",
            "u.overdue_from",
            $"upkeep.task u where u.held @> @Now and upper_inf(u.recorded) and u.overdue_from <= @Now and {TaskSql.Everybody}",
            machine: "u.machine_id",
            title: "u.name"
        ),
        TaskSql.Of(
            "faultOpen",
            "f.id",
            "f.at",
            $"""
            upkeep.fault f join upkeep.fault_state k on k.fault_id = f.id and upper_inf(k.held) and upper_inf(k.recorded)
                left join ledger.text t on t.id = f.text_id
                where f.closed_at is null and k.standing <> 'none' and {TaskSql.Everybody}
            """,
            machine: "f.machine_id",
            title: "f.symptom",
            details: "k.standing"
        ),
        TaskSql.Of(
            "kitWrong",
            "k.id",
            "k.wrong_since",
            $"house.fire_kit k where k.held @> @Now and upper_inf(k.recorded) and k.wrong <> '{{}}' and {TaskSql.Everybody}",
            title: "k.name",
            details: "array_to_string(k.wrong, ',')"
        ),
        TaskSql.Of(
            "consumableLow",
            "c.id",
            "c.since",
            $"""
            (select c.id, c.name, c.unit, c.reorder, coalesce(sum(s.change), 0) as stock, max(s.at) as since
                from upkeep.consumable c left join upkeep.stock s on s.consumable_id = c.id where c.ended_at is null group by c.id) c
                where c.stock <= c.reorder and {TaskSql.Everybody}
            """,
            title: "c.name || ', ' || c.unit",
            details: "trim_scale(c.stock)"
        ),
    ];
}
