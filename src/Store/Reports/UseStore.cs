using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Reports;
using VelvetGate.Store.Settings;

namespace VelvetGate.Store.Reports;

/// <param name="People">How many different people.</param>
public sealed record RefusedCode(string Code, int Count, int People);

/// <summary>What stood in the calendar of some weeks, and what was refused.</summary>
/// <param name="Ratios">Estimated over actual length of the newest runs.</param>
/// <param name="WaitingHours">From beginning to wait to the start of the time that was taken.</param>
public sealed record UseRows(
    IReadOnlyList<UsedTime> Bookings,
    IReadOnlyList<ClosedTime> Closed,
    IReadOnlyList<RefusedCode> Refused,
    IReadOnlyList<double> Ratios,
    IReadOnlyList<double> WaitingHours
);

/// <summary>How machine time was used, read for figures and for playing it again.</summary>
public sealed class UseStore(NpgsqlDataSource db)
{
    /// <summary>Runs are read with all that their decision rested on: the newest of them say enough.</summary>
    private const int MostRuns = 300;

    private sealed record BookingRow(
        PersonId PersonId,
        MachineId MachineId,
        Instant Start,
        Instant End,
        Instant AskedAt,
        bool Cancelled,
        bool NoShow,
        Instant? Came,
        Instant? Left
    );

    private sealed record AskedRow(
        PersonId PersonId,
        MachineId MachineId,
        Instant At,
        Instant Start,
        Instant End,
        bool Booked,
        Instant? FreedAt,
        bool NoShow,
        string[] Codes
    );

    // Times are asked for weeks ahead.
    private const string ClosedSql = """
        select lower(o.during), upper(o.during), p.machine_ids from house.occurrence o join house.plan p on p.id = o.plan_id
        where p.kind = 'closure' and upper_inf(o.recorded) and o.during && tstzrange(@Start, @End + interval '100 days') order by 1;
        """;

