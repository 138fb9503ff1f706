using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.House;

/// <summary>Papers that an inspector asks for: the newest of a kind counts, none is overwritten.</summary>
public sealed class PapersApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static object Duct(string on, string? next, string? machine = "wren") =>
        new
        {
            kind = "ductCleaned",
            machineId = machine,
            onDay = on,
            nextDay = next,
            by = "the duct firm",
            says = "From the filter to the roof.",
        };

    [Fact]
    public async Task Paper_IsEnteredByAKeeper_AndReadByStaff()
    {
        using var member = await house.As("member");
        using var trainer = await house.As("trainer");
        using var steward = await house.As("steward");
        using var keeper = await house.As("keeper");
        (await member.Get("/api/house/papers")).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await steward.Post("/api/house/papers", Duct("2026-11-01", null))).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await keeper.Post("/api/house/papers", Duct("2026-11-25", "2026-11-01", null))).Fields.ShouldBe(
            ["machineId", "onDay", "nextDay"],
            true
        );
        (await keeper.Post("/api/house/papers", Duct("yesterday", null))).Fields.ShouldBe(["onDay"]);
        (await keeper.Post("/api/house/papers", Duct("2026-11-01", null, "nowhere"))).Fields.ShouldBe(["machineId"]);
        (await Missing()).ShouldContain("ductCleaned wren");
        var old = (await keeper.Post("/api/house/papers", Duct("2025-10-01", "2026-10-01"))).Id;
        (await Missing()).ShouldNotContain("ductCleaned wren");
        (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString().ShouldContain("Duct cleaned, Wren");
        var renewed = (await keeper.Post("/api/house/papers", Duct("2026-11-01", "2027-11-01"))).Id;
        (await steward.Get("/api/watch")).Body.GetProperty("needs").ToString().ShouldNotContain("Duct cleaned, Wren");
        (await Standing(old)).ShouldBe((true, false));
        (await Standing(renewed)).ShouldBe((false, true));

        async Task<IReadOnlyList<string>> Missing() =>
            [
                .. (await trainer.Get("/api/house/papers"))
                    .Body.GetProperty("missing")
                    .EnumerateArray()
                    .Select(m => $"{m.GetProperty("kind")} {(m.TryGetProperty("machineId", out var of) ? of.GetString() : "")}"),
            ];

        async Task<(bool Over, bool Current)> Standing(string id)
        {
            var paper = (await trainer.Get("/api/house/papers"))
                .Body.GetProperty("items")
                .EnumerateArray()
                .Single(p => p.GetProperty("id").GetString() == id);
            return (paper.GetProperty("over").GetBoolean(), paper.GetProperty("current").GetBoolean());
        }
    }
}
