using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.House;

public enum PlanKind
{
    Closure,
    Class,
    Duty,
}

/// <summary>A line of the calendar as a person writes it down.</summary>
/// <param name="PersonId">Duty: the steward; class: the supervising adult.</param>
/// <param name="MachineIds">Closure: empty closes the house.</param>
/// <param name="SourceUid">Its id in the file it came from; null for one written here.</param>
/// <param name="Says">When it is, where <paramref name="When"/> alone does not tell.</param>
public sealed record NewPlan(
    PlanKind Kind,
    string Title,
    Recurrence When,
    PersonId? PersonId,
    IReadOnlyList<MachineId> MachineIds,
    IReadOnlyList<PersonId> Roster,
    int? AtOnce,
    string? SourceUid = null,
    string? Says = null
);

/// <param name="Says">When it is, where the first day and the rule alone do not tell; null elsewhere.</param>
/// <param name="Next">Occurrences to come, soonest first.</param>
public sealed record PlanNow(
    Guid Id,
    PlanKind Kind,
    string Title,
    LocalDate FirstDay,
    LocalTime Starts,
    LocalTime Ends,
    string? Rule,
    PersonId? PersonId,
    IReadOnlyList<MachineId> MachineIds,
    int? AtOnce,
    IReadOnlyList<PersonId> Roster,
    IReadOnlyList<Interval> Next,
    string? Says
);

/// <param name="PersonId">Duty: the steward; class: the adult.</param>
public sealed record PlannedTime(PlanKind Kind, string Title, PersonId? PersonId, Interval During);

/// <summary>Closures, classes and the steward rota. Their occurrences are rows: no query reads a rule.</summary>
public sealed class CalendarStore(NpgsqlDataSource db)
{
    private sealed record Row(
        Guid Id,
        string Kind,
        string Title,
        LocalDate FirstDay,
        LocalTime Starts,
        LocalTime Ends,
        string? Rule,
        PersonId? PersonId,
        MachineId[] MachineIds,
        int? AtOnce,
        string? Says
    );

    /// <summary>Adds a line with all its occurrences.</summary>
    public async Task<Result<Guid>> Add(NewPlan plan, HouseClock clock, PersonId by, Instant now, CancellationToken cancel)
    {
        var times = plan.When.Occurrences(clock);
        if (times.Refusal is { } refusal)
            return refusal;
        var coming = Recurrence.Coming(times.Value, now);
        if (coming.Refusal is { } past)
            return past;
        try
        {
            return await Transaction.Run(
                db,
                (connection, transaction) => Add(connection, transaction, plan, coming.Value, by, now),
                cancel
            );
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ExclusionViolation)
        {
            return plan.Kind switch
            {
                PlanKind.Duty => HouseProblems.CalendarOverlap.Refuse("personId"),
                PlanKind.Class => HouseProblems.CalendarOverlapOfClass.Refuse("machineIds"),
                _ => HouseProblems.CalendarOverlapOfItself.Refuse("rule"),
            };
        }
    }

