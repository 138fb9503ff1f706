using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Upkeep;

/// <summary>A fault that is open.</summary>
/// <param name="StopId">The stop that it set; null where it sets none.</param>
/// <param name="Times">How often it was told.</param>
public sealed record FaultNow(
    Guid Id,
    int Number,
    MachineId MachineId,
    string Symptom,
    string[] MayDo,
    Instant At,
    PersonId ReportedBy,
    int Times,
    string? Note,
    string Standing,
    Guid? StopId
);

/// <summary>A fault as it was told.</summary>
public sealed record FaultTold(Guid Id, int Number, FaultStanding Standing, IReadOnlyList<string> MayDo);

/// <summary>Faults: told by what is seen, judged and closed by those who look after the machine.</summary>
public sealed class FaultStore(NpgsqlDataSource db)
{
    private const string Sql = """
        select f.id, f.number, f.machine_id, f.symptom, f.may_do, f.at, f.reported_by, f.times, x.body as note,
            case when s.id is not null then 'stops' else coalesce(k.standing, 'none') end as standing, s.id as stop_id
        from upkeep.fault f
        left join ledger.text x on x.id = f.text_id
        left join upkeep.fault_state k on k.fault_id = f.id and upper_inf(k.held) and upper_inf(k.recorded)
        left join house.stop s on s.fault_id = f.id and upper_inf(s.held) and upper_inf(s.recorded)
        where f.closed_at is null
        """;

