using VelvetGate.Store.Db;

namespace VelvetGate.Store.Materials;

/// <summary>Rulings that are proposed, asked for, or to be looked at again.</summary>
public sealed class MaterialTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [
        TaskSql.Of(
            "rulingProposed",
            "r.material_id",
            "r.holds_from",
            $"""
            materials.proposal r join people.person p on p.id = r.proposed_by where r.state = 'waiting' and {TaskSql.Everybody}
            """,
            person: true,
            material: "r.material_id"
        ),
        TaskSql.Of(
            "rulingRequested",
            "r.id",
            "r.at",
            $"""
            materials.request r join people.person p on p.id = r.person_id where r.state = 'waiting' and {TaskSql.Everybody}
            """,
            person: true,
            title: "r.name"
        ),
        TaskSql.Of(
            "rulingReview",
            "o.material_id",
            "null",
            $"""
            (select r.material_id, min(r.review_by) as review_by from materials.ruling r
                where r.review_by < @Today and r.held @> @Now and upper_inf(r.recorded) and {TaskSql.Everybody} group by 1) o
            """,
            material: "o.material_id",
            title: "o.review_by"
        ),
    ];
}