    internal static async Task<(Result<Guid>, bool)> Add(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        NewPlan plan,
        IReadOnlyList<Interval> times,
        PersonId by,
        Instant now
    )
    {
        if (await Unknown(connection, transaction, plan, now) is { } refusal)
            return (refusal, false);
        var id = Guid.NewGuid();
        await connection.ExecuteAsync(
            """
            insert into house.plan (id, kind, title, first_day, starts, ends, rule, except_days, person_id, machine_ids, at_once, made_by,
                made_at, source_uid, says)
            values (@id, @kind, @Title, @FirstDay, @Starts, @Ends, @Rule, @except, @PersonId, @machines, @AtOnce, @by, @now, @SourceUid,
                @Says);
            insert into house.roster (plan_id, person_id, recorded) select @id, unnest(@roster), tstzrange(@now, null)
            """,
            new
            {
                id,
                kind = Word(plan.Kind),
                plan.Title,
                plan.When.FirstDay,
                plan.When.Starts,
                plan.When.Ends,
                plan.When.Rule,
                plan.PersonId,
                machines = plan.MachineIds.ToArray(),
                plan.AtOnce,
                plan.SourceUid,
                plan.Says,
                by,
                now,
                except = (plan.When.Except ?? []).ToArray(),
                roster = plan.Roster.Distinct().ToArray(),
            },
            transaction
        );
        var (from, until) = (times.Select(t => t.Start).ToArray(), times.Select(t => t.End).ToArray());
        if (plan.Kind == PlanKind.Duty)
            await connection.ExecuteAsync(
                "insert into house.duty (person_id, during, recorded, plan_id) select @PersonId, tstzrange(f, u), tstzrange(@now, "
                    + "null), @id from unnest(@from, @until) as t(f, u)",
                new
                {
                    plan.PersonId,
                    id,
                    now,
                    from,
                    until,
                },
                transaction
            );
        else
            await connection.ExecuteAsync(
                "insert into house.occurrence (plan_id, during, recorded) select @id, tstzrange(f, u), tstzrange(@now, null) from "
                    + "unnest(@from, @until) as t(f, u)",
                new
                {
                    id,
                    now,
                    from,
                    until,
                },
                transaction
            );
        if (plan.Kind == PlanKind.Class)
            await Claim(
                connection,
                transaction,
                id,
                [$"teach:{plan.PersonId}", .. plan.MachineIds.Select(m => $"class:{m}")],
                from,
                until,
                now
            );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.HousePlanned,
            new
            {
                plan = id,
                kind = Word(plan.Kind),
                by = await LedgerStore.Number(connection, transaction, by),
                machines = plan.MachineIds,
                times = times.Count,
                first = Core.Ledger.Chain.Instant(times[0].Start),
                last = Core.Ledger.Chain.Instant(times[^1].End),
            }
        );
        return (id, true);
    }

    private static async Task Claim(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid plan,
        IEnumerable<string> resources,
        Instant[] from,
        Instant[] until,
        Instant now
    )
    {
        var ids = resources.Order(StringComparer.Ordinal).ToArray();
        await connection.ExecuteAsync(
            "insert into booking.resource (id) select unnest(@ids) order by 1 on conflict do nothing",
            new { ids },
            transaction
        );
        await connection.ExecuteAsync(
            "select id from booking.resource where id = any(@ids) order by id for update",
            new { ids },
            transaction
        );
        await connection.ExecuteAsync(
            "insert into booking.claim (plan_id, resource, during, recorded) select @plan, r, tstzrange(f, u), tstzrange(@now, "
                + "null) from unnest(@ids) r, unnest(@from, @until) as t(f, u)",
            new
            {
                plan,
                ids,
                now,
                from,
                until,
            },
            transaction
        );
    }

    /// <summary>Ends a line now: what is past stays on record, what is to come goes.</summary>
    /// <returns>False when it has ended already or never was.</returns>
    public Task<bool> End(Guid id, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var ended = await End(connection, transaction, id, by, now);
                return (ended, ended);
            },
            cancel
        );

    internal static async Task<bool> End(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id, PersonId by, Instant now)
    {
        var ended =
            await connection.ExecuteAsync(
                "update house.plan set ended_by = @by, ended_at = @now, version = version + 1 where id = @id and ended_at is null",
                new
                {
                    id,
                    by,
                    now,
                },
                transaction
            ) == 1;
        if (!ended)
            return false;
        await connection.ExecuteAsync(
            $"""
            update house.occurrence set {Dated.Closed} where plan_id = @id
                and upper_inf(recorded) and upper(during) > @now;
            update house.duty set {Dated.Closed} where plan_id = @id
                and upper_inf(recorded) and upper(during) > @now;
            update booking.claim set live = false, {Dated.Closed}
                where plan_id = @id and live and upper(during) > @now;
            """,
            new { id, now },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.HouseUnplanned,
            new { plan = id, by = await LedgerStore.Number(connection, transaction, by) }
        );
        return true;
    }

    /// <summary>Lines with something still to come.</summary>
    public async Task<IReadOnlyList<PlanNow>> Coming(Instant now, int nextShown, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                """
                select id, kind, title, first_day, starts, ends, rule, person_id, machine_ids, at_once, says from house.plan
                    where ended_at is null order by made_at;
                select plan_id, person_id from house.roster where upper_inf(recorded) order by person_id;
                select plan_id, lower(during) as start, upper(during) as "end" from (
                    select plan_id, during, row_number() over (partition by plan_id order by during) as nth from (
                        select plan_id, during from house.occurrence where upper_inf(recorded) and upper(during) > @now
                        union all select plan_id, during from house.duty where plan_id is not null and upper_inf(recorded)
                            and upper(during) > @now) o) n
                where nth <= @nextShown order by during;
                """,
                new { now, nextShown },
                cancellationToken: cancel
            )
        );
        var plans = (await rows.ReadAsync<Row>()).ToList();
        var roster = (await rows.ReadAsync<(Guid Plan, PersonId Person)>()).ToLookup(r => r.Plan, r => r.Person);
        var next = (await rows.ReadAsync<(Guid Plan, Instant Start, Instant End)>()).ToLookup(
            n => n.Plan,
            n => new Interval(n.Start, n.End)
        );
        return
        [
            .. plans
                .Where(p => next[p.Id].Any())
                .Select(p => new PlanNow(
                    Id: p.Id,
                    Kind: Enum.Parse<PlanKind>(p.Kind, ignoreCase: true),
                    Title: p.Title,
                    FirstDay: p.FirstDay,
                    Starts: p.Starts,
                    Ends: p.Ends,
                    Rule: p.Rule,
                    PersonId: p.PersonId,
                    MachineIds: p.MachineIds,
                    AtOnce: p.AtOnce,
                    Roster: [.. roster[p.Id]],
                    Next: [.. next[p.Id]],
                    Says: p.Says
                )),
        ];
    }

    /// <summary>Every time of closures, classes and duty within a span, soonest first.</summary>
    public async Task<IReadOnlyList<PlannedTime>> Within(Interval span, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<(string Kind, string Title, PersonId? PersonId, Instant Start, Instant End)>(
                    new CommandDefinition(
                        """
                        select p.kind, p.title, p.person_id, lower(o.during), upper(o.during) from house.occurrence o
                            join house.plan p on p.id = o.plan_id
                            where upper_inf(o.recorded) and o.during && tstzrange(@from, @until)
                        union all
                        select 'duty', '', d.person_id, lower(d.during), upper(d.during) from house.duty d where upper_inf(d.recorded)
                            and d.during && tstzrange(@from, @until)
                        order by 4, 5, 1
                        """,
                        new { from = span.Start, until = span.End },
                        cancellationToken: cancel
                    )
                )
            ).Select(t => new PlannedTime(
                Enum.Parse<PlanKind>(t.Kind, ignoreCase: true),
                t.Title,
                t.PersonId,
                new Interval(t.Start, t.End)
            )),
        ];
    }

    /// <summary>Ids of standing bookings that fall into the times, on the machines named or all.</summary>
    public async Task<IReadOnlyList<Guid>> Hit(
        IReadOnlyList<Interval> times,
        IReadOnlyList<MachineId> machineIds,
        Instant now,
        CancellationToken cancel
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<Guid>(
                new CommandDefinition(
                    """
                    select distinct b.id from booking.booking b, unnest(@from, @until) as t(f, u)
                    where b.cancelled_at is null and upper(b.during) > @now and b.during && tstzrange(f, u) and (@all
                        or b.machine_id = any(@machines))
                    """,
                    new
                    {
                        now,
                        from = times.Select(t => t.Start).ToArray(),
                        until = times.Select(t => t.End).ToArray(),
                        all = machineIds.Count == 0,
                        machines = machineIds.ToArray(),
                    },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    private static async Task<Refusal?> Unknown(NpgsqlConnection connection, NpgsqlTransaction transaction, NewPlan plan, Instant now)
    {
        var (machines, people, fits) = await connection.QuerySingleAsync<(int, int, bool)>(
            """
            select (select count(*)::int from house.machine where id = any(@machines)), (select count(*)::int from people.person
                where id = any(@roster) and not erased),
                @PersonId::text is null or exists (select from people.person p where p.id = @PersonId and not p.erased and (@kind <> 'duty'
                    or exists (select from people.acting where person_id = p.id and role = 'steward' and upper_inf(recorded)
                        and held @> @now)))
            """,
            new
            {
                machines = plan.MachineIds.ToArray(),
                roster = plan.Roster.Distinct().ToArray(),
                plan.PersonId,
                kind = Word(plan.Kind),
                now,
            },
            transaction
        );
        if (machines != plan.MachineIds.Distinct().Count())
            return HouseProblems.CalendarUnknownMachine.Refuse("machineIds");
        if (people != plan.Roster.Distinct().Count())
            return HouseProblems.CalendarUnknownPerson.Refuse("roster");
        return fits
            ? null
            : (plan.Kind == PlanKind.Duty ? HouseProblems.CalendarNoSteward : HouseProblems.CalendarUnknownAdult).Refuse("personId");
    }

    internal static string Word(PlanKind kind) => kind.ToString().ToLowerInvariant();
}
