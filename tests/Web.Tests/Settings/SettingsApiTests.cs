using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Settings;

/// <summary>The library of settings: added, suggested with reasons, held against the sheet, and taken out.</summary>
public class SettingsApiTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static Dictionary<string, object?> Cut(string material = "poplar-ply-laser") =>
        new()
        {
            ["machineId"] = "wren",
            ["materialId"] = material,
            ["thicknessMm"] = 3,
            ["operation"] = "cut",
            ["powerPercent"] = 60,
            ["speedMmPerS"] = 12,
            ["passes"] = 1,
        };

    private static string For(string material, string thickness) =>
        $"/api/settings?machineId=wren&materialId={material}&operation=cut&thickness={Uri.EscapeDataString(thickness)}";

    [Fact]
    public async Task AnEntry_IsSuggestedWithItsReasons_AndShutOnHalfTheThickness()
    {
        using var member = await house.As("member");
        var empty = (await member.Get(For("poplar-ply-laser", "2.9 mm"))).Body;
        empty.TryGetProperty("suggestion", out _).ShouldBeFalse();
        empty.GetProperty("guess").GetProperty("working").ToString().ShouldContain("mm/s");
        var made = await member.Post("/api/settings", Cut());
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body.ToString());
        var list = (await member.Get(For("poplar-ply-laser", "2.9 mm"))).Body;
        list.GetProperty("suggestion").GetProperty("id").GetString().ShouldBe(made.Id);
        list.GetProperty("suggestion").GetProperty("reasons").ToString().ShouldContain("within 10 % of 2.9 mm");
        var item = list.GetProperty("items")[0];
        item.GetProperty("watts").GetDecimal().ShouldBe(24, "60 % of 40 W");
        item.GetProperty("jPerMm").GetDecimal().ShouldBe(2);
        var thin = (await member.Get(For("poplar-ply-laser", "1.5 mm"))).Body;
        thin.TryGetProperty("suggestion", out _).ShouldBeFalse("another thickness is not suggested");
        thin.GetProperty("items")[0].GetProperty("code").GetString().ShouldBe("settings.double");
        thin.GetProperty("guess").GetProperty("working").ToString().ShouldContain("from the setting for 3 mm");

        using var newcomer = await house.As("newcomer");
        (await newcomer.Post($"/api/settings/{made.Id}/end")).Code.ShouldBe("setting.notYours");
        (await member.Post($"/api/settings/{made.Id}/end")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await member.Post($"/api/settings/{made.Id}/end")).Code.ShouldBe("setting.ended");
        (await member.Get(For("poplar-ply-laser", "2.9 mm"))).Body.GetProperty("items").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task TheSameTwice_IsAddedOnce()
    {
        using var member = await house.As("member");
        var cut = Cut("mdf");
        cut["id"] = Guid.NewGuid().ToString();
        await Task.WhenAll(member.Post("/api/settings", cut), member.Post("/api/settings", cut));
        (await member.Get(For("mdf", "3"))).Body.GetProperty("items").GetArrayLength().ShouldBe(1);
    }

    [Fact]
    public async Task WhatCannotBe_NamesItsFieldAndSaysWhatToType()
    {
        using var member = await house.As("member");
        async Task<IEnumerable<string>> Fields(string field, object? value)
        {
            var cut = Cut();
            cut[field] = value;
            var answer = await member.Post("/api/settings", cut);
            answer.Status.ShouldBe(HttpStatusCode.BadRequest, $"{field}: {answer.Body}");
            return answer.Fields;
        }
        (await Fields("speedMmPerS", 0)).ShouldBe(["speed"]);
        (await Fields("speedMmPerS", -4)).ShouldBe(["speed"]);
        (await Fields("thicknessMm", 0)).ShouldBe(["thicknessMm"]);
        (await Fields("powerPercent", 130)).ShouldContain("powerPercent");
        (await Fields("mask", "dry")).ShouldBe(["maskOf"]);
        (await Fields("machineId", "nobody")).ShouldBe(["machineId"]);
        (await Fields("materialId", "unobtainium")).ShouldBe(["materialId"]);
        (await Fields("operation", "fold")).ShouldBe(["operation"]);
        var typed = Cut();
        typed.Remove("speedMmPerS");
        typed["speed"] = "15 in/min";
        typed["materialId"] = "hardboard";
        (await member.Post("/api/settings", typed)).Status.ShouldBe(HttpStatusCode.Created);
        var vinyl = Cut();
        (vinyl["mask"], vinyl["maskOf"]) = ("dry", "clear vinyl");
        (await member.Post("/api/settings", vinyl)).Body.ToString().ShouldContain("hydrogen chloride");
        (await member.Get("/api/settings?machineId=wren&materialId=mdf&thickness=wide")).Fields.ShouldBe(["thickness"]);
    }

    [Fact]
    public async Task OnlyStaffEnterATechniciansSetting_AndAHouseMayLeaveItAllToStaff()
    {
        using var member = await house.As("member");
        using var trainer = await house.As("trainer");
        var technician = Cut("cork");
        technician["origin"] = "technician";
        (await member.Post("/api/settings", technician)).Code.ShouldBe("setting.origin");
        (await trainer.Post("/api/settings", technician)).Status.ShouldBe(HttpStatusCode.Created);
    }

    /// <summary>What is never, or was never ruled on, has no setting: none is suggested, guessed or taken.</summary>
    [Fact]
    public async Task WhatNoRulingPermits_HasNoSetting()
    {
        using var trainer = await house.As("trainer");
        var vinyl = (await trainer.Get(For("pvc-sheet", "3"))).Body;
        vinyl.GetProperty("notPermitted").GetString()!.ShouldStartWith("Never");
        vinyl.TryGetProperty("guess", out _).ShouldBeFalse();
        vinyl.GetProperty("mayAdd").GetBoolean().ShouldBeFalse();
        (await trainer.Post("/api/settings", Cut("pvc-sheet"))).Code.ShouldBe("setting.never");
        var thick = Cut();
        thick["thicknessMm"] = 400;
        (await trainer.Post("/api/settings", thick)).Code.ShouldBeOneOf("setting.cannot", "setting.banned");
    }

    /// <summary>What is typed where a number is wanted comes back in words; nothing is taken for nought.</summary>
    [Fact]
    public async Task LettersForANumber_AreRefused()
    {
        using var member = await house.As("member");
        var cut = Cut();
        cut["powerPercent"] = "sixty";
        var answer = await member.Post("/api/settings", cut);
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Detail.ShouldEndWith(".");
    }

    /// <summary>The demo's runs were made with the technicians' settings: how they came out stands with these.</summary>
    [Fact]
    public async Task Runs_CountForTheSettingTheyWereMadeWith()
    {
        using var member = await house.As("member");
        var list = (await member.Get("/api/settings?machineId=heron&materialId=birch-ply-laser&operation=cut&thicknessMm=3")).Body;
        var first = list.GetProperty("items")[0];
        first.GetProperty("origin").GetString().ShouldBe("technician");
        first.GetProperty("results").GetString().ShouldStartWith("clean");
        first.GetProperty("tested").GetBoolean().ShouldBeTrue();
        var run = new Dictionary<string, object?>
        {
            ["machineId"] = "wren",
            ["materialId"] = "birch-ply-laser",
            ["thickness"] = "3",
            ["operations"] = new[] { "cut" },
            ["start"] = "2026-11-24T09:00:00Z",
            ["end"] = "2026-11-24T09:10:00Z",
            ["outcome"] = "clean",
            ["settingId"] = first.GetProperty("id").GetString(),
        };
        (await member.Post("/api/runs", run)).Fields.ShouldBe(["settingId"], "a setting of another machine");
    }
}
