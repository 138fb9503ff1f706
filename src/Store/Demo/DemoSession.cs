using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Station;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Run;
using VelvetGate.Store.Station;

namespace VelvetGate.Store.Demo;

/// <summary>Whoever came to Swift runs it when the demo starts, by the same acts as anybody.</summary>
public sealed class DemoSession(NpgsqlDataSource db, Instant now)
{
    private const string Machine = "swift";
    private static readonly SetTo Set = new(null, 60, 12, 1);
    private readonly StationStore _stations = new(db, new RunStore(db));

    /// <returns>False where nobody runs anything.</returns>
    public async Task<bool> Run(CancellationToken cancel)
    {
        var open = await _stations.Open(Machine, cancel);
        if (open is not null && !StationDoor.IsLeft(open, now))
            return open.Beam && await Again(open, cancel);
        var here = (await new BookingStore(db).Between(now, now + Duration.FromMinutes(1), null, cancel)).FirstOrDefault(b =>
            b.MachineId == Machine && b.ArrivedAt is not null && b.Start <= now && b.End > now
        );
        if (here is null)
            return false;
        var at = here.ArrivedAt!.Value;
        var tapped = await _stations.TapIn(Guid.NewGuid(), here, at, cancel);
        if (tapped.Refusal is not null)
            return false;
        // Nobody reads anything yet: the looks are those of somebody who sees for himself, until the controller is heard.
        await Controlled(tapped.Value.Id, false);
        var session = tapped.Value;
        foreach (var act in Acts(session))
        {
            at = act.Deed == Deed.Start ? now : Instant.Min(at + Duration.FromSeconds(15), now);
            var done = await _stations.Do(session.Id, Guid.NewGuid(), session.Version, act, here.PersonId, at, cancel);
            if (done.Refusal is not null)
                break;
            session = done.Value;
        }
        await Controlled(session.Id, true);
        return session.Beam;
    }

    private static IEnumerable<StationAct> Acts(StationSession session) =>
        [
            .. session.Places.Select(p => new StationAct(Deed.Check) { Item = p.Id, Ok = true }),
            new(Deed.Sheet) { Tag = session.On.SheetTag, ThicknessMm = [1.4m, 1.4m, 1.4m] },
            new(Deed.Focus) { Method = "gauge", GaugeBack = true },
            new(Deed.Settings) { Set = Set },
            new(Deed.Frame),
            new(Deed.Air)
            {
                Seen = true,
                Assist = true,
                LidShut = true,
            },
            new(Deed.Confirm)
            {
                Height = true,
                Material = true,
                Stay = true,
            },
            new(Deed.Start) { Stay = true },
        ];

    /// <summary>A start of the demo is no power cut: who was running when it ended begins that run again.</summary>
    private async Task<bool> Again(StationSession open, CancellationToken cancel)
    {
        var attention = Duration.FromMinutes(DemoHouse.Rules.AttentionMinutes);
        var run = open.Run! with { Start = now, Deadline = now + attention, OnAt = null, OffAt = null };
        await using var connection = await db.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await StationStore.Save(connection, transaction, open, open with { Run = run, Version = open.Version + 1 }, now);
        await transaction.CommitAsync(cancel);
        return true;
    }

    private async Task Controlled(Guid session, bool on)
    {
        await using var connection = await db.OpenConnectionAsync();
        await connection.ExecuteAsync(
            "update station.session set body = jsonb_set(body, '{controlled}', to_jsonb(@on)) where id = @session",
            new { session, on }
        );
    }
}
