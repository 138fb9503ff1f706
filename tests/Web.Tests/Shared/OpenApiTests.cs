using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

public class OpenApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    /// <summary>
    /// The committed document is the contract, and the front end's types are generated from it. VELVETGATE_WRITE=1 rewrites it after a
    /// wanted change.
    /// </summary>
    [Fact]
    public async Task Document_IsTheCommittedOne()
    {
        using var visitor = await house.As(null);
        var now = await visitor.Http.GetStringAsync("/openapi/v1.json", TestContext.Current.CancellationToken);
        var file = Repo.Path("docs", "openapi.json");
        if (Environment.GetEnvironmentVariable("VELVETGATE_WRITE") == "1")
            await File.WriteAllTextAsync(file, now, TestContext.Current.CancellationToken);
        (await File.ReadAllTextAsync(file, TestContext.Current.CancellationToken)).ShouldBe(now);
    }
}