    /// <summary>What began within a span.</summary>
    public async Task<UseRows> Within(Interval span, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                $"""
                select b.person_id, b.machine_id, lower(b.during) as start, upper(b.during) as "end", coalesce(w.at, b.made_at) as asked_at,
                    b.cancelled_at is not null as cancelled, b.no_show, s.at as came, s.ended_at as left
                from booking.booking b
                left join booking.offer o on o.booking_id = b.id left join booking.waiting w on w.id = o.waiting_id
                left join lateral (select min(at) as at, max(ended_at) as ended_at from station.session where booking_id = b.id
                    having count(*) = count(ended_at)) s on true
                where b.during && tstzrange(@Start, @End) and lower(b.during) >= @Start and lower(b.during) < @End;
                {ClosedSql}
                select code, count(*)::int as count, count(distinct person_id)::int as people
                from booking.try, unnest(codes) code where at >= @Start and at < @End group by code order by 2 desc, 1;
                {PlannedRunRow.Columns}
                where r.during && tstzrange(@Start, @End) and r.outcome in ('clean', 'charred', 'notThrough')
                order by upper(r.during) desc limit @MostRuns;
                select extract(epoch from lower(b.during) - w.at) / 3600.0 from booking.waiting w
                    join booking.offer o on o.waiting_id = w.id and o.booking_id is not null join booking.booking b on b.id = o.booking_id
                where lower(b.during) >= @Start and lower(b.during) < @End;
                """,
                new
                {
                    span.Start,
                    span.End,
                    MostRuns,
                },
                cancellationToken: cancel
            )
        );
        var bookings = (await rows.ReadAsync<BookingRow>()).Select(b => new UsedTime(
            PersonId: b.PersonId,
            MachineId: b.MachineId,
            Start: b.Start,
            End: b.End,
            AskedAt: b.AskedAt,
            Cancelled: b.Cancelled,
            NoShow: b.NoShow,
            At: b is { Came: { } came, Left: { } left } && came < left ? new Interval(came, left) : default(Interval?)
        ));
        return new UseRows(
            Bookings: [.. bookings],
            Closed: Closed(await rows.ReadAsync<(Instant, Instant, string[])>()),
            Refused: [.. await rows.ReadAsync<RefusedCode>()],
            Ratios: [.. (await rows.ReadAsync<PlannedRunRow>()).Select(Ratio).OfType<double>()],
            WaitingHours: [.. await rows.ReadAsync<double>()]
        );
    }

    private sealed record RunRow(Instant Start, Instant End, string Outcome);

    /// <summary>Runs of a machine that ended within a span; the newest of them with what was planned for them.</summary>
    public async Task<IReadOnlyList<WeighedRun>> Runs(MachineId machine, Interval span, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                $"""
                select lower(r.during) as start, upper(r.during) as "end", r.outcome from run.log r
                    where r.machine_id = @machine and upper(r.during) >= @Start and upper(r.during) < @End;
                {PlannedRunRow.Columns}
                where r.machine_id = @machine and upper(r.during) >= @Start and upper(r.during) < @End
                    and r.outcome in ('clean', 'charred', 'notThrough')
                order by upper(r.during) desc limit @MostRuns;
                """,
                new
                {
                    machine,
                    span.Start,
                    span.End,
                    MostRuns,
                },
                cancellationToken: cancel
            )
        );
        var runs = (await rows.ReadAsync<RunRow>()).ToList();
        // A machine runs one job at a time: its runs are told apart by when they began.
        var ratios = (await rows.ReadAsync<PlannedRunRow>()).GroupBy(r => r.Start).ToDictionary(g => g.Key, g => Ratio(g.First()));
        return
        [
            .. runs.Select(r => new WeighedRun(
                Start: r.Start,
                End: r.End,
                Through: r.Outcome == "abandoned" ? null : r.Outcome != "notThrough",
                EstimateToActual: ratios.GetValueOrDefault(r.Start)
            )),
        ];
    }

    /// <summary>What was asked for within a span: bookings and refused tries, each with when.</summary>
    public async Task<(IReadOnlyList<AskedTime> Asked, IReadOnlyList<ClosedTime> Closed)> Asked(Interval span, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                $"""
                select person_id, machine_id, made_at as at, lower(during) as start, upper(during) as "end", true as booked,
                    cancelled_at as freed_at, no_show, array[]::text[] as codes from booking.booking
                    where made_at >= @Start and made_at < @End
                union all
                select person_id, machine_id, at, lower(during), upper(during), false, null, false, codes from booking.try
                    where at >= @Start and at < @End;
                {ClosedSql}
                """,
                new { span.Start, span.End },
                cancellationToken: cancel
            )
        );
        var asked = (await rows.ReadAsync<AskedRow>()).Select(a => new AskedTime(
            PersonId: a.PersonId,
            MachineId: a.MachineId,
            At: a.At,
            Start: a.Start,
            Minutes: (int)(a.End - a.Start).TotalMinutes,
            Booked: a.Booked,
            FreedAt: a.FreedAt,
            NoShow: a.NoShow,
            Codes: a.Codes
        ));
        return ([.. asked], Closed(await rows.ReadAsync<(Instant, Instant, string[])>()));
    }

    private static List<ClosedTime> Closed(IEnumerable<(Instant Start, Instant End, string[] MachineIds)> rows) =>
        [.. rows.Select(c => new ClosedTime(new Interval(c.Start, c.End), [.. c.MachineIds.Select(MachineId.From)]))];

    /// <summary>What was planned for a run over what it took; null where nobody planned it.</summary>
    private static double? Ratio(PlannedRunRow row)
    {
        var minutes = (row.End - row.Start).TotalMinutes;
        return minutes > 0 && row.Planned() is var (ask, item, facts) && JobLength.Planned(ask.Items[item], item, facts) is { } planned
            ? (double)planned / minutes
            : null;
    }
}
