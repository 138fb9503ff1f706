using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Training;

/// <summary>
/// Certificates put under review, many at once: in a house of its own, since every other test's people may be among them.
/// </summary>
public class ReviewApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task Review_BySignerAndDays_InOneAction_TheGateAsks()
    {
        using var steward = await house.As("steward");
        object Body(bool dryRun, string? reason = null, string to = "2026-11-24") =>
            new
            {
                signer = "m-3",
                from = "2026-09-01",
                to,
                reason,
                dryRun,
            };
        (await steward.Post("/api/certificate-holds/review", Body(true, to: "2026-08-01"))).Fields.ShouldBe(["to"]);
        (await steward.Post("/api/certificate-holds/review", Body(false))).Fields.ShouldBe(["reason"]);
        var looked = (await steward.Post("/api/certificate-holds/review", Body(true))).Body;
        var count = looked.GetProperty("items").GetArrayLength();
        count.ShouldBeGreaterThan(3);
        var before = (await steward.Get("/api/certificate-holds")).Body.GetProperty("items").GetArrayLength();
        var stored = (await steward.Post("/api/certificate-holds/review", Body(false, "The trainer’s own papers were out of date."))).Body;
        stored.GetProperty("items").GetArrayLength().ShouldBe(count);
        (await steward.Get("/api/certificate-holds")).Body.GetProperty("items").GetArrayLength().ShouldBe(before + count);
        (await steward.Post("/api/certificate-holds/review", Body(true)))
            .Body.GetProperty("items")
            .GetArrayLength()
            .ShouldBe(0, "nobody is put under review twice");
        (await steward.Get("/api/training/matrix?show=held")).Body.GetProperty("rows").GetArrayLength().ShouldBeGreaterThan(3);
        (await steward.Get("/api/watch")).Body.ToString().ShouldContain("Certificates under review");
    }
}
