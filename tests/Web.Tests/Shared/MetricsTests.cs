using System.Net;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

/// <summary>The published application with an address for metrics.</summary>
public class MetricsTests
{
    [Fact]
    public async Task Metrics_StandOnAnAddressOfTheirOwn_AndOnNoOther()
    {
        var port = ServerProcess.FreePort();
        await using var db = await TestDatabase.Demo();
        using var server = await ServerProcess.Start(db, settings: new() { ["VELVETGATE_METRICS"] = $"127.0.0.1:{port}" });
        using var http = new HttpClient(new HttpClientHandler { CookieContainer = new() }) { BaseAddress = new(server.Address) };
        using var api = new Api(http);
        await api.SignIn("member", "ropewalk");
        var asked = await api.Post("/api/gate/ask", Questions.Open(WebHouse.At(1, 14)));
        asked.Status.ShouldBe(HttpStatusCode.OK);

        var text = await http.GetStringAsync($"http://127.0.0.1:{port}/metrics", TestContext.Current.CancellationToken);
        text.ShouldContain(
            $"velvetgate_gate_decisions_total{{otel_scope_name=\"VelvetGate\",for=\"asked\",verdict=\"{asked.Verdict}\"}} 1"
        );
        text.ShouldContain("http_server_request_duration_seconds_count");
        text.ShouldContain("velvetgate_work_failures");
        text.ShouldNotContain("m-4");

        (await http.GetAsync($"http://127.0.0.1:{port}/api/house", TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
        var elsewhere = await http.GetAsync("/metrics", TestContext.Current.CancellationToken);
        (await elsewhere.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldNotContain("velvetgate_gate");
    }
}
