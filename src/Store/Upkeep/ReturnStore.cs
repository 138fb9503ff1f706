using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Upkeep;

/// <summary>What somebody says who returns a machine.</summary>
/// <param name="Touched">Null where they did not say.</param>
public sealed record ReturnSaid(string Reason, IReadOnlyList<Touched>? Touched, ReturnTests Tests);

/// <summary>Work on a machine, by somebody of the house or a firm.</summary>
public sealed record ServiceVisit(
    Guid Id,
    MachineId MachineId,
    Guid StopId,
    Instant At,
    string DoneBy,
    string[] Touched,
    string Note,
    PersonId RecordedBy
);

/// <summary>Machines out of service: what was worked on, and how they come back.</summary>
public sealed class ReturnStore(NpgsqlDataSource db)
{
    /// <summary>Returns a machine to service, or notes the first of the two words that it needs.</summary>
    /// <returns>Refused when there is no such stop, or it has been returned already; or what is missing.</returns>
    public Task<Result<HoldEnding>> Return(
        Guid stopId,
        ReturnSaid said,
        PersonId by,
        bool steward,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<StopRow>(
                    $"{StopRow.Sql} and s.id = @stopId for update of s",
                    new { stopId },
                    transaction
                );
                if (row is not { } stop)
                    return ((Result<HoldEnding>)CommonProblems.NotFound.Refuse(null, "stop that holds"), false);
                if (stop.Incident is { } incident)
                    return (HouseProblems.HoldIncident.Refuse(null, incident), false);
                await LockStore.Lock(connection, transaction, stop.Machine);
                var tried = await TriedOf(connection, transaction, stopId);
                var touched = await TouchedOf(connection, transaction, stop, said.Touched, tried);
                var hands = await UpkeepCounting.Hands(connection, transaction, by, stop.Machine, now);
                var spec = (await UpkeepStore.Spec(connection, transaction, stop.Machine))!;
                // What a repairer has tried is tried, unless somebody touched more since.
                var second = tried is not null && tried.By != by && touched!.All(t => tried.Touched.Contains(UpkeepCounting.Word(t)));
                var refusal = second
                    ? ReturnToService.SecondWrong(touched!, said.Tests, hands, steward)
                    : ReturnToService.Wrong(touched, said.Tests, spec, hands, steward);
                refusal ??= LockOut.Hangs(await LockStore.Hanging(connection, transaction, stop.Machine));
                if (refusal is not null)
                    return (refusal, false);
                if (!second && touched!.Count > 0)
                    await Try(connection, transaction, stop, touched, said, by, now);
                if (!second && ReturnToService.WantsSecond(touched!))
                    return (HoldEnding.NeedsAnother, true);
                var ending = await HoldEndings.End(
                    connection,
                    transaction,
                    stopId,
                    RecordEvents.MachineReturnAgreed,
                    null,
                    stop.SetBy,
                    by,
                    said.Reason,
                    now
                );
                if (ending.Refusal is not null || ending.Value == HoldEnding.NeedsAnother)
                    return (ending, ending.IsOk);
                await EndStop(connection, transaction, stop, by, said.Reason, ReturnToService.ChangesSettings(touched!), now);
                if (said.Tests.Interlock)
                    await BreakStore.Tried(connection, transaction, stop.Machine, by, now);
                return (ending, true);
            },
            cancel
        );

    /// <summary>Writes down work on a machine: it stays out of service until what was touched is tried.</summary>
    public Task<Result<ServiceVisit>> Service(
        MachineId machine,
        IReadOnlyList<Touched> touched,
        string doneBy,
        string note,
        PersonId by,
        bool steward,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await UpkeepStore.Spec(connection, transaction, machine) is null)
                    return ((Result<ServiceVisit>)CommonProblems.NotFound.Refuse(null, $"machine as “{machine}”"), false);
                var hands = await UpkeepCounting.Hands(connection, transaction, by, machine, now);
                if (ServiceVisits.Wrong(touched, doneBy, note, hands, steward) is { } refusal)
                    return (refusal, false);
                var visit = await WriteVisit(connection, transaction, machine, touched, doneBy.Trim(), note.Trim(), by, now);
                return ((Result<ServiceVisit>)visit, true);
            },
            cancel
        );

    private static async Task<ServiceVisit> WriteVisit(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machine,
        IReadOnlyList<Touched> touched,
        string doneBy,
        string note,
        PersonId by,
        Instant now
    )
    {
        var parts = string.Join(", ", touched.Distinct().Select(ServiceVisits.Says));
        var stop = await HouseStore.StopAndTell(
            connection,
            transaction,
            machine,
            by,
            $"Worked on by {doneBy}: {parts}. To be tried before it comes back.",
            now
        );
        var text = await LedgerStore.Keep(connection, transaction, note, null);
        var visit = new ServiceVisit(
            Id: Guid.NewGuid(),
            MachineId: machine,
            StopId: stop,
            At: now,
            DoneBy: doneBy,
            Touched: [.. touched.Distinct().Select(UpkeepCounting.Word)],
            Note: note,
            RecordedBy: by
        );
        await connection.ExecuteAsync(
            """
            insert into upkeep.service (id, machine_id, stop_id, at, done_by, touched, text_id, recorded_by)
            values (@Id, @MachineId, @StopId, @At, @DoneBy, @Touched, @text, @RecordedBy)
            """,
            new
            {
                visit.Id,
                visit.MachineId,
                visit.StopId,
                visit.At,
                visit.DoneBy,
                visit.Touched,
                visit.RecordedBy,
                text = text.Id,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.MachineServiced,
            new
            {
                service = visit.Id,
                machine,
                stop,
                by = await LedgerStore.Number(connection, transaction, by),
                touched = visit.Touched,
                what = text.InChain,
            }
        );
        return visit;
    }

    /// <summary>Work on the machines, newest first.</summary>
    public async Task<IReadOnlyList<ServiceVisit>> Visits(MachineId? machine, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<ServiceVisit>(
                new CommandDefinition(
                    """
                    select s.id, s.machine_id, s.stop_id, s.at, s.done_by, s.touched, coalesce(x.body, '') as note, s.recorded_by
                    from upkeep.service s left join ledger.text x on x.id = s.text_id
                    where @machine::text is null or s.machine_id = @machine order by s.at desc limit 50
                    """,
                    new { machine },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    private sealed record Tried(PersonId By, string[] Touched);

    private static Task<Tried?> TriedOf(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid stop) =>
        connection.QuerySingleOrDefaultAsync<Tried?>(
            "select by, touched from upkeep.tried where stop_id = @stop",
            new { stop },
            transaction
        );

    /// <summary>What somebody says, and what was said before, by the work on it and whoever tried it: none of it is unsaid later.</summary>
    private static async Task<IReadOnlyList<Touched>?> TouchedOf(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        StopRow stop,
        IReadOnlyList<Touched>? said,
        Tried? tried
    )
    {
        var known = (
            await connection.QueryAsync<string>(
                "select distinct t from upkeep.service, unnest(touched) t where stop_id = @Id",
                new { stop.Id },
                transaction
            )
        ).Concat(tried?.Touched ?? []);
        var parts = known.Select(t => Enum.Parse<Touched>(t, true)).Concat(said ?? []).Distinct().Order().ToList();
        return parts.Count == 0 ? said : parts;
    }

    private static async Task Try(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        StopRow stop,
        IReadOnlyList<Touched> touched,
        ReturnSaid said,
        PersonId by,
        Instant now
    )
    {
        var text = await LedgerStore.Keep(connection, transaction, said.Reason, null);
        await connection.ExecuteAsync(
            """
            insert into upkeep.tried (stop_id, at, by, touched, tests, text_id) values (@Id, @now, @by, @touched, @tests::jsonb, @text)
            on conflict (stop_id) do update set at = excluded.at, by = excluded.by, touched = excluded.touched, tests = excluded.tests,
                text_id = excluded.text_id
            """,
            new
            {
                stop.Id,
                now,
                by,
                touched = touched.Select(UpkeepCounting.Word).ToArray(),
                tests = GateJson.Write(said.Tests),
                text = text.Id,
            },
            transaction
        );
        await ReadingStore.Keep(
            connection,
            transaction,
            stop.Machine,
            new HandReading(said.Tests.AirflowM3PerHour, said.Tests.CoolantC, null),
            by,
            true,
            now
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.MachineTried,
            new
            {
                stop = stop.Id,
                machine = stop.Machine,
                by = await LedgerStore.Number(connection, transaction, by),
                touched = touched.Select(UpkeepCounting.Word),
                interlock = said.Tests.Interlock,
                airflow = Core.Ledger.Chain.Number(said.Tests.AirflowM3PerHour),
                coolant = Core.Ledger.Chain.Number(said.Tests.CoolantC),
                testFire = said.Tests.TestFire,
                framed = said.Tests.Framed,
                why = text.InChain,
            }
        );
    }

    /// <summary>Ends every stop that an incident set. The caller has gone through its list.</summary>
    /// <remarks>
    /// Where somebody worked on the optics, it stays stopped for whoever holds repair authority, who tries it: an incident ends no such
    /// thing. Where they were looked at after a fume, its settings are tested again, and that is all.
    /// </remarks>
    /// <param name="opticsTouched">What was tested before proves nothing any more.</param>
    internal static async Task EndStopsOf(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid incident,
        MachineId machineId,
        PersonId by,
        string reason,
        bool opticsTouched,
        bool workedOn,
        Instant now
    )
    {
        var stops = (
            await connection.QueryAsync<StopRow>(
                $"{StopRow.Sql} and s.incident_id = @incident and s.machine_id = @machineId order by s.id for update of s",
                new { incident, machineId },
                transaction
            )
        ).ToList();
        foreach (var stop in stops)
            await EndStop(connection, transaction, stop, by, reason, opticsTouched, now);
        if (workedOn && stops.Count > 0)
            await WriteVisit(
                connection,
                transaction,
                machineId,
                [Touched.Optics],
                $"whoever looked after incident {stops[0].Incident}",
                reason,
                by,
                now
            );
    }

    private static async Task EndStop(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        StopRow stop,
        PersonId by,
        string reason,
        bool opticsTouched,
        Instant now
    )
    {
        var text = await LedgerStore.Keep(connection, transaction, reason, null);
        // A stop pressed and returned within one microsecond would leave an empty span.
        var end = Instant.Max(now, stop.Since + Duration.FromMilliseconds(1));
        await connection.ExecuteAsync(
            """
            update house.stop set recorded = tstzrange(lower(recorded), @end) where id = @Id and upper_inf(recorded);
            insert into house.stop (id, machine_id, set_by, text_id, incident_id, fault_id, returned_by, return_text_id, optics_touched,
                held, recorded)
            values (@Id, @Machine, @SetBy, @Text, @IncidentId, @FaultId, @by, @returned, @opticsTouched, tstzrange(@Since, @end),
                tstzrange(@end, null))
            """,
            new
            {
                stop.Id,
                stop.Machine,
                stop.SetBy,
                stop.Text,
                stop.IncidentId,
                stop.FaultId,
                by,
                returned = text.Id,
                opticsTouched,
                stop.Since,
                end,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.MachineReturned,
            new
            {
                stop = stop.Id,
                machine = stop.Machine,
                by = await LedgerStore.Number(connection, transaction, stop.SetBy),
                returnedBy = await LedgerStore.Number(connection, transaction, by),
                opticsTouched,
                start = Core.Ledger.Chain.Instant(stop.Since),
                end = Core.Ledger.Chain.Instant(end),
                why = text.InChain,
            }
        );
        if (stop.FaultId is { } fault)
            await FaultStore.CloseNow(connection, transaction, fault, by, text, now);
    }

    /// <param name="Incident">Its number, where one set the stop.</param>
    private sealed record StopRow(
        Guid Id,
        MachineId Machine,
        PersonId SetBy,
        Guid Text,
        Instant Since,
        Guid? IncidentId,
        Guid? FaultId,
        int? Incident
    )
    {
        public const string Sql = """
            select s.id, s.machine_id as machine, s.set_by, s.text_id as text, lower(s.held) as since, s.incident_id, s.fault_id,
                i.number as incident
            from house.stop s left join incidents.incident i on i.id = s.incident_id
            where upper_inf(s.recorded) and upper_inf(s.held)
            """;
    }
}
