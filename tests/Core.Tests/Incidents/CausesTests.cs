using Shouldly;
using VelvetGate.Core.Incidents;
using Xunit;

namespace VelvetGate.Core.Tests.Incidents;

public class CausesTests
{
    /// <summary>A cut run on a cleared sheet with nothing against it.</summary>
    private static readonly KnownFacts Known = new(
        Drawing: "ticket tags",
        DoubledMm: null,
        NearMm: null,
        ThicknessMm: 3.175m,
        Tag: "S-0142",
        TagKnown: true,
        Overdue: [],
        UsualJPerMm2: 1.2m,
        Cut: true
    );

    private static IReadOnlyList<ProposedCause> Of(KnownFacts known, ToldFacts? told = null, Mishap what = Mishap.Flame) =>
        Causes.Propose(what, known, told ?? new ToldFacts(), 1.5m);

    /// <summary>200 mm drawn twice, and settings for 6.35 mm on a sheet of 3.175: those two, and nothing else.</summary>
    [Fact]
    public void DoubledLinesAndSettingsForTwiceTheThickness_AreProposed_AndNothingElse()
    {
        var causes = Of(Known with { DoubledMm = 200 }, new ToldFacts(SettingsForMm: 6.35m));
        causes.Select(c => c.Code).ShouldBe(["lines", "settings"]);
        causes[0].Evidence.ShouldBe("line.duplicate: 200 mm of cut line drawn more than once on ticket tags.");
        causes[1].Evidence.ShouldContain("Ratio 2.0");
        (causes[0].Told, causes[1].Told).ShouldBe((false, true));
    }

    [Fact]
    public void Nothing_IsOpen() => Of(Known).ShouldHaveSingleItem().Code.ShouldBe("open");

    [Theory]
    [InlineData(3.95, false)] // 1.244
    [InlineData(3.97, true)] // 1.2504
    public void Settings_FromAQuarterMore(double settingsFor, bool proposed) =>
        (Of(Known, new ToldFacts(SettingsForMm: (decimal)settingsFor))[0].Code == "settings").ShouldBe(proposed);

    /// <summary>What was measured afterwards goes before what was asked.</summary>
    [Fact]
    public void Settings_GoByTheMeasuredThickness() =>
        Of(Known, new ToldFacts(SettingsForMm: 3.2m, MeasuredMm: 2))
            .ShouldHaveSingleItem()
            .Evidence.ShouldContain("the sheet measures 2 mm");

    [Theory]
    [InlineData(74.9, true)]
    [InlineData(75, false)]
    public void Extraction_BelowThreeQuarters(double percent, bool proposed) =>
        Of(Known, new ToldFacts(AirflowPercent: (decimal)percent)).Any(c => c.Code == "extraction").ShouldBe(proposed);

    [Fact]
    public void EachFact_BringsItsCause()
    {
        Of(Known with { NearMm = 40 })[0].Code.ShouldBe("lines");
        Of(Known, new ToldFacts(FocusSet: false))[0].Code.ShouldBe("focus");
        Of(Known, new ToldFacts(SomebodyThere: false))[0].Code.ShouldBe("unattended");
        Of(Known with { Tag = null })[0].Code.ShouldBe("material");
        Of(Known with { Quarantined = true })[0].Code.ShouldBe("material");
        Of(Known with { Overdue = ["Mirrors"] })[0].Evidence.ShouldContain("Mirrors");
        Of(Known, new ToldFacts(AirAssistOn: false))[0].Code.ShouldBe("airAssist");
        Of(Known with { Cut = false }, new ToldFacts(AirAssistOn: false))[0].Code.ShouldBe("open", "engraving wants no air assist");
        Of(Known, new ToldFacts(LidTooSoon: true))[0].Code.ShouldBe("lidTooSoon");
        Of(Known, what: Mishap.NobodyThere)[0].Code.ShouldBe("unattended");
        Of(Known, what: Mishap.WrongSheet)[0].Code.ShouldBe("material");
        Of(Known, what: Mishap.InterlockFailed)[0].Code.ShouldBe("machine");
    }

    /// <summary>Nobody knows a run: then no tag is known either, and nothing is made of that.</summary>
    [Fact]
    public void NoRun_SaysNothingOfTheSheet() => Of(new KnownFacts()).ShouldHaveSingleItem().Code.ShouldBe("open");

    /// <summary>72 W at 8 mm/s through 3.175 mm: 2.83 J/mm2, 2.36 times the usual 1.2.</summary>
    [Theory]
    [InlineData(1, true)]
    [InlineData(2, false)]
    public void ThickInOneSlowPass_OnlyInOnePass(int passes, bool proposed) =>
        Of(Known, new ToldFacts(PowerW: 72, SpeedMmPerS: 8, Passes: passes)).Any(c => c.Code == "onePass").ShouldBe(proposed);

    [Fact]
    public void ThickInOneSlowPass_ByTheHousesValue()
    {
        var told = new ToldFacts(PowerW: 72, SpeedMmPerS: 8, Passes: 1);
        Causes.Propose(Mishap.Flame, Known, told, 2.3m)[0].Code.ShouldBe("onePass");
        Causes.Propose(Mishap.Flame, Known, told, 2.4m)[0].Code.ShouldBe("open");
    }

    [Fact]
    public void EveryCode_HasATitleOfItsOwn()
    {
        Causes.All.Select(c => c.Code).ShouldBeUnique();
        Causes.All.Select(c => c.Title).ShouldBeUnique();
    }

    [Theory]
    [InlineData(new string[0], "looked", "cause.open")]
    [InlineData(new[] { "open" }, " ", "cause.open")]
    [InlineData(new[] { "other" }, null, "cause.open")]
    [InlineData(new[] { "open", "focus" }, "looked", "cause.open")]
    [InlineData(new[] { "witchcraft" }, null, "cause.unknown")]
    [InlineData(new[] { "open" }, "Looked at everything", null)]
    [InlineData(new[] { "lines", "settings" }, null, null)]
    public void Ticking_WantsACauseOrWords(string[] codes, string? note, string? refused) =>
        (CauseRules.Check(codes, note)?.Code).ShouldBe(refused);
}
