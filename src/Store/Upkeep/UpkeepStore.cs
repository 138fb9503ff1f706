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

/// <summary>A task of upkeep as it stands now.</summary>
/// <param name="Version">Of what is known of it: another one was written by somebody since.</param>
/// <param name="MachineId">Null for the workshop room.</param>
/// <param name="Who">Who does it, in the house’s school of practice.</param>
/// <param name="Airflow">Last read, in m³/h; null where nobody did.</param>
public sealed record UpkeepTask(
    string Id,
    long Version,
    MachineId? MachineId,
    UpkeepPlan Plan,
    UpkeepWho Who,
    Instant Since,
    UpkeepStand Stand,
    decimal? Airflow
);

/// <summary>That a task was done.</summary>
/// <param name="Before">Airflow before the work in m³/h; null for other tasks.</param>
/// <param name="Used">What it used up; null for nothing.</param>
public sealed record UpkeepWork(decimal? Reading, decimal? Before, string? Note, IReadOnlyList<StockUsed>? Used = null);

/// <summary>One time that a task was done.</summary>
public sealed record UpkeepDoneRow(Guid Id, Instant At, PersonId By, decimal? Used, decimal? BeforeM3h, decimal? AfterM3h, string? Note);

/// <summary>Upkeep of machines and room: what is due when, that it was done, and what the house wants done.</summary>
public sealed class UpkeepStore(NpgsqlDataSource db)
{
    private sealed record Row(
        string Id,
        long RowId,
        MachineId? MachineId,
        string Plan,
        Instant Since,
        Instant? DueFrom,
        Instant? OverdueFrom,
        int Runs,
        decimal Plain,
        decimal Heavy,
        int LatelyRuns,
        decimal LatelyPlain,
        decimal LatelyHeavy,
        decimal StoppedDays,
        decimal? Airflow,
        decimal? Commissioned,
        bool CoversMarked
    );

    private static string Sql(string which) =>
        $"""
            with lately as (
                select h.id as machine_id, u.*, coalesce((select sum(extract(epoch from upper(x) - lower(x))) / 86400.0
                    from unnest((select range_agg(s.held * tstzrange(@from, @now)) from house.stop s
                        where s.machine_id = h.id and upper_inf(s.recorded) and s.held && tstzrange(@from, @now))) x), 0) as stopped
                from house.machine h cross join lateral ({UpkeepCounting.Sums("h.id", "@from")}) u)
            select t.id, t.row_id, t.machine_id, t.plan::text as plan, t.since, t.due_from, t.overdue_from,
                coalesce(u.runs, 0) as runs, coalesce(u.plain, 0) as plain, coalesce(u.heavy, 0) as heavy,
                coalesce(l.runs, 0) as lately_runs, coalesce(l.plain, 0) as lately_plain, coalesce(l.heavy, 0) as lately_heavy,
                coalesce(l.stopped, 0) as stopped_days,
                (select a.airflow from upkeep.reading a where a.machine_id = t.machine_id and a.airflow is not null and a.at <= @now
                    order by a.at desc, a.number desc limit 1) as airflow,
                (select (h.spec ->> 'airflowM3PerHour')::numeric from house.machine h where h.id = t.machine_id) as commissioned,
                coalesce((select (h.spec -> 'station' ->> 'mirrorCoversMarked')::boolean from house.machine h
                    where h.id = t.machine_id), false) as covers_marked
            from upkeep.task t
            left join lateral ({UpkeepCounting.Sums("t.machine_id", "t.since")}) u
                on t.plan ->> 'counter' in ('runs', 'laserHours', 'weightedHours')
            left join lately l on l.machine_id = t.machine_id
            where t.held @> @now and upper_inf(t.recorded) and {which}
            """;

    /// <param name="machine">Null for all of them, and the room’s.</param>
    public async Task<IReadOnlyList<UpkeepTask>> All(MachineId? machine, HouseRules rules, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Read(connection, null, "(@machine::text is null or t.machine_id = @machine)", new { machine, id = "" }, rules, now);
    }

