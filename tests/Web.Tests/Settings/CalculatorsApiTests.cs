using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Settings;

public class CalculatorsApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task EveryCalculator_IsListed_AndAnswersInTheUnitAsked()
    {
        using var member = await house.As("member");
        var list = (await member.Get("/api/calculators")).Body;
        list.GetArrayLength().ShouldBe(Core.Settings.Calculators.CalculatorList.All.Count);
        var slot = await member.Post("/api/calculators/slot", new { values = new { sheet = "1/8", kerf = "0.01" }, unit = "in" });
        slot.Body.GetProperty("values")[0].GetProperty("shown").GetString().ShouldBe("0.115 in");
        slot.Body.GetProperty("picture").GetProperty("lines").GetArrayLength().ShouldBeGreaterThan(2);
        var hot = await member.Post(
            "/api/calculators/mismatch",
            new Dictionary<string, object>
            {
                ["values"] = new Dictionary<string, string> { ["settings-for"] = "6.35", ["sheet"] = "3.175" },
            }
        );
        hot.Body.GetProperty("standing").GetString().ShouldBe("shut");
    }

    [Fact]
    public async Task WhatIsMissingOrWrong_NamesItsField()
    {
        using var member = await house.As("member");
        (await member.Post("/api/calculators/kerf", new { values = new { parts = "ten" } })).Fields.ShouldBe(
            ["parts", "nominal", "measured"],
            ignoreOrder: true
        );
        (await member.Post("/api/calculators/sag", new { values = new { radius = "10", width = "30" } })).Fields.ShouldBe(["width"]);
        (await member.Post("/api/calculators/kerf", new { })).Status.ShouldBe(HttpStatusCode.BadRequest);
        (await member.Post("/api/calculators/none", new { })).Status.ShouldBe(HttpStatusCode.NotFound);
    }
}
