using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Run;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Training;

/// <summary>A path and from when it holds.</summary>
/// <param name="Since">Null for a starting path, which the house has not changed.</param>
/// <param name="Version">What a change is written against; 0 for a starting path.</param>
/// <param name="Coming">When the house planned another one, its first instant.</param>
public sealed record PathNow(TrainingPath Path, Instant? Since, long Version, Instant? Coming);

/// <summary>The paths of a house, and how far people have come on them.</summary>
public sealed class PathStore(NpgsqlDataSource db)
{
    private sealed record Row(long RowId, string Authority, string Body, Instant Since, Instant? Until);

    private sealed record SpanRow(string Name, Instant Since, Instant? Until);

    /// <summary>Every path that holds at an instant, by authority.</summary>
    public async Task<IReadOnlyList<PathNow>> All(HouseRules rules, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await All(connection, null, rules, now);
    }

    /// <returns>Null when there is no such authority.</returns>
    public async Task<PathNow?> Find(string authority, HouseRules rules, Instant now, CancellationToken cancel) =>
        (await All(rules, now, cancel)).FirstOrDefault(p => p.Path.Authority == authority);

    public async Task<Progress> ProgressOf(PersonId personId, IReadOnlyList<PathNow> paths, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await ProgressOf(connection, null, personId, paths, now);
    }

    /// <summary>What authorities are called: “Heron”, “Heron with rotary”.</summary>
    public async Task<IReadOnlyDictionary<string, string>> Names(IReadOnlyList<PathNow> paths, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Names(connection, null, paths);
    }

