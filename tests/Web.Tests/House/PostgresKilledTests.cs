using System.Net;
using Microsoft.AspNetCore.Hosting;
using Npgsql;
using Shouldly;
using VelvetGate.Store.Db;
using VelvetGate.Store.Demo;
using VelvetGate.Store.Ledger;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.House;

/// <summary>A house on a PostgreSQL of its own, which is killed under it.</summary>
public sealed class KillableHouse : WebHouse
{
    public PrivateCluster Cluster { get; private set; } = null!;

    public string Owner => As("vg_owner", Cluster.OwnerPassword);

    private string As(string user, string password) =>
        new NpgsqlConnectionStringBuilder(Cluster.Admin)
        {
            Username = user,
            Password = password,
            Database = "house",
        }.ConnectionString;

    protected override async Task<TestDatabase> Fill()
    {
        Cluster = await PrivateCluster.Start();
        await Database.Create(Cluster.Admin, "house", Cluster.OwnerPassword, Cluster.AppPassword);
        Database.Migrate(Owner);
        await using (var db = Database.Open(Owner + ";Options=-c synchronous_commit=off"))
            await new DemoSeed(db, TestDatabase.Now).Run(default);
        return await TestDatabase.Empty();
    }

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        await Cluster.DisposeAsync();
    }

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        base.ConfigureWebHost(builder);
        builder.UseSetting("VELVETGATE_DB", As("vg_app", Cluster.AppPassword));
    }
}

public class PostgresKilledTests(KillableHouse house) : IClassFixture<KillableHouse>
{
    [Fact]
    public async Task Postgres_KilledUnderBookings_AnswersAClear503_LosesNothingAcknowledged_AndRecoversAlone()
    {
        using var steward = await house.As("steward");
        var acknowledged = new List<string>();
        var tries = Enumerable
            .Range(0, 40)
            .Select(i =>
                Task.Run(async () =>
                    await steward.Post(
                        "/api/bookings",
                        Questions
                            .Open($"2026-12-{2 + i % 10:00}T{10 + i % 9:00}:00:00+00:00")
                            .With("memberId", $"m-{10 + i}")
                            .With("machineId", i % 2 == 0 ? "heron" : "wren")
                    )
                )
            )
            .ToList();
        while (tries.Count(t => t.IsCompleted) < 8)
            await Task.Delay(5, TestContext.Current.CancellationToken);
        await house.Cluster.Kill();
        foreach (var answer in await Task.WhenAll(tries))
        {
            if (answer.Status == HttpStatusCode.Created)
                acknowledged.Add(answer.Id);
            if ((int)answer.Status >= 500)
                (answer.Status, answer.Code).ShouldBe((HttpStatusCode.ServiceUnavailable, "database.away"));
        }
        var away = await steward.Get("/api/watch");
        (away.Status, away.Code).ShouldBe((HttpStatusCode.ServiceUnavailable, "database.away"));
        (await steward.Get("/healthz")).Status.ShouldBe(HttpStatusCode.ServiceUnavailable);

        await house.Cluster.Up();
        var back = HttpStatusCode.ServiceUnavailable;
        for (var i = 0; i < 100 && back != HttpStatusCode.OK; i++)
        {
            await Task.Delay(200, TestContext.Current.CancellationToken);
            back = (await steward.Get("/api/watch")).Status;
        }
        back.ShouldBe(HttpStatusCode.OK, "without a restart of the server");
        await using var owner = Database.Open(house.Owner);
        (await new LedgerVerifier(owner).Verify(null, default)).Why.ShouldBeNull();
        var kept = (await steward.Get("/api/bookings?from=2026-12-01T00:00:00Z&to=2026-12-20T00:00:00Z"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Select(b => b.GetProperty("id").GetString()!)
            .ToHashSet();
        acknowledged.ShouldAllBe(id => kept.Contains(id));
        (await steward.Post("/api/bookings", Questions.Open(await steward.FreeStart(fromDay: 3)))).Status.ShouldBe(HttpStatusCode.Created);
    }
}
