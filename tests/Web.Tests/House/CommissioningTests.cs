using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.House;

/// <summary>Commissioning sheets over HTTP, and a look after a break.</summary>
public class CommissioningTests(WebHouse shared) : IClassFixture<WebHouse>
{
    private static async Task<System.Text.Json.JsonElement> Heron(Api api, string machine = "heron") =>
        (await api.Get("/api/commissioning"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(m => m.GetProperty("machineId").GetString() == machine);

    [Fact]
    public async Task Sheets_SayWhatIsMissing_ClassAndDates()
    {
        using var member = await shared.As("member");
        var kestrel = await Heron(member, "kestrel");
        kestrel.GetProperty("missing").EnumerateArray().Select(m => m.GetString()).ShouldBe(["the optical density of the window"]);
        kestrel.GetProperty("class").GetString().ShouldBe("1");
        kestrel.GetProperty("interlocksUntil").GetString().ShouldNotBeNull();
        (await member.Get("/api/commissioning"))
            .Body.GetProperty("fields")
            .GetArrayLength()
            .ShouldBe(Core.Machines.CommissioningForm.Fields.Count);
    }

    [Fact]
    public async Task Sheet_WrittenTwiceFromTheSameVersion_IsWrittenOnce_AndBothStayOnRecord()
    {
        await using var house = new WebHouse();
        await house.InitializeAsync();
        using var keeper = await house.As("keeper");
        var version = (await Heron(keeper)).GetProperty("version").GetInt64();
        var answers = await Task.WhenAll(
            Enumerable.Range(0, 4).Select(_ => keeper.Put("/api/machines/heron/commissioning", new { fields = SetUpSheet.Whole, version }))
        );
        answers.Count(a => a.Status == HttpStatusCode.OK).ShouldBe(1);
        answers.Count(a => a.Code == "stale").ShouldBe(3);
        var heron = await Heron(keeper);
        heron.GetProperty("versions").GetArrayLength().ShouldBe(2);
        heron.GetProperty("missing").GetArrayLength().ShouldBe(0);
        heron.GetProperty("nextBy").GetString().ShouldBe("2029-11-20");
    }

    [Fact]
    public async Task Sheet_WithWhatContradictsItself_NamesTheField_AndNothingIsKept()
    {
        using var keeper = await shared.As("keeper");
        var before = (await Heron(keeper)).GetProperty("version").GetInt64();
        var fields = new Dictionary<string, object>(SetUpSheet.Whole) { ["interlocksOn"] = "2026-12-24", ["windowNm"] = "many" };
        var answer = await keeper.Put("/api/machines/heron/commissioning", new { fields, version = before });
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Fields.ShouldContain("windowNm");
        (await Heron(keeper)).GetProperty("version").GetInt64().ShouldBe(before);
        (await keeper.Put("/api/machines/nobody/commissioning", new { fields = SetUpSheet.Whole, version = 0 })).Status.ShouldBe(
            HttpStatusCode.NotFound
        );
    }

    [Fact]
    public async Task InterlocksTooOld_AreClass4_OnEveryScreenThatNamesTheClass()
    {
        await using var house = new WebHouse();
        await house.InitializeAsync();
        await using (var command = house.Db.Owner.CreateCommand("delete from upkeep.interlock_trial where machine_id = 'heron'"))
            await command.ExecuteNonQueryAsync();
        using var member = await house.As("member");
        var machine = (await member.Get("/api/machines"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .Single(m => m.GetProperty("id").GetString() == "heron");
        machine.GetProperty("laserClass").GetString().ShouldBe("4");
        machine.GetProperty("classWhy").GetString()!.ShouldContain("until they are tried");
        (await Heron(member)).GetProperty("class").GetString().ShouldBe("4");
        var guide = await member.Http.GetStringAsync("/at/heron");
        guide.ShouldContain("until they are tried");
        guide.ShouldNotContain("label on the back", Case.Insensitive);
    }

    [Fact]
    public async Task AfterABreak_ATrainerLooks_AndAMemberMayNot()
    {
        await using var house = new WebHouse();
        await house.InitializeAsync();
        await using (
            var command = house.Db.Owner.CreateCommand(
                "update run.log set during = tstzrange(lower(during) - interval '40 days', upper(during) - interval '40 days') "
                    + "where machine_id = 'heron'"
            )
        )
            await command.ExecuteNonQueryAsync();
        using var member = await house.As("member");
        using var trainer = await house.As("trainer");
        (await Stood(member)).ShouldBe(("heron", false));
        (await Stood(trainer)).ShouldBe(("heron", true));
        var whole = new
        {
            interlocks = true,
            outlet = true,
            kit = true,
            airflowM3PerHour = 640,
            coolantC = 20,
        };
        (await member.Post("/api/machines/heron/after-break", whole)).Status.ShouldBe(HttpStatusCode.Forbidden);
        var partly = await trainer.Post("/api/machines/heron/after-break", new { interlocks = true, outlet = true });
        partly.Status.ShouldBe(HttpStatusCode.BadRequest);
        partly.Fields.ShouldContain("airflowM3PerHour");
        var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => trainer.Post("/api/machines/heron/after-break", whole)));
        answers.Count(a => a.Status == HttpStatusCode.NoContent).ShouldBe(1);
        answers.Count(a => a.Code == "upkeep.doneJustNow").ShouldBe(3);
        (await trainer.Get("/api/upkeep/breaks")).Body.GetProperty("items").GetArrayLength().ShouldBe(0);
        (await Heron(trainer))
            .GetProperty("interlocksAt")
            .GetString()!
            .ShouldStartWith("2026-11-24", Case.Sensitive, "they were tried with it");

        static async Task<(string?, bool)> Stood(Api api)
        {
            var item = (await api.Get("/api/upkeep/breaks")).Body.GetProperty("items").EnumerateArray().Single();
            return (item.GetProperty("machineId").GetString(), item.GetProperty("mayDo").GetBoolean());
        }
    }
}
