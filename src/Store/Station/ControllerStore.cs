using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Station;

/// <param name="Salt">With the house’s own key it gives the controller’s.</param>
/// <param name="Gaps">Readings that never came, since its last boot.</param>
/// <param name="Live">What it says now; null before its first word.</param>
public sealed record ControllerRow(
    string Serial,
    MachineId MachineId,
    string Salt,
    Instant EnrolledAt,
    Instant? RevokedAt,
    int Boot,
    long Gaps,
    MachineLive? Live
);

/// <summary>A machine whose relay is not as it should be.</summary>
/// <param name="Drop">Why the beam should go off; null where it should come on.</param>
public sealed record BeamApart(MachineId MachineId, string Serial, string? Drop);

/// <param name="Number">Of the last event that is kept.</param>
/// <param name="At">When this one happened; null where it was kept before, or another is missing before it.</param>
public sealed record EventKept(long Number, Instant? At = null);

/// <summary>
/// Controllers, and what they tell. Every message names its boot: an older one is never taken. Events are kept once, in their order, with
/// what they change of the session, in one transaction; so any number of servers may listen.
/// </summary>
public sealed class ControllerStore(NpgsqlDataSource db, StationStore stations)
{
    /// <summary>Those that are enrolled now.</summary>
    public async Task<IReadOnlyList<ControllerRow>> Enrolled(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<(string, MachineId, string, Instant, int, long, string?)>(
            new CommandDefinition(
                """
                select serial, machine_id, salt, enrolled_at, boot, gaps, live::text from station.controller
                where revoked_at is null order by machine_id
                """,
                cancellationToken: cancel
            )
        );
        return
        [
            .. rows.Select(r => new ControllerRow(
                Serial: r.Item1,
                MachineId: r.Item2,
                Salt: r.Item3,
                EnrolledAt: r.Item4,
                RevokedAt: null,
                Boot: r.Item5,
                Gaps: r.Item6,
                Live: r.Item7 is null ? null : GateJson.Read<MachineLive>(r.Item7)
            )),
        ];
    }

