using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.House;

public class EmergencyCardTests
{
    private static readonly RoomSpec Room = new(
        Name: "Laser room",
        Address: "Mill Lane",
        VolumeM3: 100,
        Discharge: "",
        FreshAir: "",
        CoAlarm: true,
        ExtinguisherWhere: "by the door",
        Extinguisher: FireAgent.Co2,
        WaterAllowed: false,
        AlarmPoint: "red box",
        WayOut: "back stairs",
        MeetingPoint: "old oak",
        EmergencyCall: "112",
        WhoToTell: "the technician",
        FirstAid: "",
        KeyTimes: "",
        Computers: "",
        CleaningKit: "",
        Toolbox: "",
        Stock: ""
    );

    private static readonly StopDevice Red = new("red button", "front", CutsTube: true, CutsExtraction: false);
    private static readonly StopDevice Mains = new("main switch", "rear", CutsTube: true, CutsExtraction: true);
    private static readonly StopDevice Pause = new("pause key", "panel", CutsTube: false, CutsExtraction: false, FinishesStroke: true);
    private static readonly StopDevice Lid = new("lid", "opening it", CutsTube: true, CutsExtraction: false, OpensLid: true);

    private static Card For(ExtractionPower power, CardVariant variant, params StopDevice[] devices) => For(Room, power, variant, devices);

    private static Card For(
        RoomSpec? room,
        ExtractionPower power,
        CardVariant variant,
        StopDevice[] devices,
        Func<MachineStation, MachineStation>? change = null
    ) =>
        EmergencyCard.For(
            GateCase.Heron with
            {
                Station = (change ?? (s => s))(
                    new MachineStation(
                        Place: "bay",
                        ClassEvidence: "label",
                        Enclosure: "",
                        ExtractionPower: power,
                        ExtractionSwitch: "",
                        AirAssist: AirAssist.Automatic,
                        Cooling: Cooling.Chiller,
                        CoolantCautionC: 25,
                        CoolantAskC: 28,
                        CoolantShutC: 32,
                        CoolantColdC: 5,
                        RoomMinimumC: null,
                        AttentionMinutes: null,
                        Pulsed: false,
                        Suppression: "green button",
                        Access: "",
                        Beds: "",
                        FocusMethods: [],
                        ServicedBy: [],
                        Documents: [],
                        StopDevices: devices,
                        KeptAt: []
                    )
                    {
                        EnclosureKind = EnclosureKind.Closed,
                        SuppressionKind = SuppressionKind.Button,
                    }
                ),
            },
            room,
            Packs.Start(Packs.StaffedWorkshop, "The Shed", "Europe/London") with
            {
                Card = variant,
            }
        );

    private static string Fire(Card card) => string.Join('\n', card.Fire.Select(s => $"{s.Strong} {s.Text}"));

    [Fact]
    public void Card_HasTheCommonSpineInItsOrder()
    {
        var card = For(ExtractionPower.OwnSwitch, CardVariant.TrainedExtinguisher, Pause, Red with { CutsExtraction = true });
        card.Fire.Select(s => s.Strong)
            .ShouldBe([
                "STOP",
                "LID SHUT, EXTRACTION ON",
                "BEAM STILL ON, OR STILL BURNING: CUT THE POWER",
                "SMALL FLAME, AND YOU ARE TRAINED",
                "ELSE: ALARM, EVERYBODY OUT",
                "CALL 112",
                "MEET AND COUNT",
            ]);
        card.After.Single().Text.ShouldContain("watches for 60 minutes");
    }

    /// <summary>The trap: where extraction dies with the machine, switching off leaves the smoke in the room.</summary>
    [Fact]
    public void Card_WhereExtractionDiesWithTheMachine_SaysSoAndStopsWithoutItFirst()
    {
        var card = For(ExtractionPower.WithMachine, CardVariant.TrainedExtinguisher, Mains, Pause);
        card.Fire[0].Text.ShouldBe("Pause key, panel: it finishes the stroke, then stops, the machine stays live, extraction runs on.");
        card.Fire[1].Text.ShouldContain("Leave the machine switched on");
        card.Fire[2].Text.ShouldBe("Main switch, rear. The extraction stops with it: smoke stays in the room from now on.");
        card.Warnings.ShouldContain("Switching this machine off also stops its extraction.");
        card.Warnings.ShouldContain(w => w.Contains("stays live", StringComparison.Ordinal));
    }

