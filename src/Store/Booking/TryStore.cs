using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;

namespace VelvetGate.Store.Booking;

/// <summary>Times that were asked for and refused, for a while: who, which machine, when, and what was against it.</summary>
public sealed class TryStore(NpgsqlDataSource db)
{
    /// <summary>Keeps a refused try. The same once more within the hour is the same try.</summary>
    public async Task Keep(GateQuestion ask, IReadOnlyCollection<string> codes, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                """
                insert into booking.try (person_id, machine_id, during, codes, at)
                select @MemberId, @MachineId, tstzrange(@Start, @End), @codes, @now
                where not exists (select from booking.try where person_id = @MemberId and at > @again and machine_id = @MachineId
                        and during = tstzrange(@Start, @End) and codes = @codes)
                    and (select count(*) from booking.try where person_id = @MemberId and at > @day) < @most
                """,
                new
                {
                    ask.MemberId,
                    ask.MachineId,
                    ask.Start,
                    ask.End,
                    codes = codes.Distinct().Order(StringComparer.Ordinal).ToArray(),
                    now,
                    again = now - Tries.SameWithin,
                    day = now - Duration.FromDays(1),
                    most = Tries.MostADay,
                },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Lets go of what is older than it is kept.</summary>
    public async Task Forget(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                "delete from booking.try where at < @before",
                new { before = now - Tries.Kept },
                cancellationToken: cancel
            )
        );
    }
}
