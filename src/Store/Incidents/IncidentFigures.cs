using Dapper;
using NodaTime;
using Npgsql;

namespace VelvetGate.Store.Incidents;

/// <summary>What happened in a time.</summary>
/// <param name="Hours">With the beam on, from logged runs; null where none was logged.</param>
/// <param name="Cost">Sum of what is known of it; null where nothing is.</param>
/// <param name="ToHold">From the event to the first hold, in minutes, for those that had one; so too to the first word of the
/// record and to closing.</param>
public sealed record FiguresOf(
    int Incidents,
    int NearMisses,
    double? Hours,
    decimal? Cost,
    IReadOnlyList<CauseCount> Causes,
    IReadOnlyList<SeverityCount> Severities,
    double? ToHold,
    double? ToWord,
    double? ToClosing
);

public sealed record CauseCount(string Code, int Count);

public sealed record SeverityCount(int Severity, int Count);

/// <summary>Of one month, for the pictures.</summary>
public sealed record MonthCount(LocalDate Month, int Incidents, int NearMisses, double? Hours);

/// <summary>Counts for rates: incidents and near misses apart, and the hours behind them.</summary>
public sealed class IncidentFigures(NpgsqlDataSource db)
{
    private const string Where = """
        i.at >= @from and i.at < @until and (@machine::text is null or i.machine_id = @machine)
            and (@cause::text is null or exists (select from incidents.cause c where c.incident_id = i.id and c.code = @cause))
        """;

    /// <summary>From one instant until another; near misses by the days of them.</summary>
    public async Task<FiguresOf> Of(DaySpan period, MachineId? machine, string? cause, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var asked = new
        {
            from = period.From,
            until = period.Until,
            firstDay = period.FirstDay.ToString("uuuu-MM-dd", null),
            lastDay = period.LastDay.PlusDays(1).ToString("uuuu-MM-dd", null),
            machine,
            cause,
        };
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                $"""
                select count(*)::int as incidents, sum(i.cost) as cost,
                    percentile_cont(0.5) within group (order by extract(epoch from (select min(h.set_at) from incidents.hold h
                        where h.incident_id = i.id and h.state <> 'refused') - i.at) / 60) as to_hold,
                    percentile_cont(0.5) within group (order by extract(epoch from i.reported_at - i.at) / 60)
                        filter (where not i.carried_over) as to_word,
                    percentile_cont(0.5) within group (order by extract(epoch from i.closed_at - i.at) / 60)
                        filter (where not i.carried_over) as to_closing
                    from incidents.incident i where {Where};
                select c.code, count(*)::int as count from incidents.cause c join incidents.incident i on i.id = c.incident_id
                    where {Where} group by c.code order by 2 desc, 1;
                select i.severity::int as severity, count(*)::int as count from incidents.incident i where {Where} group by 1 order by 1;
                select count(*)::int from incidents.near_miss where half_day >= @firstDay and half_day < @lastDay
                    and (@machine::text is null or machine_id = @machine);
                select sum(extract(epoch from least(upper(during), @until) - greatest(lower(during), @from)) / 3600)::float8 from run.log
                    where during && tstzrange(@from, @until) and (@machine::text is null or machine_id = @machine);
                """,
                asked,
                cancellationToken: cancel
            )
        );
        var head = await rows.ReadSingleAsync<Head>();
        var causes = (await rows.ReadAsync<CauseCount>()).ToList();
        var severities = (await rows.ReadAsync<SeverityCount>()).ToList();
        var nearMisses = await rows.ReadSingleAsync<int>();
        var hours = await rows.ReadSingleAsync<double?>();
        return new FiguresOf(
            Incidents: head.Incidents,
            NearMisses: nearMisses,
            Hours: hours is > 0 ? hours : null,
            Cost: head.Cost,
            Causes: causes,
            Severities: severities,
            ToHold: head.ToHold,
            ToWord: head.ToWord,
            ToClosing: head.ToClosing
        );
    }

    /// <summary>The same counts month by month, oldest first.</summary>
    public async Task<IReadOnlyList<MonthCount>> Months(
        IReadOnlyList<DaySpan> months,
        MachineId? machine,
        string? cause,
        CancellationToken cancel
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<MonthCount>(
                new CommandDefinition(
                    """
                    select m.first as month,
                        (select count(*)::int from incidents.incident i where i.at >= m.begins and i.at < m.ends
                            and (@machine::text is null or i.machine_id = @machine)
                            and (@cause::text is null or exists (select from incidents.cause c where c.incident_id = i.id
                                and c.code = @cause))) as incidents,
                        (select count(*)::int from incidents.near_miss n where n.half_day >= m.first::text
                            and n.half_day < m.next::text and (@machine::text is null or n.machine_id = @machine)) as near_misses,
                        (select sum(extract(epoch from least(upper(r.during), m.ends) - greatest(lower(r.during), m.begins)) / 3600)::float8
                            from run.log r where r.during && tstzrange(m.begins, m.ends)
                                and (@machine::text is null or r.machine_id = @machine)) as hours
                    from unnest(@firsts, @nexts, @begins, @ends) m (first, next, begins, ends) order by m.first
                    """,
                    new
                    {
                        firsts = months.Select(m => m.FirstDay).ToArray(),
                        nexts = months.Select(m => m.LastDay.PlusDays(1)).ToArray(),
                        begins = months.Select(m => m.From).ToArray(),
                        ends = months.Select(m => m.Until).ToArray(),
                        machine,
                        cause,
                    },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    private sealed record Head(int Incidents, decimal? Cost, double? ToHold, double? ToWord, double? ToClosing);
}

/// <summary>Days of the house, and the instants they begin and end.</summary>
public sealed record DaySpan(LocalDate FirstDay, LocalDate LastDay, Instant From, Instant Until)
{
    public static DaySpan Of(LocalDate first, LocalDate last, HouseClock clock) =>
        new(first, last, clock.Day(first).Start, clock.Day(last).End);
}
