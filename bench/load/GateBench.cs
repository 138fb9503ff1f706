using System.Net.Http.Json;
using System.Text.Json;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Store.Gate;
using static VelvetGate.Bench.Figures;

namespace VelvetGate.Bench;

/// <summary>A full decision over HTTP against one primary-key SELECT behind the same sign-in.</summary>
internal static class GateBench
{
    private const int Rounds = 5;
    private const int Clients = 16;
    private static readonly TimeSpan Time = TimeSpan.FromSeconds(8);
    private static readonly TimeSpan WarmUp = TimeSpan.FromSeconds(30);

    public static object Question(Random random, Instant now)
    {
        var start = now + Duration.FromMinutes(15 * random.Next(4, 1300));
        return new
        {
            memberId = $"p{random.Next(Prepared.People)}",
            machineId = $"laser-{random.Next(Prepared.Machines)}",
            materialId = "mat-board",
            thicknessMm = 1.4m,
            operations = new[] { "cut" },
            runMinutes = 10,
            start = start.ToString(),
            minutes = 60,
        };
    }

    public static async Task Run(Server server, NpgsqlDataSource db, Instant now)
    {
        var (select, gate) = (new List<double>(), new List<double>());
        (List<double> Select, List<double> Gate) times = ([], []);
        // Until the server's own code is compiled for good, which on two cores takes half a minute of load; the same for both.
        await server.Load("/baseline/select", r => Question(r, now), Clients, WarmUp);
        await server.Load("/api/gate/ask?soonest=false", r => Question(r, now), Clients, WarmUp);
        for (var round = 0; round < Rounds; round++)
        {
            var a = await server.Load("/baseline/select", r => Question(r, now), Clients, Time);
            var b = await server.Load("/api/gate/ask?soonest=false", r => Question(r, now), Clients, Time);
            if (a.Statuses.Keys.Concat(b.Statuses.Keys).Any(s => s != 200))
                throw new InvalidOperationException("Not every answer was 200.");
            select.Add(a.PerSecond);
            gate.Add(b.PerSecond);
            times.Select.AddRange(a.Times);
            times.Gate.AddRange(b.Times);
        }
        var (selected, asked) = (times.Select.Order().ToList(), times.Gate.Order().ToList());
        Say($"gate: select {Spread(select, "/s")}, p50 {Percentile(selected, 0.5):0.0} ms, p99 {Percentile(selected, 0.99):0.0} ms");
        Say($"gate: decision {Spread(gate, "/s")}, p50 {Percentile(asked, 0.5):0.0} ms, p99 {Percentile(asked, 0.99):0.0} ms");
        var ratios = gate.Zip(select, (g, s) => g / s).ToList();
        Say($"gate: ratio {Median(ratios):0.000} ({ratios.Min():0.000} to {ratios.Max():0.000}); wanted at least 0.33");
        await Compare(server, db, now);
    }

    /// <summary>A thousand answers over HTTP, held against Core alone on facts loaded apart.</summary>
    private static async Task Compare(Server server, NpgsqlDataSource db, Instant now)
    {
        var random = new Random(42);
        var loader = new FactLoader(db);
        var verdicts = new Dictionary<string, int>();
        for (var i = 0; i < 1000; i++)
        {
            var question = Question(random, now);
            var sent = JsonSerializer.SerializeToElement(question);
            var answer = await (
                await server.Http.PostAsJsonAsync("/api/gate/ask?soonest=false", question)
            ).Content.ReadFromJsonAsync<JsonElement>();
            var ask = new GateQuestion(
                MemberId: sent.GetProperty("memberId").GetString()!,
                MachineId: sent.GetProperty("machineId").GetString()!,
                Items: [new GateItem("mat-board", 1.4m, [Operation.Cut], RunMinutes: 10)],
                Fixture: null,
                SupervisorId: null,
                Start: NodaTime.Text.InstantPattern.ExtendedIso.Parse(sent.GetProperty("start").GetString()!).Value,
                Minutes: 60
            );
            var alone = Core.Gating.Gate.Decide(
                ask,
                (await loader.Load(ask, SystemClock.Instance.GetCurrentInstant(), null, null, default)).Value
            );
            var verdict = answer.GetProperty("verdict").GetString()!;
            var codes = answer
                .GetProperty("posts")
                .EnumerateArray()
                .SelectMany(p => p.GetProperty("reasons").EnumerateArray())
                .Select(r => r.GetProperty("code").GetString()!);
            if (
                !string.Equals(verdict, alone.Verdict.ToString(), StringComparison.OrdinalIgnoreCase)
                || !codes.SequenceEqual(alone.Reasons.Select(r => r.Code))
            )
                throw new InvalidOperationException($"HTTP and Core differ on {sent}: {answer}");
            verdicts[verdict] = verdicts.GetValueOrDefault(verdict) + 1;
        }
        Say($"gate: 1000 answers are those of Core alone ({string.Join(", ", verdicts.Select(v => $"{v.Key} {v.Value}"))})");
    }
}