    private static async Task<IReadOnlyList<UpkeepTask>> Read(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        string which,
        object parameters,
        HouseRules rules,
        Instant now
    )
    {
        var values = new DynamicParameters(parameters);
        values.Add("now", now);
        values.Add("from", now - Duration.FromDays(UpkeepUse.ForecastDays));
        var rows = await connection.QueryAsync<Row>(Sql(which), values, transaction);
        return [.. rows.Select(r => Of(r, rules, now))];
    }

    private static UpkeepTask Of(Row r, HouseRules rules, Instant now)
    {
        var plan = GateJson.Read<UpkeepPlan>(r.Plan);
        var stand = UpkeepUse.Of(
            plan: plan,
            since: r.Since,
            use: new RunSums(r.Runs, r.Plain, r.Heavy),
            lately: (new RunSums(r.LatelyRuns, r.LatelyPlain, r.LatelyHeavy), UpkeepUse.ForecastDays - r.StoppedDays),
            marked: (r.DueFrom, r.OverdueFrom),
            airflowPercent: r is { Airflow: { } read, Commissioned: > 0 and { } whole } ? read / whole * 100 : null,
            residueWeight: rules.ResidueWeight,
            clock: rules.Clock,
            now: now
        );
        return new(
            Id: r.Id,
            Version: r.RowId,
            MachineId: r.MachineId,
            Plan: plan,
            Who: plan.WhoFor(rules.MemberUpkeep, r.CoversMarked),
            Since: r.Since,
            Stand: stand,
            Airflow: plan.Counter == UpkeepCounter.Airflow ? r.Airflow : null
        );
    }

    /// <summary>What somebody is to each of these machines; the room’s stands under the empty name.</summary>
    public async Task<IReadOnlyDictionary<string, UpkeepHands>> HandsOf(
        PersonId person,
        IReadOnlyCollection<MachineId?> machines,
        Instant now,
        CancellationToken cancel
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var hands = new Dictionary<string, UpkeepHands>();
        foreach (var machine in machines)
            hands[machine?.Value ?? ""] = await UpkeepCounting.Hands(connection, null, person, machine, now);
        return hands;
    }

