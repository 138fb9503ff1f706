using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Upkeep;

/// <summary>What was read at machines: by hand, and in runs by their controllers.</summary>
public sealed class ReadingStore(NpgsqlDataSource db)
{
    /// <returns>Refused where there is no such machine, or a value cannot be so.</returns>
    public Task<Result<bool>> Add(MachineId machine, HandReading reading, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await UpkeepStore.Spec(connection, transaction, machine) is not { } spec)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, $"machine as “{machine}”"), false);
                if (HandReadings.Wrong(spec, reading).FirstOrDefault() is { } refusal)
                    return (refusal, false);
                await Keep(connection, transaction, machine, reading, by, false, now);
                return (true, true);
            },
            cancel
        );

    /// <param name="baseline">Read after a service: what follows is held against it, too.</param>
    internal static async Task Keep(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machine,
        HandReading reading,
        PersonId by,
        bool baseline,
        Instant now
    )
    {
        await connection.ExecuteAsync(
            """
            insert into upkeep.reading (id, machine_id, at, by, airflow, coolant_c, room_c, baseline)
            values (gen_random_uuid(), @machine, @now, @by, @AirflowM3PerHour, @CoolantC, @RoomC, @baseline)
            """,
            new
            {
                machine,
                now,
                by,
                reading.AirflowM3PerHour,
                reading.CoolantC,
                reading.RoomC,
                baseline,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.MachineRead,
            new
            {
                machine,
                by = await LedgerStore.Number(connection, transaction, by),
                airflow = Core.Ledger.Chain.Number(reading.AirflowM3PerHour),
                coolant = Core.Ledger.Chain.Number(reading.CoolantC),
                room = Core.Ledger.Chain.Number(reading.RoomC),
                baseline,
            }
        );
    }

    /// <summary>
    /// What the controller read in a run: median and least airflow of its minutes. Bookings are looked at again only where the airflow
    /// came to stand on the other side of a limit.
    /// </summary>
    internal static async Task OfRun(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid run,
        MachineId machine,
        (Instant Start, Instant End) during,
        Instant now
    )
    {
        if (await UpkeepStore.Spec(connection, transaction, machine) is not { AirflowM3PerHour: > 0 } spec)
            return;
        var before = await LastAirflow(connection, transaction, machine);
        var added = await connection.QuerySingleOrDefaultAsync<decimal?>(
            """
            insert into upkeep.reading (id, machine_id, at, run_id, airflow, airflow_low)
            select gen_random_uuid(), @machine, @end, @run,
                round(percentile_cont(0.5) within group (order by airflow_sum / airflow_n)::numeric, 2), min(airflow_low)
            from station.reading where machine_id = @machine and airflow_n > 0
                and minute between date_trunc('minute', @start::timestamptz) and @end
            having count(*) > 0
            on conflict (run_id) do nothing returning airflow
            """,
            new
            {
                run,
                machine,
                start = during.Start,
                end = during.End,
            },
            transaction
        );
        if (added is { } airflow && Code(spec, airflow) != Code(spec, before))
            await LedgerStore.Append(
                connection,
                transaction,
                now,
                RecordEvents.MachineRead,
                new
                {
                    machine,
                    by = (int?)null,
                    airflow = Core.Ledger.Chain.Number(airflow),
                    coolant = (string?)null,
                    room = (string?)null,
                    baseline = false,
                }
            );
    }

    private static string? Code(MachineSpec machine, decimal? airflow) =>
        airflow is null ? null : ReadingRules.Of(machine, new LiveReadings(FanOn: true, AirflowM3PerHour: airflow))[0].Code;

    private static Task<decimal?> LastAirflow(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineId machine) =>
        connection.QuerySingleOrDefaultAsync<decimal?>(
            "select airflow from upkeep.reading where machine_id = @machine and airflow is not null order by at desc, number desc limit 1",
            new { machine },
            transaction
        );
}
