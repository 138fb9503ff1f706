using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Booking;

/// <summary>A fixture of the house, and where it is.</summary>
/// <param name="Out">Who has it since when and until when; null while nobody does.</param>
/// <param name="Damaged">It came back damaged then, with what was wrong; null where it is in order.</param>
/// <param name="NextAt">Start of the next booking with it.</param>
public sealed record FixtureNow(
    string Id,
    IReadOnlyList<MachineId> MachineIds,
    (PersonId PersonId, Instant Since, Instant Due)? Out,
    (Instant At, string? What)? Damaged,
    Instant? NextAt
);

/// <summary>Fixtures handed out and taken back, at the desk or at the machine.</summary>
public sealed class FixtureStore(NpgsqlDataSource db)
{
    private sealed record Row(
        string Id,
        MachineId[] MachineIds,
        PersonId? PersonId,
        Instant? OutAt,
        Instant? Due,
        Instant? DamagedAt,
        string? What,
        Instant? NextAt
    );

    private sealed record State(
        bool Known,
        Guid? OutId,
        PersonId? Holder,
        Guid? OutFor,
        Guid? DamagedId,
        Guid? Booking,
        Instant? BookedUntil
    )
    {
        public FixturePlace Where =>
            !Known ? FixturePlace.Unknown
            : OutId is not null ? FixturePlace.Out
            : DamagedId is not null ? FixturePlace.Damaged
            : FixturePlace.Here;
    }