    /// <summary>Where the only stop cuts everything, nothing after it asks for the extraction that it stopped.</summary>
    [Fact]
    public void Card_WhereTheOnlyStopCutsEverything_DoesNotAskForTheExtractionAfterIt()
    {
        var card = For(ExtractionPower.WithMachine, CardVariant.TrainedExtinguisher, Mains);
        card.Fire[1].Strong.ShouldBe("LID SHUT");
        card.Fire[1]
            .Text.ShouldBe(
                "Keep the lid shut: opening it feeds the fire. The extraction has stopped too: smoke stays in the room from now on."
            );
        card.Fume[0].Text.ShouldContain("go at once");
    }

    [Fact]
    public void Card_WhereAirAssistHasASwitch_TurnsItOffFirst() =>
        For(Room, ExtractionPower.OwnSwitch, CardVariant.TrainedExtinguisher, [Red], s => s with { AirAssist = AirAssist.PumpSwitch })
            .Fire[1]
            .Strong.ShouldBe("AIR ASSIST OFF, LID SHUT, EXTRACTION ON");

    [Fact]
    public void Card_NeverStopsByOpeningTheLid()
    {
        Fire(For(ExtractionPower.OwnSwitch, CardVariant.SuppressionThenCo2, Lid, Mains)).ShouldNotContain("Lid, opening it");
        For(ExtractionPower.OwnSwitch, CardVariant.TrainedExtinguisher, Lid).Fire[0].Text.ShouldBe("Press the stop of the machine.");
    }

    [Theory]
    [InlineData(CardVariant.StopAndLeave, "NOBODY OPENS THE LID", "burst")]
    [InlineData(
        CardVariant.TrainedExtinguisher,
        "CO₂ extinguisher, by the door: open the lid a crack, one or two short bursts, shut it",
        "spare sheet"
    )]
    [InlineData(CardVariant.SmotherFirst, "lay a spare sheet over the flame, shut it", "ten seconds")]
    [InlineData(CardVariant.SuppressionThenCo2, "Press: green button. Wait ten seconds, lid shut", "spare sheet")]
    public void Card_OfEachVariant_FightsAsTheHouseChoseAndSaysHowTheAgentGetsIn(CardVariant variant, string says, string not)
    {
        var fire = Fire(For(ExtractionPower.OwnSwitch, variant, Red));
        fire.ShouldContain(says);
        fire.ShouldNotContain(not);
    }

    /// <summary>What goes off by itself has no button.</summary>
    [Fact]
    public void Card_WithAHeatTriggeredDevice_HasNobodyPressIt()
    {
        var card = For(Room, ExtractionPower.OwnSwitch, CardVariant.SuppressionThenCo2, [Red], s =>
            s with
            {
                Suppression = "ball above the bed",
                SuppressionKind = SuppressionKind.HeatTriggered,
            }
        );
        Fire(card).ShouldNotContain("Press: ball");
        card.Warnings.ShouldContain("Ball above the bed goes off by itself in heat: there is nothing to press.");
    }

