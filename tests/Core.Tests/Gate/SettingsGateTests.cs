using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.Gating;

/// <summary>Settings of the library held against the sheet that is measured.</summary>
public class SettingsGateTests
{
    /// <summary>By hand: 6.35 / 3.175 = 2; / 3.96 = 1.603…; / 3.97 = 1.599…; / 5.08 = 1.25; / 8 = 0.793….</summary>
    [Theory]
    [InlineData(3.175, "settings.double", Standing.Shut, "2.00 times")]
    [InlineData(3.96, "settings.hot", Standing.Ask, "1.603 times")]
    [InlineData(3.97, "settings.warm", Standing.Caution, "1.599 times")]
    [InlineData(5.08, "settings.warm", Standing.Caution, "1.25 times")]
    [InlineData(8.0, "settings.weak", Standing.Caution, "0.793 times")]
    public void Decide_SettingsForAQuarterInch_AreHeldAgainstTheSheet(double measured, string code, Standing standing, string says)
    {
        var reason = GateCase.Open().Set(GateCase.Entry(6.35m)).Measuring((decimal)measured).Decide().Reasons.Single(r => r.Code == code);
        reason.Standing.ShouldBe(standing);
        reason.Text.ShouldContain(says);
        reason.Text.ShouldContain("E-0007");
    }

    [Fact]
    public void Decide_WithATestedSettingThatFits_SaysNothingOfIt() =>
        GateCase.Open().Set(GateCase.Entry(3)).Decide().Reasons.ShouldNotContain(r => r.Code.StartsWith("settings."));

    /// <summary>An entry that says it is for this thickness and gives twice what another cut it with.</summary>
    [Fact]
    public void Decide_EntryThatMisstatesItsThickness_IsCaughtByItsEnergy()
    {
        var tested = GateCase.Entry(3);
        var wrong = GateCase.Entry(3, number: 8) with { JPerMm = 6, Clean = [] };
        var c = GateCase.Open().Set(wrong).With(f => f with { Settings = [wrong, tested] });
        c.Decide().Reasons.Select(r => r.Code).ShouldContain("settings.double");
        c.With(f => f with { Settings = [wrong, tested with { Flames = 1 }] })
            .Decide()
            .Reasons.Select(r => r.Code)
            .ShouldNotContain("settings.double", "what burned is no measure of what is needed");
    }

    /// <summary>Only a test piece on the very sheet clears it, and nobody’s word does.</summary>
    [Fact]
    public void Decide_HotSetting_IsClearedByATestPieceOnThatSheetAlone()
    {
        var hot = GateCase.Open().Set(GateCase.Entry(4.9m));
        hot.Decide().Reasons.Single(r => r.Code == "settings.hot").Standing.ShouldBe(Standing.Ask);
        Codes.Of("settings.hot").LiftedBy.ShouldBe(LiftedBy.Nobody);
        CodesWith(new CleanFacts(3, "S-0099", GateCase.Now)).ShouldContain("settings.hot", "another sheet");
        CodesWith(new CleanFacts(3, "S-0097", GateCase.Now)).ShouldNotContain("settings.hot");
        CodesWith(new CleanFacts(3, "S-0097", GateCase.Now)).ShouldContain("settings.warm", "it stays more than the sheet needs");
        CodesWith(new CleanFacts(3, "S-0097", GateCase.Now - Duration.FromDays(366))).ShouldContain("settings.hot", "long ago");

        IEnumerable<string> CodesWith(CleanFacts clean) =>
            GateCase.Open().Set(GateCase.Entry(4.9m) with { Clean = [clean] }).Decide().Reasons.Select(r => r.Code);
    }

    /// <summary>Heron’s bed is 900 x 600 with a margin of 10: a wrap may be higher than it, and never wider.</summary>
    [Theory]
    [InlineData(200, 700, null, true)]
    [InlineData(200, 700, "rotary", false)]
    [InlineData(881, 200, "rotary", true)]
    public void Decide_OnTheRotary_TheBedsHeightIsNotJudged(double width, double height, string? fixture, bool off)
    {
        var decision = GateCase
            .Open()
            .Asking(a => a with { Fixture = fixture })
            .WithDrawing(d => d with { ExtentMm = new(0, 0, width, height) })
            .Decide();
        decision.Reasons.Any(r => r.Code == "drawing.offBed").ShouldBe(off);
        decision.Reasons.Any(r => r.Code == "size.offSheet").ShouldBe(fixture is null && height > 600);
    }

