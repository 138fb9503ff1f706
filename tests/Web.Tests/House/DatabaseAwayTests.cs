using System.Net;
using Microsoft.AspNetCore.Hosting;
using Npgsql;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.House;

/// <summary>A house whose database hangs on a cable that can be cut.</summary>
public sealed class CableHouse : WebHouse
{
    public CuttableProxy Cable { get; private set; } = null!;

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        base.ConfigureWebHost(builder);
        var connection = new NpgsqlConnectionStringBuilder(Db.AppConnection);
        Cable = new CuttableProxy(connection.Host!, connection.Port);
        connection.Port = Cable.Port;
        builder.UseSetting("VELVETGATE_DB", connection.ConnectionString);
    }
}

public class DatabaseAwayTests(CableHouse house) : IClassFixture<CableHouse>
{
    [Fact]
    public async Task DatabaseGone_AnswersAClear503AndRecoversAlone()
    {
        using var api = await house.As("member");
        var question = Questions.Open(WebHouse.At(1, 14));
        (await api.Post("/api/gate/ask", question)).Status.ShouldBe(HttpStatusCode.OK);
        house.Cable.Cut();
        foreach (var path in new[] { "/api/watch", "/healthz", "/api/house", "/api/machines" })
            (await api.Get(path)).Status.ShouldBe(HttpStatusCode.ServiceUnavailable, path);
        var answer = await api.Post("/api/gate/ask", question);
        (answer.Status, answer.Code).ShouldBe((HttpStatusCode.ServiceUnavailable, "database.away"));
        answer.Detail.ShouldContain("Nothing was changed");
        answer.Response.Headers.RetryAfter.ShouldNotBeNull();
        using var visitor = await house.As(null);
        foreach (var (who, name) in new[] { (visitor, "a visitor"), (api, "somebody signed in") })
        {
            var page = await who.Http.GetAsync("/emergency/heron");
            page.StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable, name);
            (await page.Content.ReadAsStringAsync()).ShouldContain("Call the fire service", customMessage: name);
        }
        house.Cable.Mend();
        var recovered = false;
        for (var i = 0; i < 10 && !recovered; i++)
            recovered = (await api.Post("/api/gate/ask", question)).Status == HttpStatusCode.OK;
        recovered.ShouldBeTrue();
    }
}
