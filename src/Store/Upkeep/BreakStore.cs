using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Upkeep;

/// <summary>Machines that stood for long, looked at before their first run; and each time that interlocks were tried.</summary>
public sealed class BreakStore(NpgsqlDataSource db)
{
    /// <returns>Refused where something of it is not done, or whoever says so may not.</returns>
    public Task<Result<bool>> Check(MachineId machine, BreakCheck check, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await UpkeepStore.Spec(connection, transaction, machine) is not { } spec)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, $"machine as “{machine}”"), false);
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730043, hashtext(@machine))", new { machine }, transaction);
                var hands = await UpkeepCounting.Hands(connection, transaction, by, machine, now);
                var last = await connection.ExecuteScalarAsync<Instant?>(
                    "select max(at) from upkeep.after_break where machine_id = @machine",
                    new { machine },
                    transaction
                );
                if (AfterBreak.Wrong(check, spec, hands, last, now) is { } refusal)
                    return (refusal, false);
                await connection.ExecuteAsync(
                    "insert into upkeep.after_break (id, machine_id, at, by, checks) "
                        + "values (gen_random_uuid(), @machine, @now, @by, @checks::jsonb)",
                    new
                    {
                        machine,
                        now,
                        by,
                        checks = GateJson.Write(check),
                    },
                    transaction
                );
                await Tried(connection, transaction, machine, by, now);
                var read = new HandReading(check.AirflowM3PerHour, check.CoolantC, null);
                await ReadingStore.Keep(connection, transaction, machine, read, by, false, now);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.MachineAfterBreak,
                    new { machine, by = await LedgerStore.Number(connection, transaction, by) }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>End of the last run of each machine, and when it was last looked at after a break.</summary>
    public async Task<IReadOnlyDictionary<MachineId, (Instant? Ran, Instant? Looked)>> LastUse(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<(MachineId Machine, Instant? Ran, Instant? Looked)>(
            new CommandDefinition(
                """
                select m.id, (select max(upper(r.during)) from run.log r where r.machine_id = m.id and upper(r.during) <= @now) as ran,
                    (select max(b.at) from upkeep.after_break b where b.machine_id = m.id and b.at <= @now) as looked
                from house.machine m
                """,
                new { now },
                cancellationToken: cancel
            )
        );
        return rows.ToDictionary(r => r.Machine, r => (r.Ran, r.Looked));
    }

    /// <summary>Lid and stops were tried, and the beam was gone each time.</summary>
    internal static Task Tried(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineId machine, PersonId by, Instant now) =>
        connection.ExecuteAsync(
            "insert into upkeep.interlock_trial (id, machine_id, at, by) values (gen_random_uuid(), @machine, @now, @by)",
            new
            {
                machine,
                now,
                by,
            },
            transaction
        );
}