    /// <summary>The last times that a task was done, newest first.</summary>
    public async Task<IReadOnlyList<UpkeepDoneRow>> Done(string id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<UpkeepDoneRow>(
                new CommandDefinition(
                    """
                    select d.id, d.at, d.by, d.used, d.before_m3h, d.after_m3h, x.body as note from upkeep.done d
                        left join ledger.text x on x.id = d.text_id where d.task_id = @id order by d.at desc limit 20
                    """,
                    new { id },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>Writes down that a task was done: its counter begins anew.</summary>
    public Task<Result<UpkeepTask>> Done(
        string id,
        UpkeepWork work,
        PersonId by,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var done = await Done(connection, transaction, id, work, by, rules, now);
                return (done, done.IsOk);
            },
            cancel
        );

    internal static async Task<Result<UpkeepTask>> Done(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string id,
        UpkeepWork work,
        PersonId by,
        HouseRules rules,
        Instant now
    )
    {
        await Lock(connection, transaction, id);
        if (await One(connection, transaction, id, rules, now) is not { } task)
            return CommonProblems.NotFound.Refuse(null, "task of upkeep");
        var spec = task.MachineId is { } machine ? await Spec(connection, transaction, machine) : null;
        var hands = await UpkeepCounting.Hands(connection, transaction, by, task.MachineId, now);
        var refusal = UpkeepDone.Wrong(
            plan: task.Plan,
            who: task.Who,
            hands: hands,
            since: task.Since,
            machine: spec,
            reading: work.Reading,
            before: work.Before,
            note: work.Note,
            now: now
        );
        if (refusal is not null)
            return refusal;
        if (await ConsumableStore.Use(connection, transaction, work.Used ?? [], id, by, now) is { } unused)
            return unused;
        var text = string.IsNullOrWhiteSpace(work.Note) ? null : await LedgerStore.Keep(connection, transaction, work.Note.Trim(), null);
        await connection.ExecuteAsync(
            """
            insert into upkeep.done (id, task_id, machine_id, name, at, by, used, before_m3h, after_m3h, text_id)
            values (gen_random_uuid(), @id, @MachineId, @Name, @now, @by, @Used, @Before, @Reading, @text);
            insert into upkeep.reading (id, machine_id, at, by, airflow)
            select gen_random_uuid(), @MachineId, @now, @by, @Reading where @Reading::numeric is not null
            """,
            new
            {
                id,
                task.MachineId,
                task.Plan.Name,
                now,
                by,
                task.Stand.Used,
                work.Before,
                work.Reading,
                text = text?.Id,
            },
            transaction
        );
        await Write(connection, transaction, task with { Since = now }, rules.Clock, now);
        if (task is { MachineId: { } lidOf, Plan.Part: UpkeepPart.Interlocks })
            await BreakStore.Tried(connection, transaction, lidOf, by, now);
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            task.MachineId is null ? RecordEvents.RoomUpkeepDone : RecordEvents.MachineUpkeepDone,
            new
            {
                machine = task.MachineId,
                task = id,
                by = await LedgerStore.Number(connection, transaction, by),
                used = Core.Ledger.Chain.Number(task.Stand.Used),
                before = Core.Ledger.Chain.Number(work.Before),
                after = Core.Ledger.Chain.Number(work.Reading),
                what = text?.InChain,
            }
        );
        return (await One(connection, transaction, id, rules, now))!;
    }

    /// <summary>Adds a task, or changes one; its counter goes on.</summary>
    /// <param name="id">Null adds one.</param>
    /// <param name="version">As whoever changes it has read it.</param>
    public Task<Result<UpkeepTask>> Put(
        string? id,
        long version,
        MachineId? machine,
        UpkeepPlan plan,
        PersonId by,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var task = new UpkeepTask(
                    Id: id ?? Guid.NewGuid().ToString("N")[..12],
                    Version: 0,
                    MachineId: machine,
                    Plan: plan,
                    Who: plan.Who,
                    Since: now,
                    Stand: new(null, false, false, null, false),
                    Airflow: null
                );
                if (id is not null)
                {
                    await Lock(connection, transaction, id);
                    if (await One(connection, transaction, id, rules, now) is not { } old)
                        return ((Result<UpkeepTask>)CommonProblems.NotFound.Refuse(null, "task of upkeep"), false);
                    if (old.Version != version)
                        return (UpkeepProblems.PlanChanged.Refuse(), false);
                    task = old with { Plan = plan };
                }
                if (plan.Wrong(task.MachineId is not null).FirstOrDefault() is { } refusal)
                    return (refusal, false);
                if (UpkeepPlan.Twice(await IsTwice(connection, transaction, task, now)) is { } twice)
                    return (twice, false);
                await Write(connection, transaction, task, rules.Clock, now);
                if (task.MachineId is { } counted)
                    await UpkeepCounting.Ran(connection, transaction, counted, now);
                await Planned(connection, transaction, task, by, true, now);
                return ((Result<UpkeepTask>)(await One(connection, transaction, task.Id, rules, now))!, true);
            },
            cancel
        );

