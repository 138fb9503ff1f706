using System.Net.Http.Json;
using Dapper;
using NodaTime;
using Npgsql;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>
/// Two hundred at one slot; then many clients booking one busy stretch at random, against inserting the same without deciding.
/// </summary>
internal static class BookingBench
{
    private const int Clients = 64;
    private const int Rounds = 5;
    private static readonly TimeSpan Time = TimeSpan.FromSeconds(12);

    private static object Wish(Random random, Instant first, int slots, int? machine = null, int? person = null)
    {
        // Only who is certified for the machine asks, so that what stands in the way is the calendar.
        var m = machine ?? random.Next(Prepared.Machines);
        var p = (person ?? random.Next(Prepared.People / Prepared.Machines)) * Prepared.Machines + m;
        return new
        {
            memberId = $"p{p}",
            machineId = $"laser-{m}",
            materialId = "mat-board",
            thicknessMm = 1.4m,
            operations = new[] { "cut" },
            runMinutes = 5,
            start = (first + Duration.FromMinutes(60 * random.Next(slots))).ToString(),
            minutes = 60,
        };
    }

    /// <summary>Ten in the morning of a day so far ahead: winter in London is UTC.</summary>
    private static Instant Morning(Instant now, int days)
    {
        var date = (now + Duration.FromDays(days)).InUtc().Date;
        return date.At(new LocalTime(10, 0)).InUtc().ToInstant();
    }

    public static async Task Run(Server server, NpgsqlDataSource owner, Instant now)
    {
        await OneSlot(server, now);
        var (plain, mine, all) = (new List<double>(), new List<double>(), new List<double>());
        var succeeded = new List<double>();
        for (var round = 0; round < Rounds; round++)
        {
            // A stretch of its own each time, wide enough that about half find a place.
            var slots = 10;
            var (a, b) = (Morning(now, 20 + round * 14), Morning(now, 27 + round * 14));
            var inserted = await server.Load("/baseline/insert", r => Days(r, a, slots), Clients, Time);
            var booked = await server.Load("/api/bookings", r => Days(r, b, slots), Clients, Time);
            if (inserted.Statuses.Keys.Concat(booked.Statuses.Keys).Any(s => s >= 500))
                throw new InvalidOperationException("A request came to 5xx.");
            plain.Add(inserted.PerSecond);
            mine.Add(booked.PerSecond);
            all.AddRange(booked.Times);
            succeeded.Add(booked.Statuses.GetValueOrDefault(201) / (double)booked.Times.Count);
            Say(
                $"booking: round {round + 1}: {string.Join(", ", booked.Statuses.OrderBy(s => s.Key).Select(s => $"{s.Key} x {s.Value}"))}"
            );
        }
        all.Sort();
        Say(
            $"booking: inserts alone {Spread(plain, "/s")}, decided and booked {Spread(mine, "/s")}, p50 {Percentile(all, 0.5):0} "
                + $"ms, p99 {Percentile(all, 0.99):0} ms, {Median(succeeded):0 %} found a place"
        );
        var ratios = mine.Zip(plain, (x, y) => x / y).ToList();
        Say($"booking: ratio {Median(ratios):0.00} ({ratios.Min():0.00} to {ratios.Max():0.00}); wanted at least 0.40, p99 under 1000 ms");
        await using var connection = await owner.OpenConnectionAsync();
        var doubled = await connection.ExecuteScalarAsync<int>(
            "select count(*)::int from booking.claim a join booking.claim b on a.resource = b.resource and a.during && b.during "
                + "and a.id < b.id where a.live and b.live and lower(a.during) > @now",
            new { now }
        );
        var deadlocks = await connection.ExecuteScalarAsync<long>(
            "select deadlocks from pg_stat_database where datname = current_database()"
        );
        Say($"booking: {doubled} held twice, {deadlocks} deadlocks");
    }

    private static object Days(Random random, Instant first, int slots) => Wish(random, first + Duration.FromDays(random.Next(7)), slots);

    private static async Task OneSlot(Server server, Instant now)
    {
        var start = Morning(now, 10);
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 200)
                .Select(i =>
                    Task.Run(async () =>
                        (int)
                            (
                                await server.Http.PostAsJsonAsync("/api/bookings", Wish(new Random(i), start, 1, machine: 3, person: i))
                            ).StatusCode
                    )
                )
        );
        Say(
            "booking: 200 at one slot: "
                + $"{string.Join(", ", answers.GroupBy(a => a).OrderBy(g => g.Key).Select(g => $"{g.Key} x {g.Count()}"))}"
        );
        if (answers.Count(a => a == 201) != 1 || answers.Any(a => a >= 500))
            throw new InvalidOperationException("One slot was not booked once.");
    }
}