    /// <summary>
    /// By hand: 2.8 in x π = 223.43 mm, so that a page of 9 in (228.6 mm) is 5.17 mm too long; 73 to 66 mm is 9.6 % of taper, and 66 to
    /// 65 mm 1.5 %. Straight work on a page of once around is in order.
    /// </summary>
    [Theory]
    [InlineData(200, 71.12, null, 228.6, "rotary.page", "5.17 mm too long")]
    [InlineData(200, 71.12, null, 220.0, "rotary.page", "3.43 mm too short")]
    [InlineData(228.6, 71.12, null, 228.6, "rotary.overlap", "by 5.17 mm")]
    [InlineData(200, 73, 66.0, null, "rotary.taper", "9.6 %")]
    [InlineData(200, 66, 65.0, null, null, "")]
    [InlineData(223, 71.12, null, null, null, "")]
    public void Decide_RoundThatWasMeasured_IsHeldAgainstThePage(
        double height,
        double one,
        double? other,
        double? page,
        string? code,
        string says
    )
    {
        var round = new RoundPiece((decimal)one, (decimal?)other);
        var reasons = GateCase.Open().OnRotary(height, round, page).Decide().Reasons.Where(r => r.Code.StartsWith("rotary.")).ToList();
        reasons.Select(r => r.Code).ShouldBe(code is null ? [] : [code]);
        if (code is not null)
            reasons[0].Text.ShouldContain(says);
    }

    /// <summary>Lengths as a sheet is measured: a millimetre apart is the same; a DXF has no page, and says so.</summary>
    [Theory]
    [InlineData("svg", 600, 400, false)]
    [InlineData("svg", 600.9, 399.2, false)]
    [InlineData("svg", 400, 600, true)]
    [InlineData("svg", 602, 400, true)]
    [InlineData("dxf", 600, 400, true)]
    public void Decide_HouseWhosePageIsTheSheet_HoldsThemTogether(string format, double width, double height, bool refused)
    {
        var gate = GateCase.Open().WithDrawing(d => d with { Format = format, WidthMm = width, HeightMm = height });
        gate.Decide().Reasons.Any(r => r.Code == "page.notSheet").ShouldBeFalse();
        gate.Rules(r => r with { PageIsSheet = true }).Decide().Reasons.Any(r => r.Code == "page.notSheet").ShouldBe(refused);
    }

    /// <summary>Unknown is never clear: an entry that is not there, another material’s, another work’s, one that was taken out.</summary>
    [Fact]
    public void Decide_EntryThatIsNotForThis_StaysShut()
    {
        var entry = GateCase.Entry(3);
        GateCase[] cases =
        [
            GateCase.Open().Set(entry).With(f => f with { Settings = [] }),
            GateCase.Open().Set(entry).With(f => f with { Settings = null }),
            GateCase.Open().Set(entry with { MaterialId = "acrylic-cast" }),
            GateCase.Open().Set(entry with { Operation = Operation.Engrave }),
            GateCase.Open().Set(entry with { Held = new Span(GateCase.Always.Start, GateCase.Now) }),
        ];
        foreach (var c in cases)
            c.Decide().Reasons.Single(r => r.Code == "settings.unknown").Standing.ShouldBe(Standing.Shut);
    }

    /// <summary>An engraving never tests a cut, a setting never another one; what is untested takes a test piece’s time.</summary>
    [Fact]
    public void Decide_WhatIsUntested_SaysSoAndTakesTheTimeOfATestPiece()
    {
        var tested = GateCase.Open();
        tested.Decide().Reasons.ShouldNotContain(r => r.Code == "settings.untested");
        var other = tested.With(f =>
            f with
            {
                Machine = f.Machine with { Tested = [.. f.Machine.Tested.Select(t => t with { Operation = Operation.Engrave })] },
            }
        );
        other.Decide().Reasons.Single(r => r.Code == "settings.untested").Standing.ShouldBe(Standing.Caution);
        other.Decide().Length.Parts.ShouldContain(p => p.Part == PartKind.TestPiece);
        var chosen = tested.Set(GateCase.Entry(3) with { Clean = [] }).Decide();
        chosen.Reasons.Single(r => r.Code == "settings.untested").Text.ShouldContain("with this setting");
        chosen.Length.Parts.ShouldContain(p => p.Part == PartKind.TestPiece);
        GateCase
            .Open()
            .WithSheet(s => s with { Rulings = Fact.Known<IReadOnlyList<HeldRuling>>([]) })
            .With(f => f with { Machine = f.Machine with { Tested = [] } })
            .Decide()
            .Reasons.ShouldNotContain(r => r.Code == "settings.untested", "what cannot run needs no test piece");
    }
}