    /// <summary>The tasks that a machine usually begins with, those it has left out.</summary>
    /// <returns>How many were added.</returns>
    public Task<int> Begin(MachineSpec machine, PersonId by, HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await Lock(connection, transaction, machine.Id.Value);
                var there = (
                    await connection.QueryAsync<string>(
                        "select distinct plan ->> 'part' from upkeep.task where machine_id = @Id and held @> @now and upper_inf(recorded)",
                        new { machine.Id, now },
                        transaction
                    )
                ).ToHashSet();
                var added = 0;
                foreach (var plan in UpkeepMethods.For(machine).Where(p => !there.Contains(UpkeepCounting.Word(p.Part))))
                {
                    var task = new UpkeepTask(
                        Id: Guid.NewGuid().ToString("N")[..12],
                        Version: 0,
                        MachineId: machine.Id,
                        Plan: plan,
                        Who: plan.Who,
                        Since: now,
                        Stand: new(null, false, false, null, false),
                        Airflow: null
                    );
                    if (await IsTwice(connection, transaction, task, now))
                        continue;
                    await Write(connection, transaction, task, rules.Clock, now);
                    await Planned(connection, transaction, task, by, true, now);
                    added++;
                }
                return (added, added > 0);
            },
            cancel
        );

    /// <summary>The house does this no longer.</summary>
    public Task<Result<bool>> End(string id, PersonId by, HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await Lock(connection, transaction, id);
                if (await One(connection, transaction, id, rules, now) is not { } task)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "task of upkeep"), false);
                await connection.ExecuteAsync(Dated.End("upkeep.task", Columns, "id = @id and held @> @now"), new { id, now }, transaction);
                await Planned(connection, transaction, task, by, false, now);
                return (true, true);
            },
            cancel
        );

    private const string Columns = "id, machine_id, name, plan, since, due_from, overdue_from";

    private static Task Lock(NpgsqlConnection connection, NpgsqlTransaction transaction, string id) =>
        connection.ExecuteAsync("select pg_advisory_xact_lock(730041, hashtext(@id))", new { id }, transaction);

    private static async Task<UpkeepTask?> One(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string id,
        HouseRules rules,
        Instant now
    ) => (await Read(connection, transaction, "t.id = @id", new { id }, rules, now)).SingleOrDefault();

    private static Task<bool> IsTwice(NpgsqlConnection connection, NpgsqlTransaction transaction, UpkeepTask task, Instant now) =>
        connection.ExecuteScalarAsync<bool>(
            """
            select exists (select from upkeep.task where machine_id is not distinct from @MachineId and lower(name) = lower(@Name)
                and id <> @Id and held @> @now and upper_inf(recorded))
            """,
            new
            {
                task.MachineId,
                task.Plan.Name,
                task.Id,
                now,
            },
            transaction
        );

    internal static async Task<MachineSpec?> Spec(NpgsqlConnection connection, NpgsqlTransaction? transaction, MachineId machine) =>
        await connection.ExecuteScalarAsync<string?>(
            "select spec::text from house.machine where id = @machine",
            new { machine },
            transaction
        )
            is { } spec
            ? GateJson.Read<MachineSpec>(spec)
            : null;

    /// <summary>Writes a task anew from now on, as it counts from <see cref="UpkeepTask.Since"/>.</summary>
    private static Task Write(NpgsqlConnection connection, NpgsqlTransaction transaction, UpkeepTask task, HouseClock clock, Instant now)
    {
        var days = task.Plan.Counter == UpkeepCounter.Days;
        return connection.ExecuteAsync(
            Dated.End("upkeep.task", Columns, "id = @Id and held @> @now")
                + $"""
                ;
                insert into upkeep.task ({Columns}, held, recorded)
                values (@Id, @MachineId, @Name, @plan::jsonb, @Since, @due, @overdue, tstzrange(@now, null), tstzrange(@now, null))
                """,
            new
            {
                task.Id,
                task.MachineId,
                task.Plan.Name,
                plan = GateJson.Write(task.Plan),
                task.Since,
                due = days ? UpkeepUse.DayDue(task.Since, task.Plan.Limit, clock) : (Instant?)null,
                overdue = days ? UpkeepUse.DayDue(task.Since, task.Plan.Overdue, clock) : (Instant?)null,
                now,
            },
            transaction
        );
    }

    private static async Task Planned(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        UpkeepTask task,
        PersonId by,
        bool on,
        Instant now
    ) =>
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            task.MachineId is null ? RecordEvents.RoomUpkeepPlanned : RecordEvents.MachineUpkeepPlanned,
            new
            {
                machine = task.MachineId,
                task = task.Id,
                by = await LedgerStore.Number(connection, transaction, by),
                name = task.Plan.Name,
                counter = UpkeepCounting.Word(task.Plan.Counter),
                limit = Core.Ledger.Chain.Number(task.Plan.Limit),
                on,
            }
        );
}
