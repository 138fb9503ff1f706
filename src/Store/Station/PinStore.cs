using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Station;

namespace VelvetGate.Store.Station;

/// <summary>PINs beside fobs, kept as seals whose key stands outside the database, and for whom one is waited for.</summary>
public sealed class PinStore(NpgsqlDataSource db)
{
    /// <param name="hash">As <see cref="Core.Station.Controllers.StationKeys.Pin"/> keeps it.</param>
    public Task Set(PersonId person, string hash, Instant now, CancellationToken cancel) =>
        Execute(
            """
            insert into station.pin (person_id, hash, set_at) values (@person, @hash, @now)
            on conflict (person_id) do update set hash = @hash, set_at = @now
            """,
            new
            {
                person,
                hash,
                now,
            },
            cancel
        );

    /// <returns>Null where they have set none.</returns>
    public async Task<bool?> Is(PersonId person, string hash, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<bool?>(
            new CommandDefinition(
                "select hash = @hash from station.pin where person_id = @person",
                new { person, hash },
                cancellationToken: cancel
            )
        );
    }

    /// <returns>Since when they have one; null where they have set none.</returns>
    public async Task<Instant?> SetAt(PersonId person, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<Instant?>(
            new CommandDefinition("select set_at from station.pin where person_id = @person", new { person }, cancellationToken: cancel)
        );
    }

    /// <summary>The PIN of this person is waited for at the machine’s screen.</summary>
    public Task Await(MachineId machine, PersonId person, Instant now, CancellationToken cancel) =>
        Execute(
            """
            insert into station.pin_due (machine_id, person_id, until) values (@machine, @person, @until)
            on conflict (machine_id) do update set person_id = @person, until = @until
            """,
            new
            {
                machine,
                person,
                until = now + Pins.TypeWithin,
            },
            cancel
        );

    /// <returns>Null where no PIN is waited for.</returns>
    public async Task<PersonId?> Awaited(MachineId machine, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<PersonId?>(
            new CommandDefinition(
                "select person_id from station.pin_due where machine_id = @machine and until > @now",
                new { machine, now },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Nobody’s PIN is waited for any more.</summary>
    public Task Typed(MachineId machine, CancellationToken cancel) =>
        Execute("delete from station.pin_due where machine_id = @machine", new { machine }, cancel);

    private async Task Execute(string sql, object with, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(new CommandDefinition(sql, with, cancellationToken: cancel));
    }
}