    /// <summary>A pause leaves the beam live: without a stop that cuts it, nobody opens the lid.</summary>
    [Fact]
    public void Card_WhereNothingCutsTheBeam_LetsNobodyOpenTheLid()
    {
        var card = For(ExtractionPower.OwnSwitch, CardVariant.TrainedExtinguisher, Pause);
        Fire(card).ShouldContain("NOBODY OPENS THE LID");
        Fire(card).ShouldNotContain("burst");
        card.Warnings.ShouldContain(w => w.StartsWith("No stop described here", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData(ExtractionPower.OwnSwitch, "only if that is on your way out")]
    [InlineData(ExtractionPower.WithMachine, "only if its switch is on your way out")]
    [InlineData(ExtractionPower.AlwaysOn, "leave it")]
    public void Card_ForSmokeFromFilterOrDuct_StopsTheFanOnlyOnTheWayOut(ExtractionPower power, string says)
    {
        var smoke = For(Room, power, CardVariant.TrainedExtinguisher, [Red], s =>
            s with
            {
                ExtractionSwitch = "grey switch by the door",
            }
        ).Smoke;
        smoke.Select(s => s.Act).ShouldBe([CardAct.Stop, CardAct.FanOff, CardAct.Leave]);
        smoke[1].Text.ShouldContain(says);
    }

    /// <summary>
    /// Every card of every machine, room and house choice, walked from every state: no step needs what an earlier one ended, and after
    /// leaving nothing is done but call and count.
    /// </summary>
    [Fact]
    public void Cards_OfEveryCombination_WalkedFromEveryState_AreOneCoherentOrder()
    {
        var walked = 0;
        foreach (var card in Combinations())
        {
            foreach (var steps in new[] { card.Fire, card.Smoke, card.Fume })
            {
                foreach (var (beam, extraction) in new (bool?, bool?)[] { (true, true), (true, false), (null, true), (null, null) })
                    Walk(steps, new CardState(BeamOff: beam == true ? false : null, ExtractionOn: extraction, LidShut: true, InRoom: true));
                walked++;
            }
        }
        walked.ShouldBeGreaterThan(20_000);
    }

    private static void Walk(IReadOnlyList<CardStep> steps, CardState state)
    {
        var ended = new CardState();
        var gone = false;
        foreach (var step in steps)
        {
            var at = $"{step.Strong}: {step.Text}\n{string.Join('\n', steps.Select(s => s.Strong))}";
            if (gone)
                step.Act.ShouldBeOneOf([CardAct.Call, CardAct.Meet], at);
            // What an earlier step ended is not asked for again; a beam has to have been taken its power before anybody opens a lid over
            // it.
            if (step.Needs.ExtractionOn == true)
                ended.ExtractionOn.ShouldBeNull(at);
            if (step.Needs.LidShut == true)
                ended.LidShut.ShouldBeNull(at);
            if (step.Needs.InRoom == true)
                ended.InRoom.ShouldBeNull(at);
            if (step.Needs.BeamOff == true)
                state.BeamOff.ShouldBe(true, at);
            if (step.Text.Contains("pen the lid", StringComparison.Ordinal) && step.Act is CardAct.Fight or CardAct.Embers)
                step.Text.ShouldContain("hut it", Case.Sensitive, at);
            if (ended.ExtractionOn == false)
                step.Text.ShouldNotContain("eave the extraction running", Case.Sensitive, at);
            state = state.After(step.Brings);
            ended = ended.After(
                new CardState(
                    null,
                    step.Brings.ExtractionOn == false ? false : null,
                    step.Brings.LidShut == false ? false : null,
                    step.Brings.InRoom == false ? false : null
                )
            );
            gone |= step.Act == CardAct.Leave;
        }
        gone.ShouldBeTrue("every order ends outside");
    }

    private static IEnumerable<Card> Combinations()
    {
        StopDevice[] all = [Red, Mains, Pause, Lid, new("key", "left", CutsTube: false, CutsExtraction: true)];
        foreach (var chosen in Enumerable.Range(0, 1 << all.Length).Select(bits => all.Where((_, i) => (bits >> i & 1) == 1).ToArray()))
        {
            foreach (var power in Enum.GetValues<ExtractionPower>())
            {
                foreach (var variant in Enum.GetValues<CardVariant>())
                {
                    foreach (var agent in Enum.GetValues<FireAgent>())
                    {
                        foreach (
                            var (kind, suppression, water) in new (EnclosureKind?, SuppressionKind?, bool)[]
                            {
                                (EnclosureKind.Closed, SuppressionKind.Button, false),
                                (EnclosureKind.OpenFrame, null, true),
                                (null, SuppressionKind.HeatTriggered, true),
                            }
                        )
                            yield return For(Room with { Extinguisher = agent, WaterAllowed = water }, power, variant, chosen, s =>
                                s with
                                {
                                    EnclosureKind = kind,
                                    SuppressionKind = suppression,
                                    AirAssist = AirAssist.HandValve,
                                }
                            );
                    }
                }
            }
        }
    }

    [Fact]
    public void Card_OffersWaterOnlyWhereTheHouseAllowsIt()
    {
        Fire(For(ExtractionPower.OwnSwitch, CardVariant.SmotherFirst, Red)).ShouldNotContain("Water");
        Fire(For(Room with { WaterAllowed = true }, ExtractionPower.OwnSwitch, CardVariant.SmotherFirst, [Red]))
            .ShouldContain("never near high voltage");
    }

    [Fact]
    public void Card_OfAHouseThatDescribedNothing_SaysWhatIsMissingAndStillHasTheSpine()
    {
        var card = EmergencyCard.For(GateCase.Heron with { Station = null }, null, Packs.Start(Packs.School, "The Shed", "Europe/London"));
        card.Fire[0].Text.ShouldBe("Press the stop of the machine.");
        card.Warnings.Count(w => w.StartsWith("Nobody has described", StringComparison.Ordinal)).ShouldBe(2);
        Fire(card).ShouldContain("CALL THE FIRE SERVICE");
        card.Defers.ShouldContain("fire officer");
    }

    [Fact]
    public void Card_SendsEyesToHospitalWithTheBeamsFigures() =>
        For(ExtractionPower.OwnSwitch, CardVariant.StopAndLeave, Red)
            .Hurt[1]
            .Text.ShouldBe("Hospital at once. Take this along: 10600 nm, 80 W.");
}
