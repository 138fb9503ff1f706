using System.Net;
using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Settings;

/// <summary>A test piece from its drawing to the setting that is kept, and what the gate makes of it.</summary>
public class TestPieceTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static object Wish(string kind, string material = "poplar-ply-laser", string? tag = null) =>
        new
        {
            kind,
            machineId = "wren",
            materialId = material,
            thicknessMm = 3,
            sheetTag = tag,
        };

    private static object Cells(JsonElement piece, Func<double, bool> through, Func<double, bool>? charred = null, double factor = 1) =>
        new
        {
            cells = piece
                .GetProperty("cells")
                .EnumerateArray()
                .Select(c => c.GetProperty("jPerMm").GetDouble())
                .Select(e => new
                {
                    energyJPerMm = e * factor,
                    through = through(e),
                    charred = charred?.Invoke(e) ?? false,
                }),
        };

    private static object Ask(string setting, decimal mm) =>
        new
        {
            machineId = "wren",
            materialId = "poplar-ply-laser",
            thicknessMm = mm,
            operations = new[] { "cut" },
            runMinutes = 5,
            settingIds = new[] { setting },
            start = "2026-11-25T18:00:00+00:00",
            minutes = 60,
        };

    private static IEnumerable<string?> Codes(JsonElement gate) =>
        gate.GetProperty("posts")
            .EnumerateArray()
            .SelectMany(p => p.GetProperty("reasons").EnumerateArray())
            .Select(r => r.GetProperty("code").GetString());

    [Fact]
    public async Task ACutRow_IsMadeToldOnce_AndItsSettingIsTestedAtTheGate()
    {
        using var member = await house.As("member");
        var made = await member.Post("/api/test-pieces", Wish("cut"));
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body.ToString());
        made.Body.GetProperty("svg").GetString().ShouldStartWith("<svg");
        var energies = made.Body.GetProperty("cells").EnumerateArray().Select(c => c.GetProperty("jPerMm").GetDouble()).Order().ToList();
        var limit = energies[energies.Count / 2];
        var twice = await Task.WhenAll(
            member.Post($"/api/test-pieces/{made.Id}/results", Cells(made.Body, e => e > limit)),
            member.Post($"/api/test-pieces/{made.Id}/results", Cells(made.Body, e => e > limit))
        );
        twice.Select(t => t.Status).Order().ShouldBe([HttpStatusCode.OK, HttpStatusCode.Conflict]);
        var told = twice.Single(t => t.Status == HttpStatusCode.OK).Body;
        var boundary = told.GetProperty("boundary");
        boundary.GetProperty("separated").GetBoolean().ShouldBeTrue();
        boundary.GetProperty("low").GetDouble().ShouldBe(limit, 1e-6);
        boundary.GetProperty("jPerMm").GetDouble().ShouldBeInRange(limit, boundary.GetProperty("high").GetDouble());
        var kept = told.GetProperty("recommended");
        kept.GetProperty("jPerMm")
            .GetDouble()
            .ShouldBeGreaterThanOrEqualTo(boundary.GetProperty("high").GetDouble() - 1e-3, "the larger of margin and lowest sure cell");
        told.GetProperty("kept").GetBoolean().ShouldBeTrue();

        var entry = kept.GetProperty("settingId").GetString()!;
        var list = (await member.Get("/api/settings?machineId=wren&materialId=poplar-ply-laser&operation=cut&thickness=3")).Body;
        list.GetProperty("suggestion").GetProperty("id").GetString().ShouldBe(entry);
        list.GetProperty("items")[0].GetProperty("tested").GetBoolean().ShouldBeTrue();
        Codes((await member.Post("/api/gate/ask", Ask(entry, 3))).Body).ShouldNotContain(c => c!.StartsWith("settings."));
        var thin = (await member.Post("/api/gate/ask", Ask(entry, 1.5m))).Body;
        Codes(thin).ShouldContain("settings.double");
        thin.GetProperty("verdict").GetString().ShouldBe("shut");
        var hot = (await member.Post("/api/gate/ask", Ask(entry, 1.8m))).Body;
        Codes(hot).ShouldContain("settings.hot");
        hot.GetProperty("mayBeLifted").GetBoolean().ShouldBeFalse("nobody’s word clears it");
        Codes((await member.Post("/api/gate/ask", Ask(Guid.NewGuid().ToString(), 3))).Body).ShouldContain("settings.unknown");
        (await member.Post("/api/gate/ask", Ask("seven", 3))).Fields.ShouldBe(["settingIds"]);

        // An entry for a thicker sheet is cleared by this piece, which came out clean at its energy.
        async Task<string> Thick(double jPerMm) =>
            (
                await member.Post(
                    "/api/settings",
                    new
                    {
                        machineId = "wren",
                        materialId = "poplar-ply-laser",
                        thicknessMm = 4.9,
                        operation = "cut",
                        powerPercent = 60,
                        speedMmPerS = Math.Round(24 / jPerMm, 3),
                    }
                )
            ).Id!;
        var proved = Codes((await member.Post("/api/gate/ask", Ask(await Thick(energies[^5]), 3))).Body).ToList();
        proved.ShouldNotContain("settings.hot");
        proved.ShouldContain("settings.warm");
        Codes((await member.Post("/api/gate/ask", Ask(await Thick(energies[^1] * 1.3), 3))).Body)
            .ShouldContain(c => c == "settings.hot" || c == "settings.double", "no cell was cut with so much");

        (await member.Post($"/api/settings/{entry}/end")).Status.ShouldBe(HttpStatusCode.NoContent);
        Codes((await member.Post("/api/gate/ask", Ask(entry, 3))).Body).ShouldContain("settings.unknown", "it was taken out");
    }

    /// <summary>Results that contradict, that are too few or all alike say so, and the piece can still be told.</summary>
    [Fact]
    public async Task ResultsThatSayNothing_AreRefusedInWords_AndNothingIsKept()
    {
        using var member = await house.As("member");
        var made = (await member.Post("/api/test-pieces", Wish("cut", "mdf"))).Body;
        var id = made.GetProperty("id").GetString();
        var energies = made.GetProperty("cells").EnumerateArray().Select(c => c.GetProperty("jPerMm").GetDouble()).Order().ToList();
        (await member.Post($"/api/test-pieces/{id}/results", Cells(made, e => e < energies[8]))).Code.ShouldBe("test.contradicts");
        (await member.Post($"/api/test-pieces/{id}/results", Cells(made, _ => true))).Code.ShouldBe("test.allThrough");
        (await member.Post($"/api/test-pieces/{id}/results", Cells(made, _ => false))).Code.ShouldBe("test.noneThrough");
        (await member.Post($"/api/test-pieces/{id}/results", new { cells = Array.Empty<object>() })).Fields.ShouldBe(["cells"]);
        (
            await member.Post($"/api/test-pieces/{id}/results", new { cells = new[] { new { energyJPerMm = -1.0, through = true } } })
        ).Fields.ShouldBe(["cells[0].energyJPerMm"]);
        // Other energies than the piece has are fitted, and nothing of it is kept.
        var other = await member.Post($"/api/test-pieces/{id}/results", Cells(made, e => e > energies[8], factor: 20));
        other.Status.ShouldBe(HttpStatusCode.OK, other.Body.ToString());
        other.Body.GetProperty("kept").GetBoolean().ShouldBeFalse();
        other.Body.GetProperty("whyNotKept").GetString()!.ShouldContain("not the energies of this piece");
        (await member.Get("/api/settings?machineId=wren&materialId=mdf&operation=cut&thickness=3"))
            .Body.GetProperty("items")
            .EnumerateArray()
            .ShouldNotContain(i => i.GetProperty("tested").GetBoolean());
        var charred = await member.Post($"/api/test-pieces/{id}/results", Cells(made, e => e > energies[8], e => e > energies[8]));
        charred.Status.ShouldBe(HttpStatusCode.OK, charred.Body.ToString());
        charred.Body.TryGetProperty("recommended", out _).ShouldBeFalse("what charred everywhere is not kept");
    }

    /// <summary>(100 − 97.8) mm over ten parts is 0.22 mm; a slot for 3 mm is drawn 2.78.</summary>
    [Fact]
    public async Task AKerfComb_IsMeasured_AndTheOthersAreChosenFrom()
    {
        using var member = await house.As("member");
        async Task<JsonElement> Tell(string kind, Func<JsonElement, object> told)
        {
            var made = (await member.Post("/api/test-pieces", Wish(kind))).Body;
            var answer = await member.Post($"/api/test-pieces/{made.GetProperty("id").GetString()}/results", told(made));
            answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body.ToString());
            return answer.Body;
        }
        static object Last(JsonElement made) =>
            new { chosen = made.GetProperty("cells").EnumerateArray().Last().GetProperty("label").GetString() };
        var kerf = await Tell("kerf", _ => new { measured = "97.8 mm" });
        kerf.GetProperty("kerfMm").GetDecimal().ShouldBe(0.22m);
        kerf.GetProperty("slotMm").GetDecimal().ShouldBe(2.78m);
        (await Tell("focus", Last)).GetProperty("focusMm").GetDecimal().ShouldBe(2.5m);
        (await Tell("joint", Last)).GetProperty("slotMm").GetDecimal().ShouldBeInRange(2.8m, 3m);
        (await Tell("engrave", Last)).GetProperty("recommended").GetProperty("operation").GetString().ShouldBe("engrave");
        var comb = (await member.Post("/api/test-pieces", Wish("kerf"))).Id;
        (await member.Post($"/api/test-pieces/{comb}/results", new { measured = "101 mm" })).Code.ShouldBe("test.kerf");
        (await member.Post($"/api/test-pieces/{comb}/results", new { })).Fields.ShouldBe(["measured"]);
    }

    [Fact]
    public async Task WhatNoRulingPermits_OrLiesOnNoSheet_IsNotMade()
    {
        using var member = await house.As("member");
        (await member.Post("/api/test-pieces", Wish("cut", "pvc-sheet"))).Code.ShouldBe("setting.never");
        (await member.Post("/api/test-pieces", Wish("cut", tag: "S-9999"))).Fields.ShouldBe(["sheetTag"]);
        (await member.Post("/api/test-pieces", Wish("cut", tag: "S-0097"))).Fields.ShouldBe(["sheetTag"], "another material");
        (await member.Post("/api/test-pieces", Wish("wave"))).Fields.ShouldBe(["kind"]);
    }
}
