using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core;
using VelvetGate.Core.Run;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Run;

public sealed record RunNow(
    Guid Id, int Number, Guid? BookingId, string PersonId, string GivenName, string FamilyName, LocalDate? BirthDate, string MachineId, string MaterialId, string MaterialName,
    decimal ThicknessMm, string[] Operations, Instant Start, Instant End, string Outcome, string? Settings, string LoggedBy,
    string? SupervisorId, Instant? ConfirmedAt);

/// <summary>Runs as they were logged.</summary>
public sealed class RunStore(NpgsqlDataSource db)
{
    /// <summary>Logs a run; a clean one is a test result for its machine, material and thickness.</summary>
    /// <param name="id">Client-made: the same again changes nothing.</param>
    public Task<Result<Guid>> Log(Guid id, Guid? bookingId, LoggedRun run, string by, bool staff, Instant now, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        if (RunLog.Check(run, by, staff, now) is { } refusal) return ((Result<Guid>)refusal, false);
        if (await Unknown(connection, transaction, bookingId, run) is { } missing) return (missing, false);
        var text = string.IsNullOrWhiteSpace(run.Settings) ? null : await LedgerStore.Keep(connection, transaction, run.Settings.Trim(), run.PersonId);
        var added = await connection.ExecuteAsync(
            """
            insert into run.log (id, booking_id, person_id, machine_id, material_id, thickness_mm, operations, during, outcome, text_id, logged_by, at, supervisor_id)
            values (@id, @bookingId, @PersonId, @MachineId, @MaterialId, @ThicknessMm, @operations, tstzrange(@Start, @End), @outcome, @text, @by, @now,
                (select b.ask ->> 'supervisorId' from booking.booking b where b.id = @bookingId))
            on conflict (id) do nothing
            """,
            new
            {
                id, bookingId, run.PersonId, run.MachineId, run.MaterialId, run.ThicknessMm, run.Start, run.End, by, now, text = text?.Id,
                operations = run.Operations.Select(Word).ToArray(), outcome = Word(run.Outcome),
            }, transaction);
        if (added == 0) return (id, false);
        if (run.Outcome == Outcome.Clean)
            await connection.ExecuteAsync(
                "insert into bench.test_result (machine_id, material_id, thickness_mm, at) values (@MachineId, @MaterialId, @ThicknessMm, @now) on conflict do nothing",
                new { run.MachineId, run.MaterialId, run.ThicknessMm, now }, transaction);
        await LedgerStore.Append(connection, transaction, now, "run.logged", new
        {
            run = id, person = await HouseStore.Number(connection, transaction, run.PersonId), by = await HouseStore.Number(connection, transaction, by), machine = run.MachineId,
            booking = bookingId, material = run.MaterialId, start = Core.Ledger.Chain.Instant(run.Start), end = Core.Ledger.Chain.Instant(run.End), outcome = Word(run.Outcome), settings = text?.InChain,
        });
        return (id, true);
    }, cancel);

    /// <summary>The second word on a supervised run: from now on it counts.</summary>
    /// <returns>Null when there is no such run; true, again too; or why not.</returns>
    public Task<Result<bool>?> Confirm(Guid id, string by, Instant now, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        Result<bool>? answer = null;
        var row = await connection.QuerySingleOrDefaultAsync<(string Person, string? Supervisor, string LoggedBy, Instant? Confirmed)?>(
            "select person_id, supervisor_id, logged_by, confirmed_at from run.log where id = @id for update", new { id }, transaction);
        if (row is not { } run) return (answer, false);
        if (RunLog.MayConfirm(run.Person, run.Supervisor, run.LoggedBy, by) is { } refusal) return (refusal, false);
        answer = true;
        if (run.Confirmed is not null) return (answer, false);
        await connection.ExecuteAsync("update run.log set confirmed_at = @now where id = @id", new { id, now }, transaction);
        await LedgerStore.Append(connection, transaction, now, "run.confirmed", new
        {
            run = id, person = await HouseStore.Number(connection, transaction, run.Person), by = await HouseStore.Number(connection, transaction, by),
        });
        return (answer, true);
    }, cancel);

    /// <summary>Latest first.</summary>
    /// <param name="personId">Null takes everybody's; else those this person ran or supervised.</param>
    public async Task<IReadOnlyList<RunNow>> Latest(string? personId, int limit, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return [.. await connection.QueryAsync<RunNow>(new CommandDefinition(
            """
            select r.id, r.number, r.booking_id, r.person_id, p.given_name, p.family_name, p.birth_date, r.machine_id, r.material_id, m.name as material_name,
                r.thickness_mm, r.operations, lower(r.during) as start, upper(r.during) as "end", r.outcome, t.body as settings, r.logged_by, r.supervisor_id, r.confirmed_at
            from run.log r join people.person p on p.id = r.person_id join materials.material m on m.id = r.material_id left join ledger.text t on t.id = r.text_id
            where @personId::text is null or r.person_id = @personId or r.supervisor_id = @personId order by upper(r.during) desc, r.number desc limit @limit
            """,
            new { personId, limit }, cancellationToken: cancel))];
    }

    private static async Task<Refusal?> Unknown(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid? bookingId, LoggedRun run)
    {
        var known = await connection.QuerySingleAsync<(bool Person, bool Machine, bool Material, bool Booking)>(
            """
            select exists (select from people.person where id = @PersonId and not erased), exists (select from house.machine where id = @MachineId),
                exists (select from materials.material where id = @MaterialId),
                @bookingId::uuid is null or exists (select from booking.booking where id = @bookingId and person_id = @PersonId and machine_id = @MachineId)
            """,
            new { run.PersonId, run.MachineId, run.MaterialId, bookingId }, transaction);
        return !known.Person ? new Refusal("run.unknownId", $"There is no member “{run.PersonId}”.", "memberId")
            : !known.Machine ? new Refusal("run.unknownId", $"There is no machine “{run.MachineId}”.", "machineId")
            : !known.Material ? new Refusal("run.unknownId", $"There is no material “{run.MaterialId}”.", "materialId")
            : !known.Booking ? new Refusal("run.unknownId", "There is no such booking of this person on this machine.", "bookingId")
            : null;
    }

    internal static string Word<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
}
