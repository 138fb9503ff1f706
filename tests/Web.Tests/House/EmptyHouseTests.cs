using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.House;

public class EmptyHouseTests(EmptyHouse house) : IClassFixture<EmptyHouse>
{
    [Fact]
    public async Task House_WithoutRules_SaysWhatComesFirst_AndIsReady()
    {
        using var visitor = await house.As(null);
        var answer = await visitor.Get("/api/house");
        (answer.Status, answer.Code).ShouldBe((HttpStatusCode.Conflict, "house.noRules"));
        foreach (var path in new[] { "/healthz", "/readyz" })
        {
            var ready = (await visitor.Get(path)).Body;
            ready.GetProperty("status").GetString().ShouldBe("ready");
            ready.GetProperty("schema").GetString().ShouldBe(VelvetGate.Store.Db.Schema.Newest);
            ready
                .GetProperty("work")
                .EnumerateArray()
                .Select(w => w.GetProperty("name").GetString())
                .ShouldBe(["demoClock", "events", "house", "incidents", "offers", "standing"], ignoreOrder: true);
        }
        (await visitor.Http.GetStringAsync("/livez", TestContext.Current.CancellationToken)).ShouldBe("alive");
    }
}
