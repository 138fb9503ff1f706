using VelvetGate.Store.Db;

namespace VelvetGate.Store.Training;

/// <summary>Certificates that end soon or are under review, first authorities that nobody has confirmed.</summary>
public sealed class TrainingTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [
        TaskSql.Of(
            "certificateLapsing",
            "c.person_id",
            "upper(c.held)",
            $"""
            training.certificate c join people.person p on p.id = c.person_id
                where upper_inf(c.recorded) and upper(c.held) > @Now and upper(c.held) <= @Soon and lower(c.held) <= @Now and not p.erased
                    and {TaskSql.Mine("c.person_id")}
                    and not exists (select from training.certificate n where n.person_id = c.person_id and n.authority = c.authority
                        and n.id <> c.id and upper_inf(n.recorded) and (upper_inf(n.held) or upper(n.held) > upper(c.held)) offset 0)
            """,
            person: true,
            title: "c.authority"
        ),
        TaskSql.Of(
            "foundingUnconfirmed",
            "f.id",
            "f.ends",
            $"""
            people.founding f join people.person p on p.id = f.person_id
                where f.ends > @Now and f.confirmed_at is null and {TaskSql.Everybody}
            """,
            person: true,
            machine: "f.machine_id"
        ),
        TaskSql.Of(
            "certificateReview",
            "h.id",
            "lower(h.held)",
            $"""
            training.certificate_hold h
                where h.kind = 'review' and upper_inf(h.recorded) and h.held @> @Now and {TaskSql.Everybody}
            """
        ),
    ];
}