    public async Task<IReadOnlyList<FixtureNow>> All(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                """
                select f.id, f.machine_ids, o.person_id, o.out_at, o.due, d.back_at as damaged_at, t.body as what,
                    (select min(lower(c.during)) from booking.claim c where c.resource = 'fixture:' || f.id and c.live
                        and lower(c.during) > @now) as next_at
                from (select id, array_agg(machine_id order by machine_id) as machine_ids from house.fixture group by id) f
                left join house.fixture_out o on o.fixture = f.id and o.back_at is null
                left join lateral (select back_at, text_id from house.fixture_out where fixture = f.id and damaged and right_at is null
                    order by back_at desc limit 1) d on true
                left join ledger.text t on t.id = d.text_id
                order by f.id
                """,
                new { now },
                cancellationToken: cancel
            )
        );
        return
        [
            .. rows.Select(r => new FixtureNow(
                Id: r.Id,
                MachineIds: r.MachineIds,
                Out: r.PersonId is { } person ? (person, r.OutAt!.Value, r.Due!.Value) : null,
                Damaged: r.DamagedAt is { } at ? (at, r.What) : null,
                NextAt: r.NextAt
            )),
        ];
    }

    /// <param name="due">Null takes the end of the person’s booking, or as long as is usual.</param>
    public Task<Result<bool>> HandOut(
        string fixture,
        PersonId person,
        Instant? due,
        PersonId by,
        bool staff,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var state = await Look(connection, transaction, fixture, person, now);
                var until = due ?? state.BookedUntil ?? now + FixtureRules.UsuallyFor;
                var refusal = FixtureRules.MayTake(
                    where: state.Where,
                    by: staff ? FixtureBy.Staff
                        : state.Booking is not null && person == by ? FixtureBy.WhoBooked
                        : FixtureBy.Others,
                    due: until,
                    now: now
                );
                if (refusal is not null)
                    return ((Result<bool>)refusal, false);
                await Out(connection, transaction, fixture, person, state.Booking, until, by, now);
                return (true, true);
            },
            cancel
        );

    public Task<Result<bool>> TakeBack(
        string fixture,
        bool damaged,
        string? note,
        PersonId by,
        bool staff,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var state = await Look(connection, transaction, fixture, by, now);
                if (
                    FixtureRules.MayReturn(
                        state.Where,
                        staff ? FixtureBy.Staff
                            : state.Holder == by ? FixtureBy.Holder
                            : FixtureBy.Others,
                        damaged,
                        note
                    ) is
                    { } refusal
                )
                    return ((Result<bool>)refusal, false);
                await Back(connection, transaction, state.OutId!.Value, fixture, damaged, note, by, now);
                return (true, true);
            },
            cancel
        );

    /// <summary>A steward looked at what came back damaged: it is in order.</summary>
    /// <returns>False where nothing was wrong.</returns>
    public Task<bool> PutRight(string fixture, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var right = await connection.ExecuteAsync(
                    "update house.fixture_out set right_at = @now, right_by = @by "
                        + "where fixture = @fixture and damaged and right_at is null",
                    new
                    {
                        fixture,
                        by,
                        now,
                    },
                    transaction
                );
                if (right > 0)
                    await Tell(connection, transaction, RecordEvents.FixtureRight, fixture, by, by, now, null);
                return (right > 0, right > 0);
            },
            cancel
        );

    /// <summary>At the machine: whoever taps in has the fixture of the booking, unless they or somebody else have it already.</summary>
    internal static async Task TappedIn(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string fixture,
        PersonId person,
        Guid booking,
        Instant until,
        Instant now
    )
    {
        var state = await Look(connection, transaction, fixture, person, now);
        if (state is { Known: true, OutId: null, DamagedId: null } && until > now)
            await Out(connection, transaction, fixture, person, booking, until, person, now);
    }

    /// <summary>At the machine: put back by whoever has it, or has its booking since. Nobody else’s is touched.</summary>
    internal static async Task PutBack(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string fixture,
        PersonId person,
        Guid booking,
        string? wrong,
        Instant now
    )
    {
        var state = await Look(connection, transaction, fixture, person, now);
        if (state.OutId is { } id && (state.Holder == person || state.OutFor == booking))
            await Back(connection, transaction, id, fixture, !string.IsNullOrWhiteSpace(wrong), wrong, person, now);
    }

    private static async Task<State> Look(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string fixture,
        PersonId person,
        Instant now
    )
    {
        // One at a time for each fixture; the index that holds it out once is the last word.
        await connection.ExecuteAsync("select pg_advisory_xact_lock(730022, hashtext(@fixture))", new { fixture }, transaction);
        return await connection.QuerySingleAsync<State>(
            """
            select exists (select from house.fixture where id = @fixture) as known,
                o.id as out_id, o.person_id as holder, o.booking_id as out_for,
                (select id from house.fixture_out where fixture = @fixture and damaged and right_at is null limit 1) as damaged_id,
                b.id as booking, upper(b.during) as booked_until
            from (select 1) one
            left join house.fixture_out o on o.fixture = @fixture and o.back_at is null
            left join lateral (select b.id, b.during from booking.booking b where b.person_id = @person and b.cancelled_at is null
                and b.ask ->> 'fixture' = @fixture and b.during && tstzrange(@now, @soon) order by lower(b.during) limit 1) b on true
            """,
            new
            {
                fixture,
                person,
                now,
                soon = now + FixtureRules.TakenBefore,
            },
            transaction
        );
    }

    private static async Task Out(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string fixture,
        PersonId person,
        Guid? booking,
        Instant due,
        PersonId by,
        Instant now
    )
    {
        await connection.ExecuteAsync(
            """
            insert into house.fixture_out (id, fixture, person_id, booking_id, out_at, out_by, due)
            values (gen_random_uuid(), @fixture, @person, @booking, @now, @by, @due)
            """,
            new
            {
                fixture,
                person,
                booking,
                now,
                by,
                due,
            },
            transaction
        );
        await Tell(connection, transaction, RecordEvents.FixtureOut, fixture, person, by, now, null);
    }

    private static async Task Back(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        string fixture,
        bool damaged,
        string? note,
        PersonId by,
        Instant now
    )
    {
        var text = string.IsNullOrWhiteSpace(note) ? null : await LedgerStore.Keep(connection, transaction, note.Trim(), by);
        var person = await connection.QuerySingleAsync<PersonId>(
            """
            update house.fixture_out set back_at = greatest(@now, out_at), back_by = @by, damaged = @damaged, text_id = @text
            where id = @id returning person_id
            """,
            new
            {
                id,
                now,
                by,
                damaged,
                text = text?.Id,
            },
            transaction
        );
        await Tell(
            connection,
            transaction,
            damaged ? RecordEvents.FixtureDamaged : RecordEvents.FixtureBack,
            fixture,
            person,
            by,
            now,
            text
        );
    }

    private static async Task Tell(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        string fixture,
        PersonId person,
        PersonId by,
        Instant now,
        TextLink? why
    ) =>
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            kind,
            new
            {
                fixture,
                person = await LedgerStore.Number(connection, transaction, person),
                by = await LedgerStore.Number(connection, transaction, by),
                why = why?.InChain,
            }
        );
}
