using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Db;

/// <summary>What is remembered is never stale: a change that was acknowledged before a question is seen by it.</summary>
public sealed class MemoryTests : IAsyncLifetime
{
    private const int Alternations = 1000;
    private TestDatabase _db = null!;

    private static GateQuestion Question => Questions.OnHeron(TestDatabase.Now + Duration.FromDays(1));

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    /// <summary>
    /// Two servers of one house, neither of which listens to anything, and changes by plain SQL of a third; some are rolled back, some
    /// come two at once.
    /// </summary>
    [Fact]
    public async Task AThousandChanges_OfEveryTopic_AreSeenByTheNextQuestion_OnBothServers()
    {
        await using var other = Database.Open(_db.AppConnection);
        FactLoader[] servers = [new(_db.App), new(other)];
        var random = new Random(16);
        var (stale, lastMax, lastName, lastHandling, lastAhead) = (0, 0m, "", "", 0);
        foreach (var server in servers)
            await Facts(server);
        for (var i = 0; i < Alternations; i++)
        {
            switch (random.Next(6))
            {
                case 0:
                    lastMax = 1 + i / 100m;
                    await Change($"update house.machine set spec = jsonb_set(spec, '{{maxCutMm}}', '{lastMax:0.00}') where id = 'heron'");
                    break;
                case 1:
                    lastName = $"Ply {i}";
                    await Change($"update materials.material set name = '{lastName}' where id = 'birch-ply-laser'");
                    break;
                case 2:
                    lastHandling = $"Handling {i}";
                    await Change($"update materials.ruling set handling = '{lastHandling}' where material_id = 'birch-ply-laser'");
                    break;
                case 3:
                    lastAhead = 1 + i;
                    await Change($"update house.rules set body = jsonb_set(body, '{{bookAheadDays}}', '{lastAhead}')");
                    break;
                case 4:
                    await RolledBack("update materials.material set name = 'never' where id = 'birch-ply-laser'");
                    break;
                default:
                    lastMax = 2 + i / 100m;
                    lastName = $"Board {i}";
                    await Task.WhenAll(
                        Change($"update house.machine set spec = jsonb_set(spec, '{{maxCutMm}}', '{lastMax:0.00}') where id = 'heron'"),
                        Change($"update materials.material set name = '{lastName}' where id = 'birch-ply-laser'")
                    );
                    break;
            }
            var facts = await Facts(servers[random.Next(2)]);
            var seen =
                (lastMax == 0 || facts.Machine.Spec.MaxCutMm == lastMax)
                && (lastName == "" || facts.Sheets[0].MaterialName == lastName)
                && (lastHandling == "" || facts.Sheets[0].Rulings.Value.All(r => r.Ruling.Handling == lastHandling))
                && (lastAhead == 0 || facts.Rules.BookAheadDays == lastAhead);
            if (!seen)
                stale++;
        }
        stale.ShouldBe(0);
        (await Marks()).ShouldBe(Enum.GetValues<Topic>().Length, "marks do not pile up");
    }

    /// <summary>A transaction that decides on what it changed itself, and is rolled back, leaves nothing behind.</summary>
    [Fact]
    public async Task WhatATransactionSawOfItself_IsNotRemembered_OnceItIsRolledBack()
    {
        var server = new FactLoader(_db.Owner);
        var before = (await Facts(server)).Machine.Spec.MaxCutMm;
        await using (var connection = await _db.Owner.OpenConnectionAsync())
        {
            await using var transaction = await connection.BeginTransactionAsync();
            await connection.ExecuteAsync("update house.machine set spec = jsonb_set(spec, '{maxCutMm}', '0.5')", null, transaction);
            (await Facts(Memory.Of(_db.Owner), connection, transaction)).Machine.Spec.MaxCutMm.ShouldBe(0.5m);
            await transaction.RollbackAsync();
        }
        (await Facts(server)).Machine.Spec.MaxCutMm.ShouldBe(before);
    }

