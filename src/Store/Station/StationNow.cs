using NodaTime;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.Station;

/// <summary>How a machine stands now, to whoever watches the room.</summary>
/// <param name="Session">Open at it; null where nobody is tapped in.</param>
/// <param name="Live">What its controller says; null without one.</param>
/// <param name="LeftOpen">What the session before left undone.</param>
public sealed record StationNow(
    MachineId MachineId,
    StationSession? Session,
    MachineLive? Live,
    string? GivenName,
    string? FamilyName,
    LocalDate? BirthDate,
    IReadOnlyList<string> LeftOpen
);

internal sealed record StationNowRow(
    MachineId MachineId,
    string? Session,
    string? Live,
    string? GivenName,
    string? FamilyName,
    LocalDate? BirthDate,
    string? Last
)
{
    internal static readonly Query<StationNowRow> All = new(
        """
        select m.id as machine_id, s.body::text as session, case when c.serial is not null
                then coalesce(c.live, jsonb_build_object('serial', c.serial))::text end as live,
            p.given_name, p.family_name, p.birth_date, l.body::text as last
        from house.machine m
            left join station.session s on s.machine_id = m.id and s.ended_at is null
            left join station.controller c on c.machine_id = m.id and c.revoked_at is null
            left join people.person p on p.id = s.person_id
            left join lateral (select body from station.session e where e.machine_id = m.id and e.ended_at is not null
                order by e.ended_at desc limit 1) l on true
        where s.id is not null or c.serial is not null or l.body is not null
        """
    );

    internal StationNow Read() =>
        new(
            MachineId: MachineId,
            Session: Session is null ? null : GateJson.Read<StationSession>(Session),
            Live: Live is null ? null : GateJson.Read<MachineLive>(Live),
            GivenName: GivenName,
            FamilyName: FamilyName,
            BirthDate: BirthDate,
            LeftOpen: Last is null ? [] : GateJson.Read<StationSession>(Last).LeftOpen
        );
}
