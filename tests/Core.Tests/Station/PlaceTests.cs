using NodaTime;
using Shouldly;
using VelvetGate.Core.Station;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Stations;

/// <summary>What stands at a machine for whoever comes without a fob and without a controller.</summary>
public class PlaceTests
{
    private static readonly Instant At = Instant.FromUtc(2026, 11, 24, 14, 0);

    private static readonly StationSession Phone = new()
    {
        Id = Guid.NewGuid(),
        MachineId = "heron",
        Person = "m-4",
        Booking = Guid.NewGuid(),
        TappedIn = At,
        Until = At + Duration.FromMinutes(90),
        Items = GateCase.Open().Ask.Items,
        Places = [],
        Step = StationStep.Confirm,
    };

    [Theory]
    [InlineData("7K3MQ0", true)]
    [InlineData(" 7k3mqo ", true)]
    [InlineData("7K3 MQ0", true)]
    [InlineData("7K3MQ1", false)]
    [InlineData("", false)]
    public void Code_CountsAsItIsScannedOrTyped(string typed, bool counts) =>
        PlaceCodes.Scanned(Phone, typed, "7K3MQ0", At).IsOk.ShouldBe(counts);

    [Fact]
    public void Code_IsDueFromAPhone_WhereOneWasMade_AndForFiveMinutes()
    {
        PlaceCodes.Due(Phone, null, atScreen: false, At).ShouldBeFalse("none was made");
        PlaceCodes.Due(Phone, "7K3MQ0", atScreen: false, At).ShouldBeTrue();
        PlaceCodes.Due(Phone, "7K3MQ0", atScreen: true, At).ShouldBeFalse("the screen stands there");
        PlaceCodes.Due(Phone with { Controlled = true }, "7K3MQ0", atScreen: false, At).ShouldBeFalse("its button says so");
        var scanned = PlaceCodes.Scanned(Phone, "7K3MQ0", "7K3MQ0", At).Value;
        PlaceCodes.Due(scanned, "7K3MQ0", atScreen: false, At + Duration.FromMinutes(5)).ShouldBeFalse();
        PlaceCodes.Due(scanned, "7K3MQ0", atScreen: false, At + Duration.FromSeconds(301)).ShouldBeTrue();
        PlaceCodes.Scanned(Phone, "7K3MQ0", null, At).Refusal!.Code.ShouldBe("here.wrong", "a code that was taken off");
    }

    [Fact]
    public void Code_HasNoLettersThatAreTakenForOthers() => PlaceCodes.Letters.ShouldBe(PlaceCodes.Read(PlaceCodes.Letters));

    [Theory]
    [InlineData("2580", true)]
    [InlineData("25806914", true)]
    [InlineData("258", false)]
    [InlineData("258069147", false)]
    [InlineData("7777", false)]
    [InlineData("3456", false)]
    [InlineData("9876", false)]
    [InlineData("12a4", false)]
    [InlineData("١٢٣٥", false)]
    public void Pin_HasFourToEightFigures_AndIsNotGuessedFirst(string pin, bool good) => (Pins.Check(pin) is null).ShouldBe(good);

    [Fact]
    public void Pin_IsAskedOfWhoeverBeginsOrTakesOver_WhereTheHouseDoes()
    {
        var rules = GateCase.Open().Facts.Rules with { PinWithFob = true };
        Pins.Asked(rules with { PinWithFob = false }, there: null, "m-4").ShouldBeFalse();
        Pins.Asked(rules, there: null, "m-4").ShouldBeTrue();
        Pins.Asked(rules, Phone, "m-4").ShouldBeFalse("is tapped in already");
        Pins.Asked(rules, Phone, "m-3").ShouldBeTrue("would take over");
        Pins.Asked(rules, Phone with { Supervisor = "m-3" }, "m-3").ShouldBeFalse("supervises");
    }

    /// <summary>Schools differ: a machine whose timer counts from tapping in.</summary>
    [Fact]
    public void AttentionFromTapIn_IsSaidWhilePreparing_OrTheLooksBeginAnew()
    {
        var usual = SessionActsTests.Facts;
        var facts = usual with { Machine = usual.Machine with { Station = usual.Machine.Station! with { AttentionFromTapIn = true } } };
        var s = SessionActsTests.TappedIn();
        TapInAttention.Until(s, usual.Machine, usual.Rules).ShouldBeNull("ours counts from the beam permit");
        var minutes = Attention.Minutes(facts.Machine, facts.Rules);
        TapInAttention.Until(s, facts.Machine, facts.Rules).ShouldBe(s.TappedIn + Duration.FromMinutes(minutes));
        new StationAct(Deed.Press).ShouldSatisfyAllConditions(a => s.After(a, usual, s.TappedIn).IsOk.ShouldBeFalse());

        var walk = new StationAct(Deed.Check) { Item = "walk", Ok = true };
        var looked = s.After(walk, facts, s.TappedIn + Duration.FromMinutes(1)).Value;
        looked.Looked.ShouldNotBeEmpty();
        var pressed = looked.After(new StationAct(Deed.Press), facts, s.TappedIn + Duration.FromMinutes(minutes + 0.5)).Value;
        (pressed.Looked.Count, pressed.Unattended).ShouldBe((1, false));
        var bed = new StationAct(Deed.Check) { Item = "bed", Ok = true };
        var late = pressed.After(bed, facts, s.TappedIn + Duration.FromMinutes(2 * minutes + 0.6)).Value;
        (late.Looked.Count, late.Step, late.Unattended).ShouldBe(
            (0, StationStep.Checks, true),
            "nobody said so in time: that look is not done"
        );
        late.After(new StationAct(Deed.TapOut), facts, s.Until).IsOk.ShouldBeTrue("whoever left taps out");
    }

    [Fact]
    public void Paper_IsAPdf_WithAName_AndNotTooMany()
    {
        MachinePapers.Check("Quick guide", "%PDF-1.7 …"u8).ShouldBeNull();
        MachinePapers.Check("Quick guide", "<html>"u8)!.Code.ShouldBe("machinePaper.kind");
        MachinePapers.Check("", "%PDF-1.7"u8)!.Code.ShouldBe("machinePaper.name");
        MachinePapers.MayRead(0)!.Code.ShouldBe("machinePaper.missing");
        MachinePapers.MayRead(MachinePapers.Largest).ShouldBeNull();
        MachinePapers.MayRead(MachinePapers.Largest + 1)!.Code.ShouldBe("machinePaper.large");
        MachinePapers.MayAdd(11).ShouldBeNull();
        MachinePapers.MayAdd(12)!.Code.ShouldBe("machinePaper.many");
    }

    [Fact]
    public void AtAScreen_AReasonAboutAPersonIsNotRead_AndOneAboutTheMachineIs()
    {
        var lapsed = GateCase.Open().With(f => f with { Person = f.Person with { Active = default } }).Decide().Reasons.ToList();
        var words = PublicWords.Of(lapsed, atScreen: true);
        words.ShouldContain(PublicWords.Personal);
        foreach (var personal in lapsed.Where(r => PublicWords.IsPersonal(r.Code)))
            words.ShouldNotContain(personal.Text);
        PublicWords.Of(lapsed, atScreen: false).ShouldContain(lapsed[0].Text);
    }
}
