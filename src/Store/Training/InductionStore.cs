using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Training;

/// <param name="Attended">Null before the roll call.</param>
public sealed record PlaceNow(PersonId PersonId, bool? Attended);

public sealed record InductionNow(
    Guid Id,
    MachineId MachineId,
    PersonId TrainerId,
    Instant Start,
    Instant End,
    int Places,
    bool Cancelled,
    IReadOnlyList<PlaceNow> Taken
);

/// <summary>
/// Induction sessions: dated, with a trainer, places and a roll call. A session keeps its machine and its trainer as a class does.
/// </summary>
public sealed class InductionStore(NpgsqlDataSource db)
{
    private sealed record Row(Guid Id, MachineId MachineId, PersonId TrainerId, Instant Start, Instant End, int Places, bool Cancelled);

    public async Task<Result<Guid>> Plan(Induction wanted, HouseClock clock, PersonId by, Instant now, CancellationToken cancel)
    {
        try
        {
            return await Transaction.Run(
                db,
                async (connection, transaction) =>
                {
                    var machine = await connection.QuerySingleOrDefaultAsync<string>(
                        "select name from house.machine where id = @MachineId",
                        new { wanted.MachineId },
                        transaction
                    );
                    if (machine is null)
                        return ((Result<Guid>)TrainingProblems.InductionMachine.Refuse("machineId", wanted.MachineId), false);
                    if (
                        Inductions.MayTeach(
                            wanted,
                            await TrainingStore.Trains(connection, transaction, wanted.TrainerId, wanted.MachineId.Value, now)
                        ) is
                        { } refusal
                    )
                        return (refusal, false);
                    // As a booking does: the machine's row first, then what stands on it.
                    var resource = $"machine:{wanted.MachineId}";
                    await connection.ExecuteAsync(
                        "insert into booking.resource (id) values (@resource) on conflict do nothing; select id from "
                            + "booking.resource where id = @resource for update",
                        new { resource },
                        transaction
                    );
                    if (
                        await connection.ExecuteScalarAsync<bool>(
                            "select exists (select from booking.claim where resource = @resource and live and during && "
                                + "tstzrange(@start, @end))",
                            new
                            {
                                resource,
                                start = wanted.During.Start,
                                end = wanted.During.End,
                            },
                            transaction
                        )
                    )
                        return (TrainingProblems.InductionBooked.Refuse("start"), false);
                    var (first, last) = (clock.At(wanted.During.Start), clock.At(wanted.During.End));
                    var when = new Recurrence(first.Date, first.TimeOfDay, last.TimeOfDay);
                    var plan = new NewPlan(
                        Kind: PlanKind.Class,
                        Title: $"Induction on {machine}",
                        When: when,
                        PersonId: wanted.TrainerId,
                        MachineIds: [wanted.MachineId],
                        Roster: [],
                        AtOnce: 1
                    );
                    var (planned, _) = await CalendarStore.Add(connection, transaction, plan, [wanted.During], by, now);
                    if (planned.Refusal is { } clash)
                        return (clash, false);
                    var id = Guid.NewGuid();
                    await connection.ExecuteAsync(
                        "insert into training.induction (id, plan_id, machine_id, trainer_id, during, places) values (@id, @plan, "
                            + "@MachineId, @TrainerId, tstzrange(@start, @end), @Places)",
                        new
                        {
                            id,
                            plan = planned.Value,
                            wanted.MachineId,
                            wanted.TrainerId,
                            start = wanted.During.Start,
                            end = wanted.During.End,
                            wanted.Places,
                        },
                        transaction
                    );
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.InductionPlanned,
                        new
                        {
                            induction = id,
                            machine = wanted.MachineId,
                            trainer = await LedgerStore.Number(connection, transaction, wanted.TrainerId),
                            by = await LedgerStore.Number(connection, transaction, by),
                            start = Core.Ledger.Chain.Instant(wanted.During.Start),
                            end = Core.Ledger.Chain.Instant(wanted.During.End),
                            places = wanted.Places,
                        }
                    );
                    return (id, true);
                },
                cancel
            );
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ExclusionViolation)
        {
            return TrainingProblems.InductionOverlap.Refuse("start");
        }
    }

    /// <summary>Sessions that end after an instant, soonest first.</summary>
    public async Task<IReadOnlyList<InductionNow>> From(Instant from, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Read(connection, null, "i.during && tstzrange(@from, null)", new { from });
    }

    /// <returns>Refused when there is no such session.</returns>
    public Task<Result<bool>> Take(Guid id, PersonId personId, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id) is not { } session)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "induction"), false);
                if (!session.Cancelled && session.Taken.Any(t => t.PersonId == personId))
                    return (true, false);
                if (
                    Inductions.MayTake(
                        session.Cancelled,
                        session.Start,
                        session.Places - session.Taken.Count,
                        personId == session.TrainerId,
                        now
                    ) is
                    { } refusal
                )
                    return (refusal, false);
                await connection.ExecuteAsync(
                    """
                    insert into training.place (induction_id, seat, person_id, at)
                    values (@id, (select min(s) from generate_series(1, @Places) s where not exists (select from training.place p
                        where p.induction_id = @id and p.seat = s)), @personId, @now);
                    insert into house.roster (plan_id, person_id, recorded) select plan_id, @personId, tstzrange(@now, null)
                        from training.induction where id = @id
                    """,
                    new
                    {
                        id,
                        session.Places,
                        personId,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.InductionPlaced,
                    new { induction = id, person = await LedgerStore.Number(connection, transaction, personId) }
                );
                return (true, true);
            },
            cancel
        );

    /// <returns>Refused when there is no such session.</returns>
    public Task<Result<bool>> Leave(Guid id, PersonId personId, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id) is not { } session)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "induction"), false);
                if (session.Taken.All(t => t.PersonId != personId))
                    return (true, false);
                if (session.Start <= now)
                    return (TrainingProblems.InductionBegunToCall.Refuse(), false);
                await connection.ExecuteAsync(
                    $"""
                    delete from training.place where induction_id = @id and person_id = @personId;
                    update house.roster set {Dated.Closed}
                    where plan_id = (select plan_id from training.induction where id = @id) and person_id = @personId
                        and upper_inf(recorded)
                    """,
                    new
                    {
                        id,
                        personId,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.InductionLeft,
                    new { induction = id, person = await LedgerStore.Number(connection, transaction, personId) }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Says who was there. Said again, the later word counts.</summary>
    /// <returns>Refused when there is no such session.</returns>
    public Task<Result<bool>> RollCall(
        Guid id,
        IReadOnlyDictionary<PersonId, bool> there,
        PersonId by,
        bool steward,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id) is not { } session)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "induction"), false);
                if (
                    Inductions.MayCall(
                        session.Cancelled,
                        session.Start,
                        by == session.TrainerId || steward,
                        there.Keys,
                        [.. session.Taken.Select(t => t.PersonId)],
                        by,
                        now
                    ) is
                    { } refusal
                )
                    return (refusal, false);
                foreach (var (person, attended) in there)
                {
                    var changed = await connection.ExecuteAsync(
                        "update training.place set attended = @attended, called_by = @by, called_at = @now where induction_id = "
                            + "@id and person_id = @person and attended is distinct from @attended",
                        new
                        {
                            id,
                            person,
                            attended,
                            by,
                            now,
                        },
                        transaction
                    );
                    if (changed == 1)
                        await LedgerStore.Append(
                            connection,
                            transaction,
                            now,
                            RecordEvents.InductionCalled,
                            new
                            {
                                induction = id,
                                person = await LedgerStore.Number(connection, transaction, person),
                                by = await LedgerStore.Number(connection, transaction, by),
                                attended,
                            }
                        );
                }
                return (true, true);
            },
            cancel
        );

    /// <summary>Calls a session off, and tells those with a place.</summary>
    /// <returns>Refused when there is no such session.</returns>
    public Task<Result<bool>> Cancel(Guid id, string reason, PersonId by, bool steward, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id) is not { } session)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "induction"), false);
                if (session.Cancelled)
                    return (true, false);
                if (Inductions.MayCallOff(by == session.TrainerId, steward, session.Start, now) is { } refusal)
                    return (refusal, false);
                await connection.ExecuteAsync(
                    "update training.induction set cancelled_at = @now where id = @id",
                    new { id, now },
                    transaction
                );
                await CalendarStore.End(
                    connection,
                    transaction,
                    await connection.QuerySingleAsync<Guid>(
                        "select plan_id from training.induction where id = @id",
                        new { id },
                        transaction
                    ),
                    by,
                    now
                );
                await MessageStore.Tell(
                    connection,
                    transaction,
                    [
                        .. session.Taken.Select(t => new Telling(
                            t.PersonId,
                            $"induction.{id}.off:{t.PersonId}",
                            "Your induction is called off",
                            reason,
                            "/training/inductions"
                        )),
                    ],
                    now
                );
                var text = await LedgerStore.Keep(connection, transaction, reason, null);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.InductionCalledOff,
                    new
                    {
                        induction = id,
                        machine = session.MachineId,
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                return (true, true);
            },
            cancel
        );

    private static async Task<InductionNow?> Locked(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id)
    {
        await connection.ExecuteAsync("select 1 from training.induction where id = @id for update", new { id }, transaction);
        return (await Read(connection, transaction, "i.id = @id", new { id })).SingleOrDefault();
    }

    private static async Task<IReadOnlyList<InductionNow>> Read(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        string where,
        object parameters
    )
    {
        using var rows = await connection.QueryMultipleAsync(
            $"""
            select i.id, i.machine_id, i.trainer_id, lower(i.during) as start, upper(i.during) as "end", i.places,
                i.cancelled_at is not null as cancelled from training.induction i where {where} order by 4, 1;
            select p.induction_id, p.person_id, p.attended from training.place p join training.induction i on i.id = p.induction_id
                where {where} order by p.at
            """,
            parameters,
            transaction
        );
        var sessions = (await rows.ReadAsync<Row>()).ToList();
        var places = (await rows.ReadAsync<(Guid Id, PersonId Person, bool? Attended)>()).ToLookup(
            p => p.Id,
            p => new PlaceNow(p.Person, p.Attended)
        );
        return
        [
            .. sessions.Select(s => new InductionNow(
                Id: s.Id,
                MachineId: s.MachineId,
                TrainerId: s.TrainerId,
                Start: s.Start,
                End: s.End,
                Places: s.Places,
                Cancelled: s.Cancelled,
                Taken: [.. places[s.Id]]
            )),
        ];
    }
}
