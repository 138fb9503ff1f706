using VelvetGate.Store.Db;

namespace VelvetGate.Store.Booking;

/// <summary>Bookings that are not open any more or that nobody came to; fixtures that are not back or not in order.</summary>
public sealed class BookingTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [
        TaskSql.Of(
            "bookingAtRisk",
            "b.id",
            "lower(b.during)",
            $"""
            booking.booking b join people.person p on p.id = b.person_id
                where b.at_risk_since is not null and b.cancelled_at is null and upper(b.during) > @Now and {TaskSql.Mine("b.person_id")}
            """,
            person: true,
            machine: "b.machine_id",
            body: "b.at_risk"
        ),
        TaskSql.Of(
            "noShow",
            "b.id",
            "lower(b.during)",
            $"""
            booking.booking b join people.person p on p.id = b.person_id
                where b.cancelled_at is null and b.arrived_at is null and b.during @> @Now and lower(b.during) <= @Late
                    and {TaskSql.Everybody}
            """,
            person: true,
            machine: "b.machine_id"
        ),
        TaskSql.Of(
            "fixtureOverdue",
            "o.id",
            "o.due",
            $"""
            house.fixture_out o join people.person p on p.id = o.person_id
                where o.back_at is null and o.due <= @Now and {TaskSql.Mine("o.person_id")}
            """,
            person: true,
            title: "o.fixture"
        ),
        TaskSql.Of(
            "fixtureDamaged",
            "o.id",
            "o.back_at",
            $"""
            house.fixture_out o left join ledger.text t on t.id = o.text_id
                where o.damaged and o.right_at is null and {TaskSql.Everybody}
            """,
            title: "o.fixture",
            details: "t.body"
        ),
    ];
}
