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
        (await visitor.Http.GetStringAsync("/healthz", TestContext.Current.CancellationToken)).ShouldBe("ready");
    }
}