    /// <summary>Binds a machine to a controller. Enrolled again, a controller gets another key.</summary>
    public Task<Result<bool>> Enrol(string serial, MachineId machine, string salt, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730031)", transaction: transaction);
                var (known, bound) = await connection.QuerySingleAsync<(bool Known, string? Bound)>(
                    """
                    select exists (select from station.controller where serial = @serial),
                        (select serial from station.controller where machine_id = @machine and revoked_at is null)
                    """,
                    new { serial, machine },
                    transaction
                );
                if (ControllerDoor.MayEnrol(serial, known, bound) is { } not)
                    return ((Result<bool>)not, false);
                await connection.ExecuteAsync(
                    """
                    insert into station.controller (serial, machine_id, salt, enrolled_at, enrolled_by)
                    values (@serial, @machine, @salt, @now, @by)
                    """,
                    new
                    {
                        serial,
                        machine,
                        salt,
                        now,
                        by,
                    },
                    transaction
                );
                await Write(connection, transaction, RecordEvents.ControllerEnrolled, serial, machine, by, now);
                return (true, true);
            },
            cancel
        );

    /// <summary>From now on nobody listens to it, and its machine starts nothing by it.</summary>
    public Task<Result<bool>> Revoke(string serial, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var machine = await connection.QuerySingleOrDefaultAsync<MachineId?>(
                    "update station.controller set revoked_at = @now where serial = @serial and revoked_at is null returning machine_id",
                    new { serial, now },
                    transaction
                );
                if (machine is not { } of)
                    return ((Result<bool>)StationProblems.ControllerUnknown.Refuse(null, serial), false);
                await Write(connection, transaction, RecordEvents.ControllerRevoked, serial, of, by, now);
                return (true, true);
            },
            cancel
        );

    /// <summary>A message of a boot later than the last known: a run that was on is broken off.</summary>
    /// <returns>False where it comes from an older boot: nobody listens.</returns>
    public Task<bool> Booted(string serial, int boot, long ms, int? clockApart, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, serial) is not { } row || boot < row.Boot)
                    return (false, false);
                if (boot == row.Boot && clockApart is null)
                    return (true, false);
                var isNew = boot > row.Boot;
                var live = (row.Live ?? new MachineLive(serial)) with { HeardAt = now, ClockApartSeconds = clockApart };
                if (isNew)
                    live = live with { Beam = false, AirSince = null, Sensors = null, ReadAt = null };
                await connection.ExecuteAsync(
                    """
                    update station.controller set boot = @boot, clock = @clock::jsonb, live = @live::jsonb,
                        event_number = case when @isNew then 0 else event_number end,
                        reading_number = case when @isNew then 0 else reading_number end,
                        gaps = case when @isNew then 0 else gaps end
                    where serial = @serial
                    """,
                    new
                    {
                        serial,
                        boot,
                        isNew,
                        clock = GateJson.Write(isNew ? BootClock.Heard(null, ms, now) : row.Clock ?? BootClock.Heard(null, ms, now)),
                        live = GateJson.Write(live),
                    },
                    transaction
                );
                if (
                    isNew
                    && await StationStore.OpenLocked(connection, transaction, row.MachineId) is { Beam: true } session
                    && await WasGranted(connection, transaction, session)
                    && await stations.FactsOf(connection, transaction, session, now, cancel) is { Refusal: null } facts
                )
                {
                    var after = session.PowerLost(facts.Value, now);
                    await StationStore.Save(connection, transaction, session, after, now);
                    await StationStore.Write(connection, transaction, after, RecordEvents.StationBeamOff, null, now);
                }
                return (true, true);
            },
            cancel
        );

    /// <summary>What was read; the last of each machine, and a row a minute.</summary>
    public Task<bool> Read(string serial, Readings reading, MachineSpec machine, HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (
                    await Locked(connection, transaction, serial) is not { } row
                    || reading.Boot != row.Boot
                    || reading.Number <= row.ReadingNumber
                )
                    return (false, false);
                var clock = BootClock.Heard(row.Clock, reading.Ms, now);
                var at = Instant.Min(clock.At(reading.Ms), now);
                var live = (row.Live ?? new MachineLive(serial)).With(reading, machine, at, now);
                await connection.ExecuteAsync(
                    """
                    update station.controller set reading_number = @Number, gaps = gaps + @Number - reading_number - 1,
                        clock = @clock::jsonb, live = @live::jsonb where serial = @serial;
                    insert into station.reading as r
                        (machine_id, minute, readings, airflow_n, airflow_sum, airflow_low, coolant_n, coolant_sum, coolant_high)
                    values (@MachineId, date_trunc('minute', @at::timestamptz), 1, (@airflow::numeric is not null)::int,
                        coalesce(@airflow, 0), @airflow, (@coolant::numeric is not null)::int, coalesce(@coolant, 0), @coolant)
                    on conflict (machine_id, minute) do update set readings = r.readings + 1,
                        airflow_n = r.airflow_n + excluded.airflow_n, airflow_sum = r.airflow_sum + excluded.airflow_sum,
                        airflow_low = least(r.airflow_low, excluded.airflow_low),
                        coolant_n = r.coolant_n + excluded.coolant_n, coolant_sum = r.coolant_sum + excluded.coolant_sum,
                        coolant_high = greatest(r.coolant_high, excluded.coolant_high);
                    """,
                    new
                    {
                        serial,
                        reading.Number,
                        row.MachineId,
                        at,
                        airflow = reading.Sensors.AirflowM3PerHour,
                        coolant = reading.Sensors.CoolantC,
                        clock = GateJson.Write(clock),
                        live = GateJson.Write(live),
                    },
                    transaction
                );
                if (
                    await Waiting(connection, transaction, row.MachineId) is { } session
                    && session.Reckoned(machine, rules, reading.Sensors.AirflowM3PerHour) is var after
                    && !ReferenceEquals(after, session)
                )
                    await StationStore.Save(connection, transaction, session, after, now);
                return (true, true);
            },
            cancel
        );

    /// <summary>What happened: kept once and in order, with what it changes of the session.</summary>
    /// <returns>Null where nobody listens.</returns>
    public Task<EventKept?> Heard(string serial, MachineEvent e, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, serial) is not { } row || e.Boot != row.Boot)
                    return ((EventKept?)null, false);
                // One that is known already, or one before which another is missing: that is told again.
                if (e.Number != row.EventNumber + 1)
                    return (new EventKept(row.EventNumber), false);
                var at = Instant.Min((row.Clock ?? BootClock.Heard(null, e.Ms, now)).At(e.Ms), now);
                var session = await StationStore.OpenLocked(connection, transaction, row.MachineId);
                await connection.ExecuteAsync(
                    """
                    insert into station.machine_event (serial, boot, number, at, received_at, kind, value, session_id)
                    values (@serial, @Boot, @Number, @at, @now, @kind, @value, @session);
                    update station.controller set event_number = @Number, live = @live::jsonb where serial = @serial;
                    """,
                    new
                    {
                        serial,
                        e.Boot,
                        e.Number,
                        at,
                        now,
                        kind = Cut(e.Kind),
                        value = e.Kind == EventKind.Fob ? null : Cut(e.Value),
                        session = session?.Id,
                        live = GateJson.Write(Told(row.Live ?? new MachineLive(serial), e.Kind, at, now)),
                    },
                    transaction
                );
                if (
                    session is not null
                    && await stations.FactsOf(connection, transaction, session, now, cancel) is { Refusal: null } facts
                    && session.Heard(e.Kind, e.Value, facts.Value, at) is var after
                    && !ReferenceEquals(after, session)
                )
                {
                    await StationStore.Save(connection, transaction, session, after, now);
                    if (session.Beam && !after.Beam)
                        await StationStore.Write(connection, transaction, after, RecordEvents.StationBeamOff, null, now);
                }
                else if (e.Kind == EventKind.KeyOut && !await IsStopped(connection, transaction, row.MachineId, now))
                    await HouseStore.StopAndTell(connection, transaction, row.MachineId, row.EnrolledBy, ServiceKey.Out, now);
                else if (e.Kind == EventKind.Stuck)
                    await HouseStore.StopAndTell(connection, transaction, row.MachineId, row.EnrolledBy, StuckSays, now);
                else if (e is { Kind: EventKind.RelayOn, Value: EventKind.Paper })
                    await HouseStore.TellStewards(
                        connection,
                        transaction,
                        null,
                        $"station.paper:{serial}:{e.Boot}:{e.Number}",
                        $"A run on paper at {row.MachineId}",
                        "Let on by the paper key while the house was away. Write it in, under Bookings, Runs: sheet, settings and outcome.",
                        "/bookings",
                        now
                    );
                return (new EventKept(e.Number, at), true);
            },
            cancel
        );

    private const string StuckSays = "The beam stayed on after it was taken away. The wall switch first; a repairer returns it.";

    /// <summary>The answer to a question for the beam; each question has one answer.</summary>
    public Task<Grant?> Asked(string serial, Want want, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (
                    want.Challenge is not { Length: > 0 and <= 100 }
                    || await Locked(connection, transaction, serial) is not { } row
                    || want.Boot != row.Boot
                    || await StationStore.OpenLocked(connection, transaction, row.MachineId) is not { } session
                    || await stations.FactsOf(connection, transaction, session, now, cancel) is not { Refusal: null } facts
                )
                    return ((Grant?)null, false);
                var stopped = await IsStopped(connection, transaction, row.MachineId, now);
                if (Permits.For(session, facts.Value, stopped, want.Challenge, now) is not { } grant)
                    return (null, false);
                var first = await connection.ExecuteAsync(
                    """
                    insert into station.permit (serial, challenge, at, session_id, seconds, end_seconds)
                    values (@serial, @Challenge, @now, @Id, @Seconds, @EndSeconds) on conflict do nothing
                    """,
                    new
                    {
                        serial,
                        grant.Challenge,
                        now,
                        session.Id,
                        grant.Seconds,
                        grant.EndSeconds,
                    },
                    transaction
                );
                return first == 1 ? (grant, true) : (null, false);
            },
            cancel
        );

    /// <summary>
    /// Beams that are on and should not be, or should be and are not: looked for again and again, so that no lost message leaves one so.
    /// </summary>
    public async Task<IReadOnlyList<BeamApart>> BeamsApart(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<(MachineId Machine, string Serial, bool Beam, string? Session, bool Stopped)>(
            new CommandDefinition(
                """
                select c.machine_id, c.serial, coalesce((c.live ->> 'beam')::boolean, false), s.body::text,
                    exists (select from house.stop h where h.machine_id = c.machine_id and upper_inf(h.recorded) and h.held @> @now)
                from station.controller c
                    left join station.session s on s.machine_id = c.machine_id and s.ended_at is null
                where c.revoked_at is null and ((c.live ->> 'beam')::boolean or s.id is not null)
                """,
                new { now },
                cancellationToken: cancel
            )
        );
        return [.. rows.Select(r => Apart(r.Machine, r.Serial, r.Beam, r.Session, r.Stopped, now)).OfType<BeamApart>()];
    }

    private static BeamApart? Apart(MachineId machine, string serial, bool beam, string? body, bool stopped, Instant now)
    {
        var session = body is null ? null : GateJson.Read<StationSession>(body);
        var drop = beam ? Permits.DropWanted(session, stopped) : null;
        return drop is not null || (!beam && Permits.AskWanted(session, stopped, now)) ? new BeamApart(machine, serial, drop) : null;
    }

    private static MachineLive Told(MachineLive live, string kind, Instant at, Instant now) =>
        kind switch
        {
            EventKind.RelayOn => live with { Beam = true, RelayAt = at, HeardAt = now },
            EventKind.RelayOff => live with { Beam = false, RelayAt = at, HeardAt = now },
            EventKind.LidOpened when live.Sensors is { } s => live with { Sensors = s with { LidShut = false }, HeardAt = now },
            EventKind.LidShut when live.Sensors is { } s => live with { Sensors = s with { LidShut = true }, HeardAt = now },
            _ => live with { HeardAt = now },
        };

    private static string? Cut(string? text) => text is { Length: > 60 } ? text[..60] : text;

    private static async Task<StationSession?> Waiting(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineId machine)
    {
        var body = await connection.QuerySingleOrDefaultAsync<string?>(
            """
            select body::text from station.session
            where machine_id = @machine and ended_at is null and body ->> 'step' = 'wait' for update
            """,
            new { machine },
            transaction
        );
        return body is null ? null : GateJson.Read<StationSession>(body);
    }

    /// <summary>A beam that was never granted was never on: a boot breaks nothing off.</summary>
    private static Task<bool> WasGranted(NpgsqlConnection connection, NpgsqlTransaction transaction, StationSession session) =>
        connection.ExecuteScalarAsync<bool>(
            "select exists (select from station.permit where session_id = @Id and at >= @Start)",
            new { session.Id, session.Run!.Start },
            transaction
        );

    private static Task<bool> IsStopped(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineId machine, Instant now) =>
        connection.ExecuteScalarAsync<bool>(
            "select exists (select from house.stop where machine_id = @machine and upper_inf(recorded) and held @> @now)",
            new { machine, now },
            transaction
        );

    private sealed record Row(
        MachineId MachineId,
        PersonId EnrolledBy,
        int Boot,
        long EventNumber,
        long ReadingNumber,
        BootClock? Clock,
        MachineLive? Live
    );

    private static async Task<Row?> Locked(NpgsqlConnection connection, NpgsqlTransaction transaction, string serial)
    {
        var row = await connection.QuerySingleOrDefaultAsync<(MachineId, PersonId, int, long, long, string?, string?)?>(
            """
            select machine_id, enrolled_by, boot, event_number, reading_number, clock::text, live::text from station.controller
            where serial = @serial and revoked_at is null for update
            """,
            new { serial },
            transaction
        );
        return row is { } r
            ? new Row(
                MachineId: r.Item1,
                EnrolledBy: r.Item2,
                Boot: r.Item3,
                EventNumber: r.Item4,
                ReadingNumber: r.Item5,
                Clock: r.Item6 is null ? null : GateJson.Read<BootClock>(r.Item6),
                Live: r.Item7 is null ? null : GateJson.Read<MachineLive>(r.Item7)
            )
            : null;
    }

    private static async Task Write(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RecordEvent kind,
        string serial,
        MachineId machine,
        PersonId by,
        Instant now
    ) =>
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            kind,
            new
            {
                serial,
                machine,
                by = await LedgerStore.Number(connection, transaction, by),
            }
        );
}
