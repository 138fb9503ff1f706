using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Run;
using VelvetGate.Core.Settings.Motion;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Settings;

/// <summary>A machine's logged runs beside the estimates of their drawings, and what a steward made of it.</summary>
public sealed class RunTimesStore(NpgsqlDataSource db)
{
    /// <summary>The newest runs of bookings with a drawing that came to their end, each with its estimate as of now.</summary>
    public async Task<IReadOnlyList<TimedRun>> Runs(MachineSpec machine, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<PlannedRunRow>(
            new CommandDefinition(
                $"""
                {PlannedRunRow.Columns}
                where r.machine_id = @machine and r.outcome in ('clean', 'charred', 'notThrough') and upper(r.during) > @since
                    and jsonb_path_exists(b.ask, '$.items[*].drawingId ? (@ != null)')
                order by upper(r.during) desc limit @most
                """,
                new
                {
                    machine = machine.Id,
                    since = now - Duration.FromDays(365),
                    most = Calibration.MostRuns,
                },
                cancellationToken: cancel
            )
        );
        return [.. rows.Select(r => Timed(r, machine)).OfType<TimedRun>()];
    }

    /// <summary>Keeps a factor, or takes it away.</summary>
    /// <param name="factor">Null for none: estimates stand as they are.</param>
    public Task<Result<bool>> Accept(
        MachineId machine,
        Operation operation,
        TimeFactor? factor,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var held = await connection.QuerySingleOrDefaultAsync<string?>(
                    "select spec::text from house.machine where id = @machine for update",
                    new { machine },
                    transaction
                );
                if (held is null)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, $"machine as “{machine}”"), false);
                var spec = GateJson.Read<MachineSpec>(held);
                var others = (spec.TimeFactors ?? []).Where(f => f.Operation != operation);
                spec = spec with { TimeFactors = [.. factor is null ? others : others.Append(factor)] };
                await connection.ExecuteAsync(
                    "update house.machine set spec = @spec::jsonb, version = version + 1 where id = @machine",
                    new { machine, spec = GateJson.Write(spec) },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.MachineTimes,
                    new
                    {
                        machine,
                        by = await LedgerStore.Number(connection, transaction, by),
                        operation = Word(operation),
                        percent = (int?)(100 * factor?.Factor),
                        runs = factor?.Runs,
                    }
                );
                return (true, true);
            },
            cancel
        );

    private static string Word(Operation operation) => operation.ToString().ToLowerInvariant();

    /// <summary>Null where its booking has no such item with a drawing.</summary>
    private static TimedRun? Timed(PlannedRunRow row, MachineSpec machine)
    {
        if (row.Planned() is not var (ask, item, facts))
            return null;
        var plain = machine with { TimeFactors = null };
        return JobLength.Estimate(ask.Items[item], item, facts, plain) is { Seconds: > 0 } estimate
            ? new TimedRun(estimate, (row.End - row.Start).TotalSeconds)
            : null;
    }
}

/// <summary>A logged run with what its booking was decided on.</summary>
internal sealed record PlannedRunRow(
    PersonId PersonId,
    MachineId MachineId,
    MaterialId MaterialId,
    decimal ThicknessMm,
    string[] Operations,
    Instant Start,
    Instant End,
    int? Item,
    string Ask,
    string Facts
)
{
    public const string Columns = """
        select r.person_id, r.machine_id, r.material_id, r.thickness_mm, r.operations, lower(r.during) as start, upper(r.during) as "end",
            r.item, d.ask, d.facts
        from run.log r join booking.booking b on b.id = r.booking_id join gate.decision d on d.id = b.decision_id
        """;

    /// <returns>The question, which of its items was run, and the facts; null where it has none such.</returns>
    public (GateQuestion Ask, int Item, GateFacts Facts)? Planned()
    {
        var ask = GateJson.Read<GateQuestion>(Ask);
        var run = new LoggedRun(
            PersonId: PersonId,
            MachineId: MachineId,
            MaterialId: MaterialId,
            ThicknessMm: ThicknessMm,
            Operations: [.. Operations.Select(o => Enum.Parse<Operation>(o, ignoreCase: true))],
            Start: Start,
            End: End,
            Outcome: Outcome.Clean,
            Settings: null,
            Item: Item
        );
        return RunVerdict.ItemOf(ask, run) is { } item ? (ask, ask.Items.ToList().IndexOf(item), GateJson.Read<GateFacts>(Facts)) : null;
    }
}
