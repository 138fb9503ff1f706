using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Watch;
using VelvetGate.Store.Booking;
using VelvetGate.Store.Db;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.Gate;
using VelvetGate.Store.House;
using VelvetGate.Store.Station;

namespace VelvetGate.Store.Watch;

/// <summary>The day as it stands.</summary>
/// <param name="At">When it was looked at.</param>
/// <param name="Machines">All, in the order of the house, those that have left it too.</param>
/// <param name="Bookings">Of today, in order.</param>
/// <param name="OnDuty">Null when nobody is.</param>
/// <param name="Stations">Machines with a controller, or somebody at them.</param>
/// <param name="DrawingBytes">What kept drawings take.</param>
public sealed record WatchNow(
    Instant At,
    HouseRules Rules,
    IReadOnlyList<MachineSpec> Machines,
    IReadOnlyDictionary<MaterialId, string> Materials,
    IReadOnlyDictionary<MachineId, StopNow> Stops,
    IReadOnlyList<BookedTime> Bookings,
    OnDutyNow? OnDuty,
    IReadOnlyList<StewardTask> Tasks,
    IReadOnlyDictionary<MachineId, StationNow> Stations,
    long DrawingBytes
);

/// <summary>
/// Gathers what Watch shows, in one batch; what changes rarely is remembered. Everybody’s day is read once for all who ask meanwhile.
/// </summary>
public sealed class WatchStore
{
    private readonly NpgsqlDataSource _db;
    private readonly IClock _clock;
    private readonly Query<StewardTask> _tasks;
    private readonly Rounds<WatchNow?> _everybodys;

    /// <param name="rooms">Who has work waiting.</param>
    public WatchStore(NpgsqlDataSource db, IClock clock, IEnumerable<IStewardTasks> rooms)
    {
        _db = db;
        _clock = clock;
        _everybodys = new(() => Read(null, CancellationToken.None));
        _tasks = new(
            $"""
            select kind, id, person_id, given_name, family_name, birth_date, machine_id, material_id, title, details, body, at, of_kind
            from (
                select t.*, count(*) over (partition by kind)::int as of_kind,
                    row_number() over (partition by kind order by at, title) as nth
                from ({string.Join(" union all ", rooms.SelectMany(r => r.Sql))}) t) n
            where nth <= {WatchList.MostOfAKind} order by kind, nth
            """
        );
    }

    /// <param name="onlyFor">Tasks of this person alone; null for everybody's.</param>
    /// <returns>Null in a house that has no rules yet.</returns>
    public Task<WatchNow?> Now(PersonId? onlyFor, CancellationToken cancel) =>
        onlyFor is null ? _everybodys.Read(cancel) : Read(onlyFor, cancel);

    private async Task<WatchNow?> Read(PersonId? onlyFor, CancellationToken cancel)
    {
        var now = _clock.GetCurrentInstant();
        await using var connection = await _db.OpenConnectionAsync(cancel);
        var memory = Memory.Of(_db);
        var rules = memory.Latest(Topic.House) is { } latest ? RulesOf(latest, now) : RulesOf((await Send([], null)).Where(_ => true), now);
        // What is asked depends on the house's day; should its rules change meanwhile, it is asked again.
        while (rules is not null)
        {
            var day = rules.Clock.Day(rules.Clock.DateOf(now));
            var read = await Send(
                [_tasks, BookingStore.Day, HouseStore.StopsNow, HouseStore.DutyNow, StationNowRow.All, DrawingStore.BytesKept],
                new
                {
                    Now = now,
                    Person = onlyFor?.Value,
                    Today = rules.Clock.DateOf(now),
                    Soon = now + Duration.FromDays(NeedsAHand.LapseDays),
                    Late = now - Duration.FromMinutes(rules.NoShowGraceMinutes),
                    AnswerUntil = now + StewardRequests.AnswerBefore,
                    MailSince = now - Duration.FromDays(14),
                    from = day.Start,
                    to = day.End,
                }
            );
            var fresh = RulesOf(read.Where(_ => true), now);
            if (ReferenceEquals(fresh, rules))
                return Of(read, rules, now);
            rules = fresh;
        }
        return null;

        Task<Answers> Send(IReadOnlyList<Query> queries, object? parameters) =>
            Batch.Send(connection, null, queries, FactQueries.All, FactQueries.Now, parameters, memory, cancel);
    }

    private static HouseRules? RulesOf(IReadOnlyDictionary<Query, object> read, Instant now) =>
        ((IReadOnlyList<RulesRow>)read[FactQueries.Rules]).SingleOrDefault(r => r.From <= now && (r.Until is null || r.Until > now))?.Rules;

    private WatchNow Of(Answers read, HouseRules rules, Instant now) =>
        new(
            At: now,
            Rules: rules,
            Machines: [.. read.Of(FactQueries.Machine).Select(m => m.Machine)],
            Materials: read.Of(FactQueries.Materials).ToDictionary(m => m.Id, m => m.Name),
            Stops: read.Of(HouseStore.StopsNow).GroupBy(s => s.MachineId).ToDictionary(s => s.Key, s => s.First()),
            Bookings: [.. read.Of(BookingStore.Day).Select(b => b.ToBooking())],
            OnDuty: read.Of(HouseStore.DutyNow) is [var first, ..] ? first : null,
            Tasks: read.Of(_tasks),
            Stations: read.Of(StationNowRow.All).Select(s => s.Read()).ToDictionary(s => s.MachineId),
            DrawingBytes: read.Of(DrawingStore.BytesKept).Single()
        );
}
