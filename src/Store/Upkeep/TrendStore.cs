using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Upkeep;

namespace VelvetGate.Store.Upkeep;

/// <summary>The warmest coolant of an hour, in °C.</summary>
public sealed record HourOfCoolant(Instant Hour, decimal High);

/// <summary>What was read at a machine over some time.</summary>
/// <param name="Baselines">Airflow after a service, in m³/h: all of them, however old.</param>
public sealed record MachineReadings(
    IReadOnlyList<AirflowRead> Airflow,
    IReadOnlyList<AirflowRead> Baselines,
    IReadOnlyList<HourOfCoolant> Coolant
);

/// <summary>Readings over weeks and years: where they are going, and what is kept of them.</summary>
public sealed class TrendStore(NpgsqlDataSource db)
{
    /// <summary>Minutes of readings are kept so long; then their hours, for ever.</summary>
    public static readonly Duration MinutesKept = Duration.FromDays(90);

    /// <summary>Cleaned, or serviced: what was read before says nothing of what comes.</summary>
    private const string Anew = """
        greatest((select max(d.at) from upkeep.done d where d.machine_id = h.id and d.after_m3h is not null and d.at <= @now),
            (select max(b.at) from upkeep.reading b where b.machine_id = h.id and b.baseline and b.at <= @now), @from)
        """;

    private sealed record Read(MachineId MachineId, Instant At, decimal Airflow, bool ByHand);

    /// <summary>Airflow of the last weeks, of each machine since it was last cleaned or serviced.</summary>
    public async Task<ILookup<MachineId, AirflowRead>> Lately(MachineId? machine, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Read>(
            new CommandDefinition(
                $"""
                select h.id as machine_id, r.at, r.airflow, r.by is not null as by_hand
                from house.machine h cross join lateral (select {Anew} as at) anew
                join upkeep.reading r on r.machine_id = h.id and r.airflow is not null and r.at >= anew.at and r.at <= @now
                where @machine::text is null or h.id = @machine
                order by r.at, r.number
                """,
                new
                {
                    machine,
                    now,
                    from = now - Duration.FromDays(AirflowTrend.Days),
                },
                cancellationToken: cancel
            )
        );
        return rows.ToLookup(r => r.MachineId, r => new AirflowRead(r.At, r.Airflow, r.ByHand));
    }

    public async Task<MachineReadings> Of(MachineId machine, Instant from, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                """
                select r.at, r.airflow as m3_per_hour, r.by is not null as by_hand from upkeep.reading r
                    where r.machine_id = @machine and r.airflow is not null and r.at >= @from and r.at <= @now order by r.at, r.number;
                select r.at, r.airflow as m3_per_hour, true as by_hand from upkeep.reading r
                    where r.machine_id = @machine and r.baseline and r.airflow is not null and r.at <= @now order by r.at;
                with coolant as (
                    select minute as at, coolant_high as high from station.reading
                        where machine_id = @machine and coolant_high is not null and minute >= @from and minute <= @now
                    union all
                    select hour, coolant_high from station.reading_hour
                        where machine_id = @machine and coolant_high is not null and hour >= @from and hour <= @now
                    union all
                    select at, coolant_c from upkeep.reading
                        where machine_id = @machine and coolant_c is not null and at >= @from and at <= @now)
                select date_bin('1 hour', at, 'epoch'::timestamptz) as hour, max(high) as high from coolant group by 1 order by 1;
                """,
                new
                {
                    machine,
                    from,
                    now,
                },
                cancellationToken: cancel
            )
        );
        return new(
            Airflow: [.. await rows.ReadAsync<AirflowRead>()],
            Baselines: [.. await rows.ReadAsync<AirflowRead>()],
            Coolant: [.. await rows.ReadAsync<HourOfCoolant>()]
        );
    }

    /// <summary>Old minutes become their hours, whole ones; by any number of instances at once.</summary>
    /// <returns>How many minutes went.</returns>
    public async Task<int> Thin(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteScalarAsync<int>(
            new CommandDefinition(
                """
                with gone as (
                    delete from station.reading
                    where minute < date_bin('1 hour', @before::timestamptz, 'epoch'::timestamptz) returning *),
                kept as (
                    insert into station.reading_hour as h
                        (machine_id, hour, readings, airflow_n, airflow_sum, airflow_low, coolant_n, coolant_sum, coolant_high)
                    select machine_id, date_bin('1 hour', minute, 'epoch'::timestamptz), sum(readings), sum(airflow_n), sum(airflow_sum),
                        min(airflow_low), sum(coolant_n), sum(coolant_sum), max(coolant_high)
                    from gone group by 1, 2
                    on conflict (machine_id, hour) do update set readings = h.readings + excluded.readings,
                        airflow_n = h.airflow_n + excluded.airflow_n, airflow_sum = h.airflow_sum + excluded.airflow_sum,
                        airflow_low = least(h.airflow_low, excluded.airflow_low),
                        coolant_n = h.coolant_n + excluded.coolant_n, coolant_sum = h.coolant_sum + excluded.coolant_sum,
                        coolant_high = greatest(h.coolant_high, excluded.coolant_high))
                select count(*)::int from gone
                """,
                new { before = now - MinutesKept },
                cancellationToken: cancel
            )
        );
    }
}
