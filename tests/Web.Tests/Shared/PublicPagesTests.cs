using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

/// <summary>Pages that anybody may read are whole without a script, and say the safe thing where there is no page.</summary>
public class PublicPagesTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<(HttpStatusCode Status, string Html)> Page(Api visitor, string path)
    {
        var response = await visitor.Http.GetAsync(path);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("text/html");
        return (response.StatusCode, WebUtility.HtmlDecode(await response.Content.ReadAsStringAsync()));
    }

    [Fact]
    public async Task EmergencyCard_SaysEveryStepOfTheEndpoint()
    {
        using var visitor = await house.As(null);
        var (status, html) = await Page(visitor, "/emergency/heron");
        status.ShouldBe(HttpStatusCode.OK);
        var card = (await visitor.Get("/api/machines/heron/emergency")).Body.GetProperty("card");
        foreach (var part in new[] { "fire", "smoke", "fume", "hurt", "after" })
        foreach (var step in card.GetProperty(part).EnumerateArray())
        {
            html.ShouldContain(step.GetProperty("strong").GetString()!);
            html.ShouldContain(step.GetProperty("text").GetString()!);
        }
        html.ShouldContain("/emergency/wren");
    }

    [Theory]
    [InlineData("/list", "What may go in")]
    [InlineData("/list/kestrel", "Kestrel: what may go in")]
    [InlineData("/list?unit=in", "In millimetres")]
    public async Task List_ShowsWhatStaysOutFirst(string path, string words)
    {
        using var visitor = await house.As(null);
        var (status, html) = await Page(visitor, path);
        status.ShouldBe(HttpStatusCode.OK);
        html.ShouldContain(words);
        html.IndexOf(">Never<", StringComparison.Ordinal).ShouldBeInRange(0, html.IndexOf(">Permitted", StringComparison.Ordinal));
        html.ShouldContain("What is not on this list stays out.");
    }

    [Theory]
    [InlineData("/emergency/osprey", "Call the fire service")]
    [InlineData("/list/osprey", "No list, no laser")]
    [InlineData("/verify/8c1d3a52-4f0a-4c7e-9d55-000000000000", "Nobody runs a laser on this paper")]
    [InlineData("/verify/rubbish", "Nobody runs a laser on this paper")]
    public async Task NoSuchPage_SaysTheSafeThing(string path, string words)
    {
        using var visitor = await house.As(null);
        var (status, html) = await Page(visitor, path);
        status.ShouldBe(HttpStatusCode.NotFound);
        html.ShouldContain(words);
    }

    /// <summary>A name that is markup stays a name.</summary>
    [Fact]
    public async Task Names_AreText()
    {
        await house.Db.Tamper("update materials.material set name = '<img src=x onerror=alert(1)>' where id = 'slate'");
        using var visitor = await house.As(null);
        var html = await visitor.Http.GetStringAsync("/list");
        html.ShouldNotContain("<img src=x");
    }
}