    /// <summary>Puts another path in place, or ends an add-on, from a day on.</summary>
    /// <param name="version">The version it was written against.</param>
    /// <param name="from">Its first instant; now, or later.</param>
    public Task<Result<bool>> Change(
        TrainingPath path,
        long version,
        string reason,
        Instant from,
        PersonId by,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync(
                    "select pg_advisory_xact_lock(hashtext('path:' || @Authority))",
                    new { path.Authority },
                    transaction
                );
                var all = await All(connection, transaction, rules, now);
                var present = all.FirstOrDefault(p => p.Path.Authority == path.Authority);
                if (present is null && (!path.IsAddOn || all.All(p => p.Path.Authority != path.MachineId)))
                {
                    var refusal = TrainingProblems.PathUnknown.Refuse("authority", path.Authority);
                    return ((Result<bool>)refusal, false);
                }
                if ((present?.Version ?? 0) != version)
                    return (TrainingProblems.PathStale.Refuse("version"), false);
                if (present?.Coming is not null)
                    return (TrainingProblems.PathPlanned.Refuse("from"), false);
                var text = await LedgerStore.Keep(connection, transaction, reason, null);
                // An old version ends where the new one begins; the starting path has no row to end.
                await connection.ExecuteAsync(
                    $"""
                    with ended as (
                        update training.path set {Dated.Closed}
                        where authority = @Authority and upper_inf(recorded) and upper_inf(held) returning authority, body, set_by,
                            text_id, lower(held) as since)
                    insert into training.path (authority, body, set_by, text_id, held, recorded)
                    select authority, body, set_by, text_id, tstzrange(since, greatest(@from, since + interval '1 microsecond')),
                        tstzrange(@now, null) from ended
                    """,
                    new
                    {
                        path.Authority,
                        from,
                        now,
                    },
                    transaction
                );
                await connection.ExecuteAsync(
                    """
                    insert into training.path (authority, body, set_by, text_id, held, recorded)
                    values (@Authority, @body::jsonb, @by, @text, tstzrange(greatest(@from, coalesce((select max(upper(held))
                        from training.path where authority = @Authority and upper_inf(recorded)), @from)), null), tstzrange(@now, null))
                    """,
                    new
                    {
                        path.Authority,
                        body = GateJson.Write(path),
                        by,
                        text = text.Id,
                        from,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    from > now ? RecordEvents.TrainingPathPlanned : RecordEvents.TrainingPathSet,
                    new
                    {
                        authority = path.Authority,
                        from = Core.Ledger.Chain.Instant(from),
                        steps = path.Steps.Count,
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                return (true, true);
            },
            cancel
        );

    internal static async Task<IReadOnlyList<PathNow>> All(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        HouseRules rules,
        Instant now
    )
    {
        using var rows = await connection.QueryMultipleAsync(
            """
            select spec::text from house.machine order by position, id;
            select machine_id, id from house.fixture;
            select row_id, authority, body::text, lower(held) as since, upper(held) as until from training.path where upper_inf(recorded)
                and (held @> @now or lower(held) > @now) order by lower(held);
            """,
            new { now },
            transaction
        );
        var machines = (await rows.ReadAsync<string>()).Select(GateJson.Read<MachineSpec>).ToList();
        var fixtures = (await rows.ReadAsync<(MachineId Machine, string Id)>()).ToLookup(f => f.Machine, f => f.Id);
        var own = (await rows.ReadAsync<Row>()).ToList();
        var modules = await CourseStore.Modules(connection, transaction);
        var holds = own.Where(r => r.Since <= now && !(r.Until <= now)).ToDictionary(r => r.Authority);
        var coming = own.Where(r => r.Since > now).GroupBy(r => r.Authority).ToDictionary(g => g.Key, g => g.Min(r => r.Since));
        var all = Paths.All(
            machines.SelectMany(m => Paths.Starting(m, fixtures[m.Id], modules, rules)),
            [.. holds.Values.Select(r => GateJson.Read<TrainingPath>(r.Body))]
        );
        var order = machines.Select((m, i) => (m.Id, i)).ToDictionary(m => m.Id, m => m.i);
        return
        [
            .. all.OrderBy(p => order.GetValueOrDefault(p.MachineId, int.MaxValue))
                .Select(p => new PathNow(
                    p,
                    holds.GetValueOrDefault(p.Authority)?.Since,
                    holds.GetValueOrDefault(p.Authority)?.RowId ?? 0,
                    coming.TryGetValue(p.Authority, out var at) ? at : null
                )),
        ];
    }

    internal static async Task<Progress> ProgressOf(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        PersonId personId,
        IReadOnlyList<PathNow> paths,
        Instant now
    )
    {
        using var rows = await connection.QueryMultipleAsync(
            """
            select machine_id, upper(during) as at, outcome, confirmed_at is not null as confirmed from run.log
                where person_id = @personId and supervisor_id is not null and upper(during) <= @now;
            select i.machine_id, upper(i.during) as at from training.place p join training.induction i on i.id = p.induction_id
                where p.person_id = @personId and p.attended;
            select title as name, lower(held) as since, upper(held) as until from training.outside where person_id = @personId
                and upper_inf(recorded);
            select authority as name, lower(held) as since, upper(held) as until from training.certificate where person_id = @personId
                and upper_inf(recorded);
            select i.machine_id, lower(i.during) as start, i.places - (select count(*)::int from training.place p
                where p.induction_id = i.id) as places
                from training.induction i where i.cancelled_at is null and i.during && tstzrange(@now, null) and lower(i.during) > @now;
            """,
            new { personId, now },
            transaction
        );
        var runs = (await rows.ReadAsync<(MachineId Machine, Instant At, string Outcome, bool Confirmed)>())
            .Where(r => RunLog.CountsAsSupervised(Enum.Parse<Outcome>(r.Outcome, true), r.Confirmed))
            .Select(r => new Practised(r.Machine, r.At))
            .ToList();
        var inducted = (await rows.ReadAsync<(MachineId Machine, Instant At)>()).Select(r => new Practised(r.Machine, r.At)).ToList();
        var outside = (await rows.ReadAsync<SpanRow>()).Select(r => new OutsidePaper(r.Name, new Span(r.Since, r.Until))).ToList();
        var held = (await rows.ReadAsync<SpanRow>()).Select(r => new Certificate(r.Name, new Span(r.Since, r.Until))).ToList();
        var sessions = (await rows.ReadAsync<(MachineId Machine, Instant Start, int Places)>())
            .Where(s => s.Places > 0)
            .Select(s => new SessionAhead(s.Machine, s.Start, s.Places))
            .ToList();
        var names = await Names(connection, transaction, paths);
        return new Progress(
            Modules: await CourseStore.Modules(connection, transaction),
            Done: await CourseStore.Done(connection, transaction, personId),
            Runs: runs,
            Inductions: inducted,
            Outside: outside,
            Held: held,
            Sessions: sessions,
            Names: names
        );
    }

    internal static async Task<IReadOnlyDictionary<string, string>> Names(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        IReadOnlyList<PathNow> paths
    )
    {
        var machines = (
            await connection.QueryAsync<(MachineId Id, string Name)>("select id, name from house.machine", transaction: transaction)
        ).ToDictionary(m => m.Id, m => m.Name);
        return paths.ToDictionary(
            p => p.Path.Authority,
            p => NameOf(p.Path, machines.GetValueOrDefault(p.Path.MachineId, p.Path.MachineId))
        );
    }

    public static string NameOf(TrainingPath path, string machine) =>
        path.IsAddOn ? $"{machine} with {path.Name.ToLowerInvariant()}" : machine;
}