    /// <summary>Two that change one topic at once do not wait for each other, and neither takes the other’s mark away.</summary>
    [Fact]
    public async Task TwoChangesOfOneTopicAtOnce_LeaveBothMarks()
    {
        await using var a = await _db.Owner.OpenConnectionAsync();
        await using var b = await _db.Owner.OpenConnectionAsync();
        await using var first = await a.BeginTransactionAsync();
        await using var second = await b.BeginTransactionAsync();
        await a.ExecuteAsync("update house.machine set name = name where id = 'heron'", null, first);
        await b.ExecuteAsync("update house.machine set name = name where id = 'wren'", null, second).WaitAsync(TimeSpan.FromSeconds(5));
        await first.CommitAsync();
        await second.CommitAsync();
        (await Marks()).ShouldBe(Enum.GetValues<Topic>().Length + 1);
        await a.ExecuteAsync("update house.machine set name = name where id = 'heron'");
        (await Marks()).ShouldBe(Enum.GetValues<Topic>().Length, "the next change takes both away");
    }

    /// <summary>The planner names the tables that a statement reads; each has the trigger of the topic its rows are kept under.</summary>
    [Fact]
    public async Task EveryTable_ThatRememberedRowsComeFrom_LeavesMarks()
    {
        await using var connection = await _db.Owner.OpenConnectionAsync();
        var watched = (
            await connection.QueryAsync<(string Relation, string Topic)>(
                """
                select tgrelid::regclass::text, convert_from(rtrim(tgargs, '\000'), 'UTF8')
                    from pg_trigger where tgfoid = 'store.changed'::regproc
                """
            )
        ).ToHashSet();
        var read = new HashSet<(string, string)>();
        foreach (var query in FactQueries.All.Where(q => q.Topic is not null))
        {
            var plan = await connection.QuerySingleAsync<string>($"explain (verbose, format json) {FactQueries.Now(query)}");
            foreach (var table in Relations(JsonDocument.Parse(plan).RootElement))
                read.Add((table, query.Topic.ToString()!.ToLowerInvariant()));
        }
        read.Count.ShouldBeGreaterThan(10);
        read.ShouldBeSubsetOf(watched);
    }

    /// <summary>Filtered here or by the database, remembered or as it was known at this instant: the same facts.</summary>
    [Theory]
    [InlineData("heron", "birch-ply-laser", null, null)]
    [InlineData("wren", "mat-board", "m-3", null)]
    [InlineData("kestrel", "acrylic-clear", "m-2", null)]
    [InlineData("heron", "leather-veg", null, "rotary")]
    [InlineData("swift", "aluminium-anodised", null, null)]
    public async Task RememberedFacts_AreThoseAsKnownNow(string machine, string material, string? supervisor, string? fixture)
    {
        var question = Question with
        {
            MachineId = machine,
            Items = [new GateItem(material, 3, [Operation.Cut])],
            SupervisorId = supervisor is null ? null : new(supervisor),
            Fixture = fixture,
        };
        var server = new FactLoader(_db.App);
        var remembered = await Facts(server, question);
        Json(await Facts(server, question)).ShouldBe(Json(remembered));
        var known = (await server.Load(question, TestDatabase.Now, TestDatabase.Now, null, default)).Value;
        Json(known).ShouldBe(Json(remembered));
    }

    private static string Json(GateFacts facts) => JsonSerializer.Serialize(facts, GateJson.Options);

    private static IEnumerable<string> Relations(JsonElement plan) =>
        plan.ValueKind switch
        {
            JsonValueKind.Array => plan.EnumerateArray().SelectMany(Relations),
            JsonValueKind.Object =>
            [
                .. plan.TryGetProperty("Relation Name", out var name)
                    ? (string[])[$"{plan.GetProperty("Schema").GetString()}.{name.GetString()}"]
                    : [],
                .. plan.EnumerateObject().SelectMany(p => Relations(p.Value)),
            ],
            _ => [],
        };

    private static async Task<GateFacts> Facts(FactLoader server, GateQuestion? question = null) =>
        (await server.Load(question ?? Question, TestDatabase.Now, null, null, default)).Value;

    private static async Task<GateFacts> Facts(Memory memory, NpgsqlConnection connection, NpgsqlTransaction transaction) =>
        (await FactLoader.Load(memory, connection, transaction, Question, TestDatabase.Now, null, null, default)).Value;

    private async Task Change(string sql)
    {
        await using var command = _db.Owner.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }

    private async Task RolledBack(string sql)
    {
        await using var connection = await _db.Owner.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync(sql, null, transaction);
        await transaction.RollbackAsync();
    }

    private async Task<long> Marks()
    {
        await using var command = _db.Owner.CreateCommand("select count(*) from store.version");
        return (long)(await command.ExecuteScalarAsync())!;
    }
}
