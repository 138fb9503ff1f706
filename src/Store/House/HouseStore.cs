using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Machines;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.House;

/// <param name="Stop">The stop that holds now; null when in service.</param>
public sealed record MachineNow(MachineSpec Spec, StopNow? Stop);

/// <param name="Reason">Free text; gone once erased.</param>
/// <param name="Incident">Number of the incident that set it and ends it; null for any other stop.</param>
public sealed record StopNow(
    Guid Id,
    MachineId MachineId,
    Instant Since,
    PersonId SetBy,
    string GivenName,
    string FamilyName,
    LocalDate? BirthDate,
    string? Reason,
    Guid? IncidentId,
    int? Incident
);

/// <summary>Who is on duty, and until when.</summary>
public sealed record OnDutyNow(string GivenName, string FamilyName, LocalDate? BirthDate, Instant Until);

/// <summary>Machines, house rules, stops and the steward rota.</summary>
public sealed class HouseStore(NpgsqlDataSource db)
{
    private const string StopsSql = """
        select s.id, s.machine_id, lower(s.held) as since, s.set_by, p.given_name, p.family_name, p.birth_date, t.body as reason,
            i.id as incident_id, i.number as incident
        from house.stop s join people.person p on p.id = s.set_by left join ledger.text t on t.id = s.text_id
            left join incidents.incident i on i.id = s.incident_id
        where upper_inf(s.recorded) and s.held @> @now
        order by lower(s.held)
        """;

    internal static readonly Query<StopNow> StopsNow = new(StopsSql);

    internal static readonly Query<OnDutyNow> DutyNow = new(
        """
        select p.given_name, p.family_name, p.birth_date, upper(d.during) as until from house.duty d
            join people.person p on p.id = d.person_id
        where d.during @> @now and upper_inf(d.recorded) order by upper(d.during) desc
        """
    );

    /// <summary>The rules that hold at an instant; null in a house that has none yet.</summary>
    public async Task<HouseRules?> Rules(Instant at, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var text = await connection.QuerySingleOrDefaultAsync<string>(
            new CommandDefinition(
                "select body::text from house.rules where held @> @at and upper_inf(recorded)",
                new { at },
                cancellationToken: cancel
            )
        );
        return text is null ? null : GateJson.Read<HouseRules>(text);
    }

    public async Task<IReadOnlyList<MachineNow>> Machines(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                "select spec::text from house.machine order by position, id;" + StopsSql,
                new { now },
                cancellationToken: cancel
            )
        );
        var specs = (await rows.ReadAsync<string>()).Select(GateJson.Read<MachineSpec>).ToList();
        var stops = (await rows.ReadAsync<StopNow>()).ToLookup(s => s.MachineId);
        return [.. specs.Select(s => new MachineNow(s, stops[s.Id].FirstOrDefault()))];
    }

    /// <summary>Those whose last day in the house is not over: what people choose from.</summary>
    public async Task<IReadOnlyList<MachineNow>> MachinesHere(Instant now, CancellationToken cancel)
    {
        var rules = await Rules(now, cancel);
        return [.. (await Machines(now, cancel)).Where(m => rules is null || !m.Spec.IsGone(now, rules.Clock))];
    }

    /// <summary>Stops a machine until somebody with that authority returns it, and tells the stewards.</summary>
    public Task<Result<Guid>> Stop(MachineId machineId, PersonId by, string reason, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                // One after the other for each person: two windows set one stop.
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730021, hashtext(@by))", new { by }, transaction);
                var (standing, today) = await connection.QuerySingleAsync<(bool Standing, int Today)>(
                    """
                    select exists (select from house.stop where machine_id = @machineId and set_by = @by and upper_inf(recorded)
                        and held @> @now),
                        (select count(distinct id)::int from house.stop where set_by = @by and lower(held) > @since)
                    """,
                    new
                    {
                        machineId,
                        by,
                        now,
                        since = now - Duration.FromDays(1),
                    },
                    transaction
                );
                if (StopLimits.MayStop(standing, today) is { } refusal)
                    return ((Result<Guid>)refusal, false);
                var id = await StopAndTell(connection, transaction, machineId, by, reason, now);
                return ((Result<Guid>)id, true);
            },
            cancel
        );

    /// <summary>Stops a machine, and tells the stewards.</summary>
    internal static async Task<Guid> StopAndTell(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machineId,
        PersonId by,
        string reason,
        Instant now,
        Guid? fault = null
    )
    {
        var id = await Stop(connection, transaction, machineId, by, reason, now, null, fault);
        var machine = await connection.ExecuteScalarAsync<string>(
            "select name from house.machine where id = @machineId",
            new { machineId },
            transaction
        );
        await TellStewards(connection, transaction, by, $"machine.stopped:{id}", $"{machine} was stopped", reason, "/machines", now);
        return id;
    }

    /// <summary>Tells the stewards on duty, and all of them while nobody is.</summary>
    /// <param name="but">Who did it, and need not be told; null for nobody.</param>
    internal static async Task TellStewards(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId? but,
        string key,
        string title,
        string body,
        string link,
        Instant now
    )
    {
        var stewards = (
            await connection.QueryAsync<PersonId>(
                "select distinct person_id from house.duty where during @> @now and upper_inf(recorded)",
                new { now },
                transaction
            )
        ).ToList();
        if (stewards.Count == 0)
            stewards =
            [
                .. await connection.QueryAsync<PersonId>(
                    "select distinct person_id from people.acting where role = 'steward' and held @> @now and upper_inf(recorded)",
                    new { now },
                    transaction
                ),
            ];
        await MessageStore.Tell(
            connection,
            transaction,
            [.. stewards.Where(s => s != but).Select(s => new Telling(s, $"{key}:{s}", title, body, link))],
            now
        );
    }

    /// <summary>Stops that stand on a machine.</summary>
    public async Task<IReadOnlyList<Guid>> Stops(MachineId machineId, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<Guid>(
                new CommandDefinition(
                    "select id from house.stop where machine_id = @machineId and upper_inf(recorded) and held @> @now order by lower(held)",
                    new { machineId, now },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <param name="incident">The incident that it follows from, and that ends it; null for any other stop.</param>
    /// <param name="fault">The fault that it follows from, and that is closed with it.</param>
    internal static async Task<Guid> Stop(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        MachineId machineId,
        PersonId by,
        string reason,
        Instant now,
        Guid? incident,
        Guid? fault = null
    )
    {
        var id = Guid.NewGuid();
        var text = await LedgerStore.Keep(connection, transaction, reason, null);
        await connection.ExecuteAsync(
            """
            insert into house.stop (id, machine_id, set_by, text_id, incident_id, fault_id, held, recorded)
            values (@id, @machineId, @by, @text, @incident, @fault, tstzrange(@now, null), tstzrange(@now, null))
            """,
            new
            {
                id,
                machineId,
                by,
                text = text.Id,
                incident,
                fault,
                now,
            },
            transaction
        );
        var number = await LedgerStore.Number(connection, transaction, by);
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.MachineStopped,
            new
            {
                stop = id,
                machine = machineId,
                by = number,
                start = Core.Ledger.Chain.Instant(now),
                end = (string?)null,
                why = text.InChain,
            }
        );
        return id;
    }
}
