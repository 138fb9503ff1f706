using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Calendars;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.House;

/// <summary>What becomes of a closure of a file.</summary>
public enum ImportState
{
    /// <summary>It is not in the calendar yet.</summary>
    New,

    /// <summary>It stands there with other times or another title: those of the file take their place.</summary>
    Changed,

    /// <summary>It stands there as in the file.</summary>
    Same,
}

/// <param name="Hit">How many standing bookings fall into it.</param>
public sealed record ImportedClosure(ClosureLine Line, ImportState State, int Hit);

/// <summary>Closures from a file, into the calendar. The same file again changes nothing.</summary>
public sealed class ClosureImport(NpgsqlDataSource db)
{
    private sealed record Standing(Guid Id, string Uid, string Title, MachineId[] MachineIds);

    /// <param name="machines">Those closed; none for the whole house.</param>
    /// <param name="dry">Says what would be, and writes nothing.</param>
    public Task<Result<IReadOnlyList<ImportedClosure>>> Run(
        IReadOnlyList<ClosureLine> lines,
        IReadOnlyList<MachineId> machines,
        bool dry,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var known = await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from house.machine where id = any(@machines)",
                    new { machines = machines.ToArray() },
                    transaction
                );
                if (known != machines.Count)
                    return ((Result<IReadOnlyList<ImportedClosure>>)HouseProblems.CalendarUnknownMachine.Refuse("machineIds"), false);
                var hits = await Hits(connection, transaction, lines, machines, now);
                // Two windows with the same file: one after the other.
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730021, 20037)", transaction: transaction);
                var standing = (
                    await connection.QueryAsync<Standing>(
                        "select id, source_uid as uid, title, machine_ids from house.plan "
                            + "where source_uid = any(@uids) and ended_at is null",
                        new { uids = lines.Select(l => l.Uid).ToArray() },
                        transaction
                    )
                ).ToDictionary(s => s.Uid);
                var times = (
                    await connection.QueryAsync<(Guid Plan, Instant Start, Instant End)>(
                        """
                        select plan_id, lower(during), upper(during) from house.occurrence
                        where plan_id = any(@ids) and upper_inf(recorded) and upper(during) > @now order by lower(during)
                        """,
                        new { now, ids = standing.Values.Select(s => s.Id).ToArray() },
                        transaction
                    )
                ).ToLookup(t => t.Plan, t => new Interval(t.Start, t.End));
                var imported = new List<ImportedClosure>();
                foreach (var (nth, line) in lines.Index())
                {
                    var before = standing.GetValueOrDefault(line.Uid);
                    var state =
                        before is null ? ImportState.New
                        : before.Title == line.Title
                        && before.MachineIds.SequenceEqual(machines)
                        && times[before.Id].SequenceEqual(line.Times)
                            ? ImportState.Same
                        : ImportState.Changed;
                    imported.Add(new ImportedClosure(line, state, hits.GetValueOrDefault(nth)));
                    if (dry || state == ImportState.Same)
                        continue;
                    if (before is not null)
                        await CalendarStore.End(connection, transaction, before.Id, by, now);
                    var plan = new NewPlan(
                        Kind: PlanKind.Closure,
                        Title: line.Title,
                        When: line.When,
                        PersonId: null,
                        MachineIds: machines,
                        Roster: [],
                        AtOnce: null,
                        SourceUid: line.Uid,
                        Says: line.Says
                    );
                    var (added, _) = await CalendarStore.Add(connection, transaction, plan, line.Times, by, now);
                    if (added.Refusal is { } refusal)
                        return ((Result<IReadOnlyList<ImportedClosure>>)refusal, false);
                }
                return (imported, !dry);
            },
            cancel
        );

    private static async Task<Dictionary<int, int>> Hits(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        IReadOnlyList<ClosureLine> lines,
        IReadOnlyList<MachineId> machines,
        Instant now
    )
    {
        var times = lines.Index().SelectMany(l => l.Item.Times.Select(t => (l.Index, Time: t))).ToList();
        return (
            await connection.QueryAsync<(int Nth, int Count)>(
                """
                select nth, count(distinct b.id)::int from unnest(@nths, @from, @until) as t(nth, f, u)
                join booking.booking b on b.during && tstzrange(f, u)
                where b.cancelled_at is null and upper(b.during) > @now and (@all or b.machine_id = any(@machines)) group by nth
                """,
                new
                {
                    now,
                    nths = times.Select(t => t.Index).ToArray(),
                    from = times.Select(t => t.Time.Start).ToArray(),
                    until = times.Select(t => t.Time.End).ToArray(),
                    all = machines.Count == 0,
                    machines = machines.ToArray(),
                },
                transaction
            )
        ).ToDictionary(h => h.Nth, h => h.Count);
    }
}