    /// <summary>Open faults, the worst first.</summary>
    public async Task<IReadOnlyList<FaultNow>> Open(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<FaultNow>(
                new CommandDefinition(
                    Sql
                        + " order by array_position(array['stops', 'asks', 'caution', 'none'], case when s.id is not null then 'stops' "
                        + "else coalesce(k.standing, 'none') end), f.at desc",
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>Somebody sees something at a machine. The same seen again is the same fault; it can grow worse, and no better.</summary>
    public Task<Result<FaultTold>> Tell(
        MachineId machine,
        Symptom? symptom,
        bool helped,
        string? note,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await UpkeepStore.Spec(connection, transaction, machine) is not { } spec)
                    return ((Result<FaultTold>)CommonProblems.NotFound.Refuse(null, $"machine as “{machine}”"), false);
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730042, hashtext(@machine))", new { machine }, transaction);
                var today = await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from upkeep.fault where reported_by = @by and at > @since",
                    new { by, since = now - Duration.FromDays(1) },
                    transaction
                );
                if (Faults.MayTell(symptom, note, today) is { } refusal)
                    return (refusal, false);
                var judged = Symptoms.Judge(symptom!, spec.Extraction, helped);
                var open = await connection.QuerySingleOrDefaultAsync<FaultNow>(
                    Sql + " and f.machine_id = @machine and f.symptom = @Key",
                    new { machine, symptom!.Key },
                    transaction
                );
                var told = open is null
                    ? await Add(connection, transaction, machine, symptom, judged, note, by, now)
                    : await Again(connection, transaction, open, symptom, judged, by, now);
                if (judged.Due is { } part)
                    await UpkeepCounting.Due(connection, transaction, machine, part, now);
                return ((Result<FaultTold>)told, true);
            },
            cancel
        );

    private static async Task<FaultTold> Add(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machine,
        Symptom symptom,
        FaultJudged judged,
        string? note,
        PersonId by,
        Instant now
    )
    {
        var text = string.IsNullOrWhiteSpace(note) ? null : await LedgerStore.Keep(connection, transaction, note.Trim(), null);
        var id = Guid.NewGuid();
        var number = await connection.ExecuteScalarAsync<int>(
            """
            insert into upkeep.fault (id, machine_id, symptom, may_do, at, reported_by, text_id)
            values (@id, @machine, @Key, @mayDo, @now, @by, @text) returning number
            """,
            new
            {
                id,
                machine,
                symptom.Key,
                mayDo = judged.MayDo.ToArray(),
                now,
                by,
                text = text?.Id,
            },
            transaction
        );
        await Stand(connection, transaction, (id, machine, symptom, number), judged.Standing, by, now);
        await Record(connection, transaction, RecordEvents.FaultTold, (id, machine, symptom.Key), judged.Standing, by, text?.InChain, now);
        return new(id, number, judged.Standing, judged.MayDo);
    }

    private static async Task<FaultTold> Again(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        FaultNow open,
        Symptom symptom,
        FaultJudged judged,
        PersonId by,
        Instant now
    )
    {
        await connection.ExecuteAsync("update upkeep.fault set times = times + 1 where id = @Id", new { open.Id }, transaction);
        var stood = Enum.Parse<FaultStanding>(open.Standing, true);
        if (judged.Standing <= stood)
            return new(open.Id, open.Number, stood, open.MayDo);
        await Stand(connection, transaction, (open.Id, open.MachineId, symptom, open.Number), judged.Standing, by, now);
        await Record(
            connection,
            transaction,
            RecordEvents.FaultTold,
            (open.Id, open.MachineId, symptom.Key),
            judged.Standing,
            by,
            null,
            now
        );
        return new(open.Id, open.Number, judged.Standing, judged.MayDo);
    }

    /// <summary>A repairer’s or steward’s word on what the fault does.</summary>
    public Task<Result<bool>> Judge(
        Guid id,
        FaultStanding standing,
        string? note,
        PersonId by,
        bool steward,
        Instant now,
        CancellationToken cancel
    ) =>
        Change(
            id,
            note,
            by,
            steward,
            now,
            async (connection, transaction, fault, why) =>
            {
                var symptom = Symptoms.Find(fault.Symptom)!;
                await Stand(connection, transaction, (fault.Id, fault.MachineId, symptom, fault.Number), standing, by, now);
                await Record(
                    connection,
                    transaction,
                    RecordEvents.FaultJudged,
                    (fault.Id, fault.MachineId, fault.Symptom),
                    standing,
                    by,
                    why.InChain,
                    now
                );
            },
            cancel
        );

    /// <summary>Found and put right, or found to be nothing.</summary>
    public Task<Result<bool>> Close(Guid id, string? note, PersonId by, bool steward, Instant now, CancellationToken cancel) =>
        Change(
            id,
            note,
            by,
            steward,
            now,
            (connection, transaction, fault, why) => CloseNow(connection, transaction, fault.Id, by, why, now),
            cancel
        );

    private Task<Result<bool>> Change(
        Guid id,
        string? note,
        PersonId by,
        bool steward,
        Instant now,
        Func<NpgsqlConnection, NpgsqlTransaction, FaultNow, TextLink, Task> act,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var fault = await connection.QuerySingleOrDefaultAsync<FaultNow>(
                    Sql + " and f.id = @id for update of f",
                    new { id },
                    transaction
                );
                if (fault is null)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "fault that is open"), false);
                var hands = await UpkeepCounting.Hands(connection, transaction, by, fault.MachineId, now);
                if (Faults.MayJudge(Enum.Parse<FaultStanding>(fault.Standing, true), hands, steward, note) is { } refusal)
                    return (refusal, false);
                await act(connection, transaction, fault, await LedgerStore.Keep(connection, transaction, note!.Trim(), null));
                return (true, true);
            },
            cancel
        );

    /// <summary>Closes a fault; its stop, where it set one, is ended by the caller.</summary>
    internal static async Task CloseNow(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        PersonId by,
        TextLink why,
        Instant now
    )
    {
        var fault = await connection.QuerySingleOrDefaultAsync<(MachineId Machine, string Symptom)?>(
            """
            update upkeep.fault set closed_at = greatest(@now, at), closed_by = @by, closed_text_id = @text
            where id = @id and closed_at is null returning machine_id, symptom
            """,
            new
            {
                id,
                by,
                now,
                text = why.Id,
            },
            transaction
        );
        if (fault is not { } closed)
            return;
        await EndState(connection, transaction, id, now);
        await Record(
            connection,
            transaction,
            RecordEvents.FaultClosed,
            (id, closed.Machine, closed.Symptom),
            FaultStanding.None,
            by,
            why.InChain,
            now
        );
    }

    private static Task EndState(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id, Instant now) =>
        connection.ExecuteAsync(
            Dated.End("upkeep.fault_state", "fault_id, machine_id, standing, set_by", "fault_id = @id and held @> @now"),
            new { id, now },
            transaction
        );

    private static async Task Stand(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        (Guid Id, MachineId Machine, Symptom Symptom, int Number) fault,
        FaultStanding standing,
        PersonId by,
        Instant now
    )
    {
        await EndState(connection, transaction, fault.Id, now);
        var title = $"{fault.Symptom.Seen} (fault {fault.Number})";
        if (standing == FaultStanding.Stops)
            await HouseStore.StopAndTell(connection, transaction, fault.Machine, by, title, now, fault.Id);
        else
            await connection.ExecuteAsync(
                """
                insert into upkeep.fault_state (fault_id, machine_id, standing, set_by, held, recorded)
                values (@Id, @Machine, @standing, @by, tstzrange(@now, null), tstzrange(@now, null))
                """,
                new
                {
                    fault.Id,
                    fault.Machine,
                    standing = UpkeepCounting.Word(standing),
                    by,
                    now,
                },
                transaction
            );
        await TellRepairers(connection, transaction, fault.Machine, (fault.Id, standing), title, by, now);
    }

    private static async Task TellRepairers(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machine,
        (Guid Id, FaultStanding Standing) fault,
        string title,
        PersonId by,
        Instant now
    )
    {
        var name = await connection.ExecuteScalarAsync<string>(
            "select name from house.machine where id = @machine",
            new { machine },
            transaction
        );
        var repairers = await connection.QueryAsync<PersonId>(
            """
            select distinct person_id from people.acting where role = 'repair' and machine_id = @machine and held @> @now
                and upper_inf(recorded) and person_id <> @by
            """,
            new
            {
                machine,
                now,
                by,
            },
            transaction
        );
        await MessageStore.Tell(
            connection,
            transaction,
            [
                .. repairers.Select(r => new Telling(
                    r,
                    $"fault:{fault.Id}:{UpkeepCounting.Word(fault.Standing)}:{r}",
                    $"A fault at {name}",
                    title,
                    "/upkeep"
                )),
            ],
            now
        );
    }

    private static async Task Record(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        (Guid Id, MachineId Machine, string Symptom) fault,
        FaultStanding standing,
        PersonId by,
        object? why,
        Instant now
    ) =>
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            kind,
            new
            {
                fault = fault.Id,
                machine = fault.Machine,
                symptom = fault.Symptom,
                standing = UpkeepCounting.Word(standing),
                by = await LedgerStore.Number(connection, transaction, by),
                why,
            }
        );
}
