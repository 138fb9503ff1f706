using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Training;

/// <summary>Add-ons that a house starts from, and the one for teaching.</summary>
public class AddOnApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<JsonElement> Start(Api api, string authority) =>
        (await api.Get("/api/training/paths"))
            .Body.GetProperty("addOns")
            .EnumerateArray()
            .Single(p => p.GetProperty("authority").GetString() == authority);

    private static object Request(JsonElement start, object need) =>
        new
        {
            authority = start.GetProperty("authority").GetString()!.Split('/')[0],
            addOn = start.GetProperty("addOn").GetString(),
            steps = start.GetProperty("steps"),
            refresher = start.GetProperty("refresher"),
            need,
            reason = "As it ships.",
        };

    [Fact]
    public async Task Trainer_TheFirstIsSignedByAnyTrainer_ThenOnlyWhoHoldsItSigns()
    {
        using var steward = await house.As("steward");
        using var trainer = await house.As("trainer");
        var start = await Start(steward, "wren/trainer");
        (await steward.Post("/api/training/paths", Request(start, new { forSigning = true }))).Status.ShouldBe(HttpStatusCode.OK);
        (await steward.Get("/api/training/paths"))
            .Body.GetProperty("addOns")
            .ToString()
            .ShouldNotContain("wren/trainer", Case.Sensitive, "the house has it now");
        Task<Answer> Sign(string member, string authority) =>
            trainer.Post(
                "/api/sign-offs",
                new
                {
                    memberId = member,
                    authority,
                    note = "Watched.",
                }
            );
        (await Sign("m-31", "wren")).Code.ShouldBe("signOff.authority");
        (await trainer.Post("/api/practicals", new { memberId = "m-31", authority = "wren" })).Code.ShouldBe("signOff.authority");
        (
            await trainer.Post(
                "/api/inductions",
                new
                {
                    machineId = "wren",
                    trainerId = "m-3",
                    date = "2026-12-14",
                    time = "18:00",
                    minutes = 90,
                    places = 3,
                }
            )
        ).Status.ShouldBe(HttpStatusCode.BadRequest);
        (await Sign("m-3", "wren/trainer")).Code.ShouldBe("signOff.self");
        await house.Db.Tamper(
            "insert into people.role (person_id, role, machine_id, held, recorded) values ('m-2', 'trainer', 'wren', "
                + "tstzrange('2026-11-01', null), tstzrange('2026-11-01', null))"
        );
        (
            await steward.Post(
                "/api/sign-offs",
                new
                {
                    memberId = "m-3",
                    authority = "wren/trainer",
                    note = "Taught beside me three times.",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
        (await Sign("m-31", "wren")).Status.ShouldBe(HttpStatusCode.Created);
        (await Sign("m-31", "heron")).Status.ShouldBe(HttpStatusCode.Created, "another machine has no such path");
    }

    [Fact]
    public async Task Metal_NamesItsMaterials_AndRefusesOnesThatAreNot()
    {
        using var steward = await house.As("steward");
        var start = await Start(steward, "heron/metal-marking");
        start
            .GetProperty("need")
            .GetProperty("materialIds")
            .EnumerateArray()
            .Select(m => m.GetString())
            .ShouldContain("aluminium-anodised");
        (
            await steward.Post("/api/training/paths", Request(start, new { materialIds = new[] { "aluminium-anodised", "kryptonite" } }))
        ).Fields.ShouldBe(["need"]);
        (await steward.Post("/api/training/paths", Request(start, start.GetProperty("need")))).Status.ShouldBe(HttpStatusCode.OK);
        using var member = await house.As("member");
        (
            await member.Post(
                "/api/gate/ask",
                Questions.Open(WebHouse.At(1, 15)).With("materialId", "aluminium-anodised").With("operations", new[] { "engrave" })
            )
        ).Codes.ShouldContain("training.addOn");
    }
}
