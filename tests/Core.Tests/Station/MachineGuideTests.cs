using Shouldly;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Station;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Stations;

public class MachineGuideTests
{
    private static readonly MachineStation Station = GateCase.Heron.Station!;

    private static MachineGuide Of(MachineSpec machine) => MachineGuide.Of(machine, GateCase.Open().Facts.Rules);

    [Theory]
    [InlineData("far right", true, true)]
    [InlineData("upper left", true, false)]
    [InlineData("near left corner", false, false)]
    [InlineData("front, right", false, true)]
    public void Corner_FromWords(string words, bool far, bool right) => HomeCorner.Of(words).ShouldBe(new HomeCorner(far, right));

    [Theory]
    [InlineData("centre")]
    [InlineData("")]
    [InlineData("left")]
    public void Corner_NobodyCouldDraw_IsNotDrawn(string words) => HomeCorner.Of(words).ShouldBeNull();

    /// <summary>By hand: 3 · 0.45 / (422.5 / 3600) · ln 100 = 52.97 s, so 53; as long as the session at the machine waits.</summary>
    [Fact]
    public void Wait_IsThatOfTheSession()
    {
        var guide = Of(GateCase.Heron with { EnclosureM3 = 0.45m, AirflowM3PerHour = 650 });
        guide.Wait.What.ShouldBe("Wait 53 s at least before you open the lid");
        guide.Wait.Says.ShouldContain("= 53.0 s");
        Of(GateCase.Heron with { AirflowM3PerHour = 0 }).Wait.Says.ShouldContain("stays shut");
    }

    [Fact]
    public void Order_AsTheHouseWroteIt_AndNothingIsMadeUp()
    {
        KeptAt[] on = [new("Extraction", "grey switch"), new("Key", "panel")];
        Of(GateCase.Heron with { Station = Station with { SwitchOn = on } }).On.ShouldBe(on);
        Of(GateCase.Heron).On.ShouldBeEmpty();
        Of(GateCase.Heron with { Station = null }).Parts.ShouldAllBe(p => p.Terms.All(t => t.Says.Length > 0));
        Of(GateCase.Heron).Defers.ShouldContain("no safety system");
    }

    [Fact]
    public void Signs_AreOnThePage_WhereSomebodyWroteThem()
    {
        var signed = Station with { Signs = [new("Red fan icon", "the fan is off, or broken: listen")] };
        Of(GateCase.Heron with { Station = signed })
            .Parts.Single(p => p.Title == "What it shows")
            .Terms.ShouldBe([new GuideTerm("Red fan icon", "the fan is off, or broken: listen")]);
        Of(GateCase.Heron).Parts.ShouldNotContain(p => p.Title == "What it shows");
    }

    /// <summary>Whoever comes next keeps chiller and computer on; the last of the day switches off in the machine’s own order.</summary>
    [Fact]
    public void Closing_SaysWhatIsLeft_ByStockAndByWhoComesNext()
    {
        var heron = GateCase.Heron with { Station = Station with { SwitchOff = [new("Key", "panel"), new("Chiller", "below")] } };
        ClosingPlaces
            .Lines("fan", heron, residue: false, comesAfter: true)
            .ShouldContain(l => l.Contains("stay on for whoever comes next"));
        ClosingPlaces.Lines("fan", heron, residue: false, comesAfter: false).TakeLast(2).ShouldBe(["1. Key: panel", "2. Chiller: below"]);
        ClosingPlaces.Lines("head", heron, residue: true, comesAfter: false).ShouldContain(l => l.Contains("lens and its holder"));
        ClosingPlaces.Lines("head", heron, residue: false, comesAfter: false).ShouldNotContain(l => l.Contains("lens"));
    }

    [Fact]
    public void Stops_SayWhatEachReallyDoes() =>
        Of(GateCase.Heron)
            .Parts.Single(p => p.Title == "What each stop really does")
            .Terms[0]
            .Says.ShouldBe($"front: {new StopDevice("red button", "front", true, false).Says()}");
}
