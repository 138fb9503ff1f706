using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Run;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Store.Incidents;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Upkeep;

namespace VelvetGate.Store.Run;

public sealed record RunNow(
    Guid Id,
    int Number,
    Guid? BookingId,
    int? Item,
    PersonId PersonId,
    string GivenName,
    string FamilyName,
    LocalDate? BirthDate,
    MachineId MachineId,
    MaterialId MaterialId,
    string MaterialName,
    decimal ThicknessMm,
    string[] Operations,
    Instant Start,
    Instant End,
    string Outcome,
    string? Settings,
    PersonId LoggedBy,
    PersonId? SupervisorId,
    Instant? ConfirmedAt,
    bool Counts,
    string[] Codes,
    bool Waits
);

/// <summary>Runs as they were logged.</summary>
public sealed class RunStore(NpgsqlDataSource db)
{
    /// <summary>Logs a run, and asks the gate what it is worth. A flame puts the machine out of service and calls the stewards.</summary>
    /// <param name="id">Client-made: the same again changes nothing.</param>
    public Task<Result<LoggedOutcome>> Log(
        Guid id,
        Guid? bookingId,
        LoggedRun run,
        PersonId by,
        bool staff,
        bool steward,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (RunLog.Check(run, by, staff, now) is { } refusal)
                    return ((Result<LoggedOutcome>)refusal, false);
                var logged = await Log(connection, transaction, id, bookingId, run, by, now, cancel, steward);
                return (logged, logged.Refusal is null);
            },
            cancel
        );

    /// <summary>The same within a transaction of whoever calls: a run that the machine’s own session tells.</summary>
    /// <param name="booker">Whose booking it was before the machine was handed over; null where nobody did.</param>
    internal async Task<Result<LoggedOutcome>> Log(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        Guid? bookingId,
        LoggedRun run,
        PersonId by,
        Instant now,
        CancellationToken cancel,
        bool steward = false,
        PersonId? booker = null
    )
    {
        if (await Unknown(connection, transaction, bookingId, run, booker) is { } missing)
            return missing;
        var judged = await Judge(connection, transaction, bookingId, run, steward && by != run.PersonId, booker, cancel);
        if (judged.Refusal is { } unjudged)
            return unjudged;
        var standing = judged.Value;
        var text = string.IsNullOrWhiteSpace(run.Settings)
            ? null
            : await LedgerStore.Keep(connection, transaction, run.Settings.Trim(), run.PersonId);
        var added = await connection.ExecuteAsync(
            """
            insert into run.log (id, booking_id, person_id, machine_id, material_id, thickness_mm, operations, during, outcome,
                text_id, logged_by, at, allowed, codes, behind, wants_look, supervisor_id,
                setting_id, item)
            values (@id, @bookingId, @PersonId, @MachineId, @MaterialId, @ThicknessMm, @operations, tstzrange(@Start, @End),
                @outcome, @text, @by, @now, @Allowed, @codes, @behind, @wantsLook,
                (select b.ask ->> 'supervisorId' from booking.booking b where b.id = @bookingId
                    and b.person_id = @PersonId), @SettingId, @Item)
            on conflict (id) do nothing
            """,
            new
            {
                id,
                bookingId,
                run.PersonId,
                run.MachineId,
                run.MaterialId,
                run.ThicknessMm,
                run.Start,
                run.End,
                run.SettingId,
                run.Item,
                by,
                now,
                text = text?.Id,
                standing.Allowed,
                codes = standing.Codes.ToArray(),
                behind = standing.Behind is { } b ? Word(b) : null,
                wantsLook = standing.WantsALook || run.Outcome == Outcome.Flame,
                operations = run.Operations.Select(Word).ToArray(),
                outcome = Word(run.Outcome),
            },
            transaction
        );
        if (added == 0)
            return await OutcomeOf(connection, transaction, id);
        await KeepTest(connection, transaction, id);
        await UpkeepCounting.Ran(connection, transaction, run.MachineId, now);
        await ReadingStore.OfRun(connection, transaction, id, run.MachineId, (run.Start, run.End), now);
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.RunLogged,
            new
            {
                run = id,
                person = await LedgerStore.Number(connection, transaction, run.PersonId),
                by = await LedgerStore.Number(connection, transaction, by),
                machine = run.MachineId,
                booking = bookingId,
                material = run.MaterialId,
                start = Core.Ledger.Chain.Instant(run.Start),
                end = Core.Ledger.Chain.Instant(run.End),
                outcome = Word(run.Outcome),
                allowed = standing.Allowed,
                codes = standing.Codes,
                settings = text?.InChain,
            }
        );
        // Its machine is stopped, and the stewards are called, with the incident that opens.
        if (run.Outcome == Outcome.Flame)
            await IncidentStore.OfFlame(connection, transaction, id, run, by, now);
        return await OutcomeOf(connection, transaction, id);
    }

    /// <summary>What the gate says of the run at the time it was made, and who stands behind it.</summary>
    private async Task<Result<RunVerdict>> Judge(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid? bookingId,
        LoggedRun run,
        bool stewardLogs,
        PersonId? booker,
        CancellationToken cancel
    )
    {
        var booked = bookingId is null
            ? ((string, bool)?)null
            : await connection.QuerySingleOrDefaultAsync<(string, bool)?>(
                "select ask::text, cancelled_at is not null from booking.booking where id = @bookingId",
                new { bookingId },
                transaction
            );
        var asked = booked is { } found ? GateJson.Read<GateQuestion>(found.Item1) : null;
        // Handed over, it stands behind the second person’s runs, who has no supervisor.
        if (asked is not null && booker is not null && booker != run.PersonId)
            asked = asked with { MemberId = run.PersonId, SupervisorId = null };
        var covered = asked is not null && RunVerdict.Covers(asked, booked!.Value.Item2, run);
        var item = covered ? RunVerdict.ItemOf(asked!, run)! : new GateItem(run.MaterialId, run.ThicknessMm, run.Operations);
        var minutes = Math.Max(1, (int)Math.Ceiling((run.End - run.Start).TotalMinutes));
        var ask = new GateQuestion(
            MemberId: run.PersonId,
            MachineId: run.MachineId,
            Items: [item with { RunMinutes = minutes }],
            Fixture: covered ? asked!.Fixture : null,
            SupervisorId: covered ? asked!.SupervisorId : null,
            Start: run.Start,
            Minutes: minutes,
            Phase: Phase.Standing
        );
        var facts = await FactLoader.Load(
            Memory.Of(db),
            connection,
            transaction,
            ask,
            run.Start,
            null,
            booker,
            cancel,
            covered && bookingId is { } behind ? [behind] : null
        );
        if (facts.Refusal is { } refusal)
            return refusal;
        return new RunVerdict(
            RunVerdict.Against(Core.Gating.Gate.Decide(ask, facts.Value)),
            covered ? Behind.Booking
                : stewardLogs ? Behind.Steward
                : null
        );
    }

    private static async Task<LoggedOutcome> OutcomeOf(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id)
    {
        var row = await connection.QuerySingleAsync<(bool Counts, bool WantsLook, string Outcome, Guid? Incident)>(
            "select counts, wants_look, outcome, (select i.id from incidents.incident i where i.run_id = @id) from run.log where id = @id",
            new { id },
            transaction
        );
        return new LoggedOutcome(id, row.Counts, row.WantsLook, row.Outcome == "flame", row.Incident);
    }

    /// <summary>A clean run that counts is a test of what it did.</summary>
    private static Task KeepTest(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id) =>
        connection.ExecuteAsync(
            """
            insert into bench.test_result (machine_id, material_id, thickness_mm, operation, at)
            select r.machine_id, r.material_id, r.thickness_mm, o, upper(r.during) from run.log r, unnest(r.operations) o
            where r.id = @id and r.outcome = 'clean' and r.counts and (r.supervisor_id is null or r.confirmed_at is not null)
            on conflict (machine_id, material_id, thickness_mm, operation) do update set at = greatest(test_result.at, excluded.at)
            """,
            new { id },
            transaction
        );

    /// <summary>A steward has looked at a run that no rule allowed, that nobody stood behind, or at which a flame stayed.</summary>
    /// <param name="counts">The steward stands behind it, so that it counts as practice.</param>
    /// <returns>Refused when there is no such run; or why not.</returns>
    public Task<Result<bool>> Look(Guid id, PersonId by, string? reason, bool counts, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<(PersonId Person, MachineId Machine, bool Allowed, Instant? Looked)?>(
                    "select person_id, machine_id, allowed, looked_at from run.log where id = @id for update",
                    new { id },
                    transaction
                );
                if (row is not { } run)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "run"), false);
                if (RunVerdict.MayLook(run.Person, by, run.Allowed, counts, reason) is { } refusal)
                    return (refusal, false);
                if (run.Looked is not null)
                    return (RunProblems.RunLookedAt.Refuse(), false);
                var text = await LedgerStore.Keep(connection, transaction, reason!.Trim(), run.Person);
                await connection.ExecuteAsync(
                    "update run.log set looked_by = @by, looked_at = @now, look_text_id = @text, behind = case when @counts then "
                        + "coalesce(behind, 'steward') else behind end where id = @id",
                    new
                    {
                        id,
                        by,
                        now,
                        text = text.Id,
                        counts,
                    },
                    transaction
                );
                await KeepTest(connection, transaction, id);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.RunLookedAt,
                    new
                    {
                        run = id,
                        person = await LedgerStore.Number(connection, transaction, run.Person),
                        by = await LedgerStore.Number(connection, transaction, by),
                        machine = run.Machine,
                        counts,
                        why = text.InChain,
                    }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>The second word on a supervised run: from now on it counts.</summary>
    /// <returns>Refused when there is no such run; true, again too; or why not.</returns>
    public Task<Result<bool>> Confirm(Guid id, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<(
                    PersonId Person,
                    PersonId? Supervisor,
                    PersonId LoggedBy,
                    Instant? Confirmed
                )?>(
                    "select person_id, supervisor_id, logged_by, confirmed_at from run.log where id = @id for update",
                    new { id },
                    transaction
                );
                if (row is not { } run)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "run"), false);
                if (RunLog.MayConfirm(run.Person, run.Supervisor, run.LoggedBy, by) is { } refusal)
                    return (refusal, false);
                if (run.Confirmed is not null)
                    return (true, false);
                await connection.ExecuteAsync("update run.log set confirmed_at = @now where id = @id", new { id, now }, transaction);
                await KeepTest(connection, transaction, id);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.RunConfirmed,
                    new
                    {
                        run = id,
                        person = await LedgerStore.Number(connection, transaction, run.Person),
                        by = await LedgerStore.Number(connection, transaction, by),
                    }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Those that wait for a look first, then latest first.</summary>
    /// <param name="personId">Null takes everybody's; else those this person ran or supervised.</param>
    public async Task<IReadOnlyList<RunNow>> Latest(PersonId? personId, int limit, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<RunNow>(
                new CommandDefinition(
                    """
                    select r.id, r.number, r.booking_id, r.item, r.person_id, p.given_name, p.family_name, p.birth_date, r.machine_id,
                        r.material_id, m.name as material_name,
                        r.thickness_mm, r.operations, lower(r.during) as start, upper(r.during) as "end", r.outcome, t.body as settings,
                            r.logged_by, r.supervisor_id, r.confirmed_at, r.counts, r.codes, r.wants_look and r.looked_at is null as waits
                    from run.log r join people.person p on p.id = r.person_id join materials.material m on m.id = r.material_id left
                        join ledger.text t on t.id = r.text_id
                    where @personId::text is null or r.person_id = @personId or r.supervisor_id = @personId order by (r.wants_look
                        and r.looked_at is null) desc, upper(r.during) desc, r.number desc limit @limit
                    """,
                    new { personId, limit },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    private static async Task<Refusal?> Unknown(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid? bookingId,
        LoggedRun run,
        PersonId? booker
    )
    {
        var known = await connection.QuerySingleAsync<(bool Person, bool Machine, bool Material, bool Booking)>(
            """
            select exists (select from people.person where id = @PersonId and not erased), exists (select from house.machine
                where id = @MachineId),
                exists (select from materials.material where id = @MaterialId),
                @bookingId::uuid is null or exists (select from booking.booking where id = @bookingId
                    and person_id = @booker and machine_id = @MachineId)
            """,
            new
            {
                booker = booker ?? run.PersonId,
                run.PersonId,
                run.MachineId,
                run.MaterialId,
                bookingId,
            },
            transaction
        );
        return !known.Person ? RunProblems.RunUnknownMember.Refuse("memberId", run.PersonId)
            : !known.Machine ? RunProblems.RunUnknownMachine.Refuse("machineId", run.MachineId)
            : !known.Material ? RunProblems.RunUnknownMaterial.Refuse("materialId", run.MaterialId)
            : !known.Booking ? RunProblems.RunUnknownBooking.Refuse("bookingId")
            : RunLog.MayName(run, await SettingOf(connection, transaction, run.SettingId));
    }

    private static async Task<(MachineId, MaterialId, Operation, decimal)?> SettingOf(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid? id
    )
    {
        var row = await connection.QuerySingleOrDefaultAsync<(MachineId Machine, MaterialId Material, string Operation, decimal Mm)?>(
            "select machine_id, material_id, operation, thickness_mm from bench.setting where id = @id",
            new { id },
            transaction
        );
        return row is { } r ? (r.Machine, r.Material, Enum.Parse<Operation>(r.Operation, true), r.Mm) : null;
    }

    internal static string Word<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
}
