using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.House;

public class EmergencyCardTests
{
    private static readonly RoomSpec Room = new(
        "Laser room", "Mill Lane", 100, "", "", true, "by the door", FireAgent.Co2, false, "red box", "back stairs", "old oak", "112", "the technician", "", "", "", "", "", "");

    private static readonly StopDevice Red = new("red button", "front", CutsTube: true, CutsExtraction: false);
    private static readonly StopDevice Mains = new("main switch", "rear", CutsTube: true, CutsExtraction: true);
    private static readonly StopDevice Pause = new("pause key", "panel", CutsTube: false, CutsExtraction: false, FinishesStroke: true);
    private static readonly StopDevice Lid = new("lid", "opening it", CutsTube: true, CutsExtraction: false, OpensLid: true);

    private static Card For(ExtractionPower power, CardVariant variant, params StopDevice[] devices) => For(Room, power, variant, devices);

    private static Card For(RoomSpec? room, ExtractionPower power, CardVariant variant, params StopDevice[] devices) => EmergencyCard.For(
        GateCase.Heron with { Station = new("bay", "label", "closed", power, "", AirAssist.Automatic, Cooling.Chiller, 25, 28, 32, 5, null, null, false, "green button: suppression", "", "", [], [], [], devices, []) },
        room, Packs.Start(Packs.StaffedWorkshop, "The Shed", "Europe/London") with { Card = variant });

    private static string Fire(Card card) => string.Join('\n', card.Fire.Select(s => $"{s.Strong} {s.Text}"));

    [Fact]
    public void Card_HasTheCommonSpineInItsOrder()
    {
        var steps = For(ExtractionPower.OwnSwitch, CardVariant.TrainedExtinguisher, Red, Mains).Fire.Select(s => s.Strong).ToList();
        steps.ShouldBe(["STOP", "LID SHUT, EXTRACTION ON", "STILL BURNING: CUT THE POWER", "SMALL FLAME, AND YOU ARE TRAINED", "ELSE: ALARM, EVERYBODY OUT", "CALL 112", "MEET AND COUNT", "AFTER ANY FLAME"]);
    }

    /// <summary>The trap: where extraction dies with the machine, switching off leaves the smoke in the room.</summary>
    [Fact]
    public void Card_WhereExtractionDiesWithTheMachine_SaysSoAndStopsWithoutItFirst()
    {
        var card = For(ExtractionPower.WithMachine, CardVariant.TrainedExtinguisher, Mains, Pause);
        card.Fire[0].Text.ShouldBe("Pause key, panel: it finishes the stroke, then stops, the machine stays live, extraction runs on.");
        card.Fire[1].Text.ShouldContain("Leave the machine switched on");
        card.Fire[2].Text.ShouldBe("Main switch, rear. The extraction stops with it: smoke will stay in the room, so leave.");
        card.Warnings.ShouldContain("Switching this machine off also stops its extraction.");
        card.Warnings.ShouldContain(w => w.Contains("stays live", StringComparison.Ordinal));
    }

    [Fact]
    public void Card_NeverStopsByOpeningTheLid()
    {
        Fire(For(ExtractionPower.OwnSwitch, CardVariant.SuppressionThenCo2, Lid, Mains)).ShouldNotContain("Lid, opening it");
        For(ExtractionPower.OwnSwitch, CardVariant.TrainedExtinguisher, Lid).Fire[0].Text.ShouldBe("Press the stop of the machine.");
    }

    [Theory]
    [InlineData(CardVariant.StopAndLeave, "DO NOT FIGHT IT", "short bursts")]
    [InlineData(CardVariant.TrainedExtinguisher, "CO₂ extinguisher, by the door: short bursts", "spare sheet")]
    [InlineData(CardVariant.SmotherFirst, "Smother it with a spare sheet", "lid open a crack")]
    [InlineData(CardVariant.SuppressionThenCo2, "Wait ten seconds", "spare sheet")]
    public void Card_OfEachVariant_FightsAsTheHouseChose(CardVariant variant, string says, string not)
    {
        var fire = Fire(For(ExtractionPower.OwnSwitch, variant, Red));
        fire.ShouldContain(says);
        fire.ShouldNotContain(not);
    }

    [Fact]
    public void Card_OffersWaterOnlyWhereTheHouseAllowsIt()
    {
        Fire(For(ExtractionPower.OwnSwitch, CardVariant.SmotherFirst, Red)).ShouldNotContain("Water");
        Fire(For(Room with { WaterAllowed = true }, ExtractionPower.OwnSwitch, CardVariant.SmotherFirst, Red)).ShouldContain("never near high voltage");
    }

    [Fact]
    public void Card_OfAHouseThatDescribedNothing_SaysWhatIsMissingAndStillHasTheSpine()
    {
        var card = EmergencyCard.For(GateCase.Heron, null, Packs.Start(Packs.School, "The Shed", "Europe/London"));
        card.Fire[0].Text.ShouldBe("Press the stop of the machine.");
        card.Warnings.Count(w => w.StartsWith("Nobody has described", StringComparison.Ordinal)).ShouldBe(2);
        Fire(card).ShouldContain("CALL THE FIRE SERVICE");
        card.Defers.ShouldContain("fire officer");
    }

    [Fact]
    public void Card_SendsEyesToHospitalWithTheBeamsFigures() =>
        For(ExtractionPower.OwnSwitch, CardVariant.StopAndLeave, Red).Hurt[1].Text.ShouldBe("Hospital at once. Take this along: 10600 nm, 80 W.");
}
