using VelvetGate.Store.Db;

namespace VelvetGate.Store.People;

/// <summary>Appeals to hear, and mail that was given up.</summary>
public sealed class PeopleTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [
        TaskSql.Of(
            "appealWaiting",
            "c.person_id",
            "a.at",
            $"""
            people.appeal a join people.conduct c on c.id = a.conduct_id join people.person p on p.id = c.person_id
                where a.outcome is null and {TaskSql.Everybody}
            """,
            person: true
        ),
        TaskSql.Of(
            "mailUndelivered",
            "m.person_id",
            "m.mail_failed_at",
            $"""
            people.message m join people.person p on p.id = m.person_id
                where m.mail_failed_at > @MailSince and m.read_at is null and not p.erased and {TaskSql.Everybody}
            """,
            person: true,
            title: "m.title",
            details: "m.mail_failure"
        ),
    ];
}
