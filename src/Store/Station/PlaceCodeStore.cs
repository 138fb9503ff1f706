using Dapper;
using NodaTime;
using Npgsql;

namespace VelvetGate.Store.Station;

public sealed record PlaceCodeRow(string Code, Instant MadeAt);

/// <summary>The code that stands at a machine.</summary>
public sealed class PlaceCodeStore(NpgsqlDataSource db)
{
    /// <returns>Null where none was made.</returns>
    public async Task<PlaceCodeRow?> Of(MachineId machine, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<PlaceCodeRow?>(
            new CommandDefinition(
                "select code, made_at from station.place_code where machine_id = @machine",
                new { machine },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>A new one: the one before is good no longer.</summary>
    public Task Make(MachineId machine, string code, PersonId by, Instant now, CancellationToken cancel) =>
        Execute(
            """
            insert into station.place_code (machine_id, code, made_at, made_by) values (@machine, @code, @now, @by)
            on conflict (machine_id) do update set code = @code, made_at = @now, made_by = @by
            """,
            new
            {
                machine,
                code,
                now,
                by,
            },
            cancel
        );

    /// <summary>None is asked for any more.</summary>
    public Task TakeOff(MachineId machine, CancellationToken cancel) =>
        Execute("delete from station.place_code where machine_id = @machine", new { machine }, cancel);

    private async Task Execute(string sql, object with, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(new CommandDefinition(sql, with, cancellationToken: cancel));
    }
}
