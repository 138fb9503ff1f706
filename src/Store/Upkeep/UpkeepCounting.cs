using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Upkeep;

/// <summary>Who looks after a machine, and what became due on it.</summary>
internal static class UpkeepCounting
{
    private const string Hours = "extract(epoch from upper(r.during) - lower(r.during)) / 3600.0";

    /// <summary>Runs of a machine since some moment, with the hours of each kind of stock.</summary>
    /// <param name="since">An expression; <c>r</c> is the run.</param>
    public static string Sums(string machine, string since) =>
        $"""
            select count(*)::int as runs,
                coalesce(sum({Hours}) filter (where not m.heavy_residue), 0) as plain,
                coalesce(sum({Hours}) filter (where m.heavy_residue), 0) as heavy
            from run.log r join materials.material m on m.id = r.material_id
            where r.machine_id = {machine} and upper(r.during) > {since}
            """;

    /// <param name="machine">Null for the workshop room.</param>
    public static Task<UpkeepHands> Hands(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        PersonId person,
        MachineId? machine,
        Instant now
    ) =>
        connection.QuerySingleAsync<UpkeepHands>(
            """
            select exists (select from training.certificate c where c.person_id = @person and c.held @> @now and upper_inf(c.recorded)
                    and (@machine::text is null or c.authority = @machine)) as runs,
                exists (select from people.acting a where a.person_id = @person and a.held @> @now and upper_inf(a.recorded)
                    and (a.role = 'steward' or (a.role = 'trainer' and (@machine::text is null or a.machine_id = @machine)))) as trains,
                exists (select from people.acting a where a.person_id = @person and a.held @> @now and upper_inf(a.recorded)
                    and a.role = 'repair' and (@machine::text is null or a.machine_id = @machine)) as repairs
            """,
            new
            {
                person,
                machine,
                now,
            },
            transaction
        );

    private sealed record Counted(
        long RowId,
        string Id,
        string Plan,
        Instant? DueFrom,
        Instant? OverdueFrom,
        int Runs,
        decimal Plain,
        decimal Heavy
    );

    /// <summary>After a run: the tasks whose counter has reached its limit are due from now on.</summary>
    public static async Task Ran(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineId machine, Instant now)
    {
        var tasks = await connection.QueryAsync<Counted>(
            $"""
            select t.row_id, t.id, t.plan::text as plan, t.due_from, t.overdue_from, u.runs, u.plain, u.heavy
            from upkeep.task t cross join lateral ({Sums("t.machine_id", "t.since")}) u
            where t.machine_id = @machine and t.held @> @now and upper_inf(t.recorded) and t.overdue_from is null
                and t.plan ->> 'counter' in ('runs', 'laserHours', 'weightedHours')
            order by t.id for update of t
            """,
            new { machine, now },
            transaction
        );
        decimal? weight = null;
        foreach (var task in tasks)
        {
            var plan = GateJson.Read<UpkeepPlan>(task.Plan);
            weight ??= await Weight(connection, transaction, now);
            var used = new RunSums(task.Runs, task.Plain, task.Heavy).By(plan.Counter, weight.Value);
            if (used < plan.Limit || (task.DueFrom is not null && used < plan.Overdue))
                continue;
            await Mark(connection, transaction, task.RowId, task.DueFrom ?? now, used >= plan.Overdue ? now : null, now);
            await Tell(connection, transaction, machine, task.Id, "use", now);
        }
    }

    /// <summary>Somebody saw a sign of it: what is about that part of the machine is due at once.</summary>
    public static async Task Due(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machine,
        UpkeepPart part,
        Instant now
    )
    {
        var tasks = await connection.QueryAsync<(long RowId, string Id, Instant? OverdueFrom)>(
            """
            select row_id, id, overdue_from from upkeep.task where machine_id = @machine and held @> @now and upper_inf(recorded)
                and plan ->> 'part' = @part and (due_from is null or due_from > @now) order by id for update
            """,
            new
            {
                machine,
                now,
                part = Word(part),
            },
            transaction
        );
        foreach (var task in tasks)
        {
            await Mark(connection, transaction, task.RowId, now, task.OverdueFrom, now);
            await Tell(connection, transaction, machine, task.Id, "fault", now);
        }
    }

    /// <summary>How often an hour counts on stock that leaves heavy residue, as the house has it.</summary>
    public static async Task<decimal> Weight(NpgsqlConnection connection, NpgsqlTransaction? transaction, Instant now)
    {
        var body = await connection.ExecuteScalarAsync<string?>(
            "select body::text from house.rules where held @> @now and upper_inf(recorded)",
            new { now },
            transaction
        );
        return body is null ? HouseRules.UsualResidueWeight : GateJson.Read<HouseRules>(body).ResidueWeight;
    }

    public static string Word<T>(T value)
        where T : struct, Enum => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(value.ToString());

    private static Task Mark(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        long rowId,
        Instant due,
        Instant? overdue,
        Instant now
    ) =>
        connection.ExecuteAsync(
            $"""
            with closed as (update upkeep.task set {Dated.Closed} where row_id = @rowId returning *)
            insert into upkeep.task (id, machine_id, name, plan, since, due_from, overdue_from, held, recorded)
            select id, machine_id, name, plan, since, @due::timestamptz, @overdue::timestamptz, held,
                tstzrange(greatest(@now, lower(recorded)), null) from closed
            """,
            new
            {
                rowId,
                due,
                overdue,
                now,
            },
            transaction
        );

    private static Task Tell(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machine,
        string task,
        string by,
        Instant now
    ) =>
        LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.UpkeepDue,
            new
            {
                machine,
                task,
                because = by,
            }
        );
}
