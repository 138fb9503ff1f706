using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Run;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Run;

namespace VelvetGate.Store.Station;

/// <summary>Who stands at a machine, and how far they are.</summary>
public sealed class StationStore(NpgsqlDataSource db, RunStore runs)
{
    /// <returns>Null where nobody is tapped in.</returns>
    public async Task<StationSession?> Open(MachineId machine, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var body = await connection.QuerySingleOrDefaultAsync<string?>(
            new CommandDefinition(
                "select body::text from station.session where machine_id = @machine and ended_at is null",
                new { machine },
                cancellationToken: cancel
            )
        );
        return body is null ? null : GateJson.Read<StationSession>(body);
    }

    /// <returns>What the machine’s controller says; null without one.</returns>
    public async Task<MachineLive?> Live(MachineId machine, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var row = await connection.QuerySingleOrDefaultAsync<(string Serial, string? Live)?>(
            new CommandDefinition(
                "select serial, live::text from station.controller where machine_id = @machine and revoked_at is null",
                new { machine },
                cancellationToken: cancel
            )
        );
        return row is not { } r ? null
            : r.Live is null ? new MachineLive(r.Serial)
            : GateJson.Read<MachineLive>(r.Live);
    }

    /// <summary>Begins a session on a booking. The same person again on the same booking answers with the session there is.</summary>
    /// <param name="supervised">When the supervisor tapped here before, who chose the learner; null where the person tapped.</param>
    public Task<Result<StationSession>> TapIn(
        Guid id,
        BookedTime booked,
        Instant now,
        CancellationToken cancel,
        Instant? supervised = null
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync(
                    "select from house.machine where id = @MachineId for update",
                    new { booked.MachineId },
                    transaction
                );
                var body = await connection.QuerySingleOrDefaultAsync<string?>(
                    "select body::text from station.session where machine_id = @MachineId and ended_at is null",
                    new { booked.MachineId },
                    transaction
                );
                var there = body is null ? null : GateJson.Read<StationSession>(body);
                if (there?.Booking == booked.Id)
                    return (there, false);
                var facts = await Facts(connection, transaction, Asked(booked, now), booked.PersonId, booked.Id, now, cancel);
                if (facts.Refusal is { } unknown)
                    return (unknown, false);
                var against = SessionGate.Against(Core.Gating.Gate.Decide(facts.Value.Ask, facts.Value.Facts));
                var elsewhere = await Elsewhere(connection, transaction, booked.PersonId, booked.MachineId);
                if (StationDoor.MayBegin(there, elsewhere, against, now) is { } shut)
                    return (shut, false);
                if (there is not null)
                    await EndLeft(connection, transaction, there, booked.PersonId, now);
                var places = PlaceChecks.For(
                    facts.Value.Facts.Machine.Spec,
                    await Last(connection, transaction, booked.MachineId),
                    booked.PersonId,
                    now,
                    booked.Ask.SupervisorId
                );
                var session = new StationSession
                {
                    Id = id,
                    MachineId = booked.MachineId,
                    Person = booked.PersonId,
                    Supervisor = booked.Ask.SupervisorId,
                    Companions = booked.Companions,
                    SupervisorAt = supervised,
                    Booking = booked.Id,
                    Fixture = booked.Ask.Fixture,
                    TappedIn = now,
                    Until = booked.End,
                    Items = booked.Ask.Items,
                    Places = places,
                    Found = there?.LeftOpen ?? [],
                    ShortClosing = StationDoor.ShortClosing(
                        facts.Value.Facts.Rules,
                        await ComesAfter(connection, transaction, booked.MachineId, booked.End, facts.Value.Facts.Rules)
                    ),
                    Controlled = await connection.ExecuteScalarAsync<bool>(
                        "select exists (select from station.controller where machine_id = @MachineId and revoked_at is null)",
                        new { booked.MachineId },
                        transaction
                    ),
                };
                await connection.ExecuteAsync(
                    """
                    insert into station.session (id, machine_id, person_id, booking_id, at, whole, body)
                    values (@id, @MachineId, @PersonId, @booking, @now, @whole, @body::jsonb)
                    """,
                    new
                    {
                        id,
                        booked.MachineId,
                        booked.PersonId,
                        booking = booked.Id,
                        now,
                        whole = places.Any(p => p.Id == "power"),
                        body = GateJson.Write(session),
                    },
                    transaction
                );
                if (booked.ArrivedAt is null)
                    await BookingStore.Arrived(connection, transaction, booked, booked.PersonId, now);
                if (session.Fixture is { } fixture)
                    await FixtureStore.TappedIn(connection, transaction, fixture, session.Person, booked.Id, booked.End, now);
                await Write(connection, transaction, session, RecordEvents.StationTappedIn, booked.PersonId, now);
                return ((Result<StationSession>)session, true);
            },
            cancel
        );

    /// <summary>Somebody has the machine later on the same day.</summary>
    private static Task<bool> ComesAfter(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        MachineId machine,
        Instant end,
        Core.House.HouseRules rules
    ) =>
        connection.ExecuteScalarAsync<bool>(
            """
            select exists (select from booking.booking where machine_id = @machine and cancelled_at is null
                and lower(during) >= @end and lower(during) < @day)
            """,
            new
            {
                machine,
                end,
                day = rules.Clock.Day(rules.Clock.DateOf(end - Duration.FromSeconds(1))).End,
            },
            transaction
        );

    /// <returns>Name of another machine at which the person is tapped in; null for none.</returns>
    internal static Task<string?> Elsewhere(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId person,
        MachineId machine
    ) =>
        connection.QuerySingleOrDefaultAsync<string?>(
            """
            select m.name from station.session s join house.machine m on m.id = s.machine_id
            where s.person_id = @person and s.ended_at is null and s.machine_id <> @machine
            """,
            new { person, machine },
            transaction
        );

    /// <summary>Ends a session that nobody ended, for the next person; the stewards hear what it left.</summary>
    private static async Task EndLeft(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        StationSession left,
        PersonId by,
        Instant now
    )
    {
        left = left with { TappedOut = now, Version = left.Version + 1 };
        await connection.ExecuteAsync(
            "update station.session set ended_at = @now, version = @Version, body = @body::jsonb where id = @Id",
            new
            {
                left.Id,
                left.Version,
                now,
                body = GateJson.Write(left),
            },
            transaction
        );
        if (left.LeftOpen.Count > 0)
            await HouseStore.TellStewards(
                connection,
                transaction,
                null,
                $"station.left:{left.Id}",
                $"Somebody left {left.MachineId} without tapping out",
                $"Not done: {string.Join(", ", left.LeftOpen)}.",
                $"/station/{left.MachineId}",
                now
            );
        await Write(connection, transaction, left, RecordEvents.StationTappedOut, by, now);
    }

    /// <summary>One act on the session as the person saw it.</summary>
    /// <param name="id">Of the act, client-made: the same again changes nothing, and answers with the session as it is.</param>
    /// <param name="version">Of the session that the person saw.</param>
    public Task<Result<StationSession>> Do(
        Guid sessionId,
        Guid id,
        int version,
        StationAct act,
        PersonId? by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var body = await connection.QuerySingleOrDefaultAsync<string?>(
                    "select body::text from station.session where id = @sessionId for update",
                    new { sessionId },
                    transaction
                );
                var there = body is null ? null : GateJson.Read<StationSession>(body);
                var known = await connection.ExecuteScalarAsync<bool>(
                    "select exists (select from station.act where session_id = @sessionId and id = @id)",
                    new { sessionId, id },
                    transaction
                );
                var standing = known ? there! : StationDoor.MayGoOn(there, version, act.Deed);
                if (known || standing.Refusal is not null)
                    return (standing, false);
                var session = standing.Value;
                var facts = await FactsOf(connection, transaction, session, now, cancel);
                if (facts.Refusal is { } unknown)
                    return (unknown, false);
                var done = session.After(act, facts.Value, now);
                if (done.Refusal is { } refusal)
                    return (refusal, false);
                var after = done.Value;
                if (
                    act.Deed == Deed.Outcome
                    && await Log(connection, transaction, session, after, act.Note, by!.Value, now, cancel) is { } unlogged
                )
                    return (unlogged, false);
                await connection.ExecuteAsync(
                    "insert into station.act (session_id, id, version, at, deed, by) values (@Id, @actId, @Version, @now, @deed, @by)",
                    new
                    {
                        after.Id,
                        actId = id,
                        after.Version,
                        now,
                        deed = act.Deed.ToString(),
                        by,
                    },
                    transaction
                );
                await Save(connection, transaction, session, after, now, by);
                if (after.Lapses > SessionActs.LapsesAlone && session.Lapses <= SessionActs.LapsesAlone)
                    await HouseStore.TellStewards(
                        connection,
                        transaction,
                        by,
                        $"station.lapsed:{after.Id}",
                        $"Nobody pressed in time, twice, at {after.MachineId}",
                        "The next start waits until one of you was there.",
                        $"/station/{after.MachineId}",
                        now
                    );
                if (session.Fixture is { } fixture && SessionActs.PutsFixtureBack(act))
                    await FixtureStore.PutBack(connection, transaction, fixture, session.Person, session.Booking, act.Note, now);
                if (act.Deed == Deed.Call)
                    await HouseStore.TellStewards(
                        connection,
                        transaction,
                        by,
                        $"station.call:{id}",
                        $"Somebody calls at {after.MachineId}",
                        "They are at the machine, and would like one of you there.",
                        $"/station/{after.MachineId}",
                        now
                    );
                if (EventOf(act.Deed, session) is { } kind)
                    await Write(connection, transaction, after, kind, by, now);
                return (after, true);
            },
            cancel
        );

    /// <summary>The session that is open at a machine, for this transaction alone.</summary>
    internal static async Task<StationSession?> OpenLocked(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineId machine)
    {
        var body = await connection.QuerySingleOrDefaultAsync<string?>(
            "select body::text from station.session where machine_id = @machine and ended_at is null for update",
            new { machine },
            transaction
        );
        return body is null ? null : GateJson.Read<StationSession>(body);
    }

    /// <summary>Keeps where a session stands. A fault keeps everybody from the machine until a steward has looked.</summary>
    /// <param name="by">Null where the machine told it.</param>
    internal static async Task Save(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        StationSession before,
        StationSession after,
        Instant now,
        PersonId? by = null
    )
    {
        await connection.ExecuteAsync(
            """
            update station.session set version = @Version, body = @body::jsonb, ended_at = @TappedOut, beam_minutes = @minutes,
                person_id = @Person
            where id = @Id
            """,
            new
            {
                after.Id,
                after.Person,
                after.Version,
                body = GateJson.Write(after),
                after.TappedOut,
                minutes = (decimal)after.Runs.Sum(r => (r.End - r.Start).TotalMinutes),
            },
            transaction
        );
        if (before.Run is { OffAt: null } && after is { Step: StationStep.Running, Run: { OffAt: not null, PausedAt: null } missed })
            await HouseStore.TellStewards(
                connection,
                transaction,
                null,
                $"station.missed:{after.Id}:{missed.Lapses}",
                $"Nobody pressed in time at {after.MachineId}",
                "The beam went off. Go and look, or call them.",
                $"/station/{after.MachineId}",
                now
            );
        if (before.Held is null && after.Held is { } held)
            await HouseStore.StopAndTell(connection, transaction, after.MachineId, by ?? after.Person, held, now);
    }

    /// <returns>The id itself where there is no such material.</returns>
    public async Task<string> MaterialName(MaterialId material, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<string?>(
            new CommandDefinition("select name from materials.material where id = @material", new { material }, cancellationToken: cancel)
        ) ?? material.Value;
    }

    /// <summary>What the gate says of the sheet on the bed, as it is measured and set, at this instant.</summary>
    public async Task<Result<StationFacts>> FactsOf(StationSession session, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await FactsOf(connection, null, session, now, cancel);
    }

    internal async Task<Result<StationFacts>> FactsOf(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        StationSession session,
        Instant now,
        CancellationToken cancel
    )
    {
        var ask = SessionGate.Ask(session, now);
        var loaded = await Facts(connection, transaction, ask, session.BookedBy ?? session.Person, session.Booking, now, cancel);
        if (loaded.Refusal is { } refusal)
            return refusal;
        var (broughtIn, material, stands, live, placeCode) = await connection.QuerySingleAsync<(bool, string?, bool, string?, string?)>(
            """
            select exists (select from materials.sheet where tag = @tag and brought_by is not null),
                (select name from materials.material where id = @material),
                exists (select from booking.booking where id = @Booking and cancelled_at is null),
                (select coalesce(live::text, '{"serial": ""}') from station.controller
                    where machine_id = @MachineId and revoked_at is null),
                (select code from station.place_code where machine_id = @MachineId)
            """,
            new
            {
                tag = session.On.SheetTag,
                material = session.On.MaterialId,
                session.Booking,
                session.MachineId,
            },
            transaction
        );
        var said = live is null || !session.Controlled ? null : GateJson.Read<MachineLive>(live);
        // Silent for too long, a sensor is not read.
        var facts = SessionGate.Known(session, loaded.Value.Facts, said is null ? null : said.Fresh(now) ?? new Sensors());
        var time =
            JobLength.Estimate(ask.Items[0], 0, facts, facts.Machine.Spec) is { Seconds: > 0 } estimate ? (estimate.Low, estimate.High)
            : session.On.RunMinutes is { } minutes ? ((double)minutes * 60, (double)minutes * 60)
            : ((double, double)?)null;
        return new StationFacts(
            Machine: facts.Machine.Spec,
            Rules: facts.Rules,
            Against: SessionGate.Against(session, ask, facts),
            Time: time,
            TagMm: facts.Sheets[0].Tag is { IsKnown: true, Value: { } tag } ? tag.ThicknessMm : 0,
            CareMeasure: SheetSeen.IsUneven(broughtIn, material),
            HeavyResidue: facts.Sheets[0].HeavyResidue,
            GivenBack: !stands
        )
        {
            Live = said,
            PlaceCode = placeCode,
            ComesAfter =
                session.Step is StationStep.Next or StationStep.Close
                && await ComesAfter(connection, transaction, session.MachineId, session.Until, facts.Rules),
            Mind = SessionGate.Mind(Core.Gating.Gate.Decide(ask, facts)),
            FixedEnd = Permits.FixedEnd(facts, now),
        };
    }

    /// <param name="owner">Whose drawings they are.</param>
    private async Task<Result<(GateQuestion Ask, GateFacts Facts)>> Facts(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        GateQuestion ask,
        PersonId owner,
        Guid booking,
        Instant now,
        CancellationToken cancel
    )
    {
        var facts = await FactLoader.Load(Memory.Of(db), connection, transaction, ask, now, null, owner, cancel, [booking]);
        if (facts.Refusal is { } refusal)
            return refusal;
        return (ask, SessionGate.Looked(facts.Value));
    }

    private static GateQuestion Asked(BookedTime booked, Instant now) =>
        booked.Ask with
        {
            Start = now,
            Minutes = SessionGate.Minutes(now, booked.End),
            Phase = Phase.AtMachine,
        };

    private static async Task<LastSession?> Last(NpgsqlConnection connection, NpgsqlTransaction transaction, MachineId machine)
    {
        var row = await connection.QuerySingleOrDefaultAsync<(PersonId Person, Instant Ended, decimal Minutes, string? Supervisor)?>(
            """
            select person_id, ended_at, (select coalesce(sum(w.beam_minutes), 0) from station.session w where w.machine_id = s.machine_id
                and w.at >= (select max(at) from station.session l where l.machine_id = s.machine_id and l.whole)),
                body ->> 'supervisor'
            from station.session s where machine_id = @machine and ended_at is not null order by ended_at desc limit 1
            """,
            new { machine },
            transaction
        );
        return row is { } last
            ? new LastSession(last.Person, last.Ended, last.Minutes, last.Supervisor is { } s ? s : default(PersonId?))
            : null;
    }

    private async Task<Refusal?> Log(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        StationSession before,
        StationSession after,
        string? note,
        PersonId by,
        Instant now,
        CancellationToken cancel
    )
    {
        var told = after.Runs[^1];
        var read = await ReadIn(connection, transaction, before.MachineId, told.Start, told.End);
        var words = string.Join(". ", new[] { before.Set?.Says, read, note?.Trim() }.Where(w => !string.IsNullOrEmpty(w)));
        var logged = await runs.Log(
            connection,
            transaction,
            told.Id,
            before.Booking,
            new LoggedRun(
                PersonId: before.Person,
                MachineId: before.MachineId,
                MaterialId: before.On.MaterialId,
                ThicknessMm: before.Measured.ThicknessMm,
                Operations: before.On.Operations,
                Start: told.Start,
                End: told.End,
                Outcome: told.Outcome,
                Settings: words,
                SettingId: before.Set?.Id,
                Item: told.Item
            ),
            by,
            now,
            cancel,
            booker: before.BookedBy
        );
        return logged.Refusal;
    }

    /// <summary>What the sensors said during a run, a mean of its minutes; null without a controller.</summary>
    private static async Task<string?> ReadIn(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machine,
        Instant start,
        Instant end
    )
    {
        var (airflow, coolant) = await connection.QuerySingleAsync<(decimal? Airflow, decimal? Coolant)>(
            """
            select round(sum(airflow_sum) / nullif(sum(airflow_n), 0), 0), round(sum(coolant_sum) / nullif(sum(coolant_n), 0), 1)
            from station.reading
            where machine_id = @machine and minute between date_trunc('minute', @start::timestamptz) and @end
            """,
            new
            {
                machine,
                start,
                end,
            },
            transaction
        );
        var said = new[]
        {
            airflow is null ? null : System.FormattableString.Invariant($"airflow {airflow:0} m³/h"),
            coolant is null ? null : System.FormattableString.Invariant($"coolant {coolant:0.0} °C"),
        };
        return said.All(s => s is null) ? null : $"Read: {string.Join(", ", said.OfType<string>())}";
    }

    private static RecordEvent? EventOf(Deed deed, StationSession before) =>
        deed switch
        {
            Deed.Start => RecordEvents.StationBeamOn,
            Deed.Stop when before.Step == StationStep.Running => RecordEvents.StationBeamOff,
            Deed.Look => RecordEvents.StationLapsed,
            Deed.TapOut => RecordEvents.StationTappedOut,
            _ => null,
        };

    /// <param name="by">Null where the machine told it.</param>
    internal static async Task Write(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        StationSession session,
        RecordEvent kind,
        PersonId? by,
        Instant now
    ) =>
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            kind,
            new
            {
                session = session.Id,
                machine = session.MachineId,
                booking = session.Booking,
                person = await LedgerStore.Number(connection, transaction, session.Person),
                by = by is { } who ? (int?)await LedgerStore.Number(connection, transaction, who) : null,
                version = session.Version,
                held = session.Held is not null,
            }
        );
}
