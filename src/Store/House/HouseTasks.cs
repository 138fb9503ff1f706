using VelvetGate.Core.House;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.House;

/// <summary>Machines that are stopped, fire kit and papers that go out of date.</summary>
public sealed class HouseTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [
        TaskSql.Of(
            "machineStopped",
            "s.id",
            "lower(s.held)",
            $"""
            house.stop s left join ledger.text t on t.id = s.text_id
                where upper_inf(s.recorded) and s.held @> @Now and {TaskSql.Everybody}
            """,
            machine: "s.machine_id",
            details: "t.body"
        ),
        TaskSql.Of(
            "kitEnding",
            "k.id",
            "k.in_date_until",
            $"house.fire_kit k where k.held @> @Now and upper_inf(k.recorded) and k.in_date_until < @Soon and {TaskSql.Everybody}",
            title: "k.name"
        ),
        TaskSql.Of(
            "paperDue",
            "p.id",
            "p.next_day::timestamptz",
            $"""
            (select distinct on (kind, machine_id) * from house.paper order by kind, machine_id, on_day desc, recorded_at desc) p
                where p.next_day <= @Today + {Papers.TellDays} and {TaskSql.Everybody}
            """,
            machine: "p.machine_id",
            title: "p.kind",
            body: "to_json(p.next_day)"
        ),
    ];
}
