using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>Which setting is suggested, why, and what is guessed where nothing fits.</summary>
public class SuggestionTests
{
    private static readonly Instant Now = GateCase.Now;
    private static readonly SettingWish Wish = new(GateCase.Heron.Id, "birch-ply-laser", 2.9m, Operation.Cut);

    private static readonly HouseClock Clock = new(DateTimeZoneProviders.Tzdb["Europe/London"]);

    private int _number;

    private Setting Entry(SettingValues values, int daysAgo = 10, SettingResults? results = null) =>
        new(Guid.NewGuid(), ++_number, values, "m-3", Now - Duration.FromDays(daysAgo), results ?? SettingResults.None);

    private static (IReadOnlyList<SettingLine> Lines, SettingSuggestion? Suggested) Of(Instant? serviced, params Setting[] entries) =>
        Suggestion.Of(entries, Wish, serviced, null, Now, Clock);

    [Fact]
    public void ATechniciansEntry_ComesBeforeNewerOnes_AndSaysWhy()
    {
        var technician = Entry(
            SettingCase.Cut(origin: SettingOrigin.Technician),
            20,
            new SettingResults(Clean: 2, LastClean: Now - Duration.FromDays(3))
        );
        var member = Entry(SettingCase.Cut(), 1);
        var maker = Entry(SettingCase.Cut(origin: SettingOrigin.Maker), 1);
        var (lines, suggested) = Of(Now - Duration.FromDays(22), maker, member, technician);
        suggested!.Id.ShouldBe(technician.Id);
        lines.Select(l => l.Setting.Id).ShouldBe([technician.Id, member.Id, maker.Id]);
        string.Join("; ", suggested.Reasons)
            .ShouldBe(
                "cut, like yours; for 3 mm, within 10 % of 2.9 mm; after the optics service of Mon 2 Nov; "
                    + "a technician’s entry; tested: clean 2"
            );
    }

    [Fact]
    public void TheNewest_OfTheSameOrigin()
    {
        var (_, suggested) = Of(null, Entry(SettingCase.Cut(), 30), Entry(SettingCase.Cut(), 3), Entry(SettingCase.Cut(), 9));
        suggested!.Reasons.ShouldContain("a member’s entry, the newest");
        suggested.Reasons.ShouldContain("not tested here yet: a test piece comes first");
    }

    [Fact]
    public void AnotherThickness_Operation_OrBeforeTheService_IsShownAndNotSuggested()
    {
        var (lines, suggested) = Of(
            Now - Duration.FromDays(5),
            Entry(SettingCase.Cut(4), 1),
            Entry(SettingCase.Cut() with { Operation = Operation.Engrave }, 1),
            Entry(SettingCase.Cut(), 9),
            Entry(SettingCase.Cut(), 1, new SettingResults(Flames: 1))
        );
        suggested.ShouldBeNull();
        lines
            .Select(l => l.WhyNot)
            .ShouldBe(
                ["another thickness", "another operation", "before the last service of its optics", "a flame stayed with it"],
                ignoreOrder: true
            );
        lines.Single(l => l.WhyNot == "another thickness").Match!.Code.ShouldBe("settings.warm", "4 / 2.9 = 1.38");
    }

    /// <summary>What was entered before the service and has run clean since is tested anew.</summary>
    [Fact]
    public void CleanSinceTheService_ServesAgain()
    {
        var (_, suggested) = Of(Now - Duration.FromDays(5), Entry(SettingCase.Cut(), 9, new SettingResults(Clean: 1)));
        suggested.ShouldNotBeNull();
    }

    /// <summary>A clean run serves as a test for a year, as it does at the gate.</summary>
    [Fact]
    public void CleanTooLongAgo_IsNoTest()
    {
        bool TestedAt(int daysAgo) =>
            Of(null, Entry(SettingCase.Cut(), 500, new SettingResults(Clean: 1, LastClean: Now - Duration.FromDays(daysAgo))))
                .Lines[0]
                .Tested;
        (TestedAt(300), TestedAt(400)).ShouldBe((true, false));
    }

    /// <summary>How deep an engraving goes does not hang on the sheet: there is no ratio, and nothing is shut by it.</summary>
    [Fact]
    public void Engraving_HasNoRatio()
    {
        var engraving = Entry(SettingCase.Cut(6) with { Operation = Operation.Engrave, PitchMm = 0.1m });
        var (lines, _) = Suggestion.Of([engraving], Wish with { Operation = Operation.Engrave }, null, null, Now, Clock);
        lines[0].Match.ShouldBeNull();
        lines[0].Fits.ShouldBeFalse("6 mm is not about 2.9");
    }

    /// <summary>What no ruling permits has no setting, however many entries there are; what nobody ruled on is not permitted.</summary>
    [Fact]
    public void WhatIsNotPermitted_IsNeverSuggested()
    {
        Ruling Rule(RulingStatus standing) =>
            new(
                MaterialId: "birch-ply-laser",
                Kind: LaserKind.Co2,
                Operation: Operation.Cut,
                MinMm: 0,
                MaxMm: null,
                Standing: standing,
                Evidence: Evidence.None,
                Reasons: [],
                Hazard: "",
                Handling: "",
                FilteredNeedsArrangement: false
            );
        string? Code(decimal mm, params Ruling[] rulings) => SettingRules.Ruled(GateCase.Heron, rulings, Operation.Cut, mm)?.Code;
        Code(3, Rule(RulingStatus.Permitted)).ShouldBeNull();
        Code(3, Rule(RulingStatus.ByArrangement)).ShouldBeNull();
        Code(3, Rule(RulingStatus.Banned)).ShouldBe("setting.banned");
        Code(3, Rule(RulingStatus.Never)).ShouldBe("setting.never");
        Code(3).ShouldBe("setting.banned", "nobody ruled on it");
        Code(300, Rule(RulingStatus.Permitted)).ShouldBe("setting.cannot", "thicker than the machine cuts");

        var ruled = SettingRules.Ruled(GateCase.Heron, [], Operation.Cut, 2.9m);
        var (lines, suggested) = Suggestion.Of([Entry(SettingCase.Cut())], Wish, null, ruled, Now, Clock);
        suggested.ShouldBeNull();
        (lines[0].WhyNot, lines[0].Match).ShouldBe(("not permitted here", null));
    }

    private static readonly MachineSpec Kin = GateCase.Heron with { Id = "kin", Name = "Kin", PowerW = 40 };

    private static readonly Dictionary<MachineId, MachineSpec> Machines = new() { [GateCase.Heron.Id] = GateCase.Heron, [Kin.Id] = Kin };

    /// <summary>v2 = v1 t1 / t2: 23 mm/s for 3 mm is 11.5 mm/s for 6 mm.</summary>
    [Fact]
    public void Guess_FromAnotherThickness()
    {
        var guess = FirstGuess.Of(Wish with { ThicknessMm = 6 }, [Entry(SettingCase.Cut())], Machines, 0.74m);
        guess.SpeedMmS.ShouldBe(11.5m);
        guess.Working.ShouldContain("23 mm/s x 3 / 6 = 11.5 mm/s");
    }

    /// <summary>Thick stock: 23 mm/s for 3 mm is 2.3 mm/s for 30 mm, so three passes of 6.9 mm/s: never one slow one.</summary>
    [Fact]
    public void Guess_ForThickStock_MakesSeveralFastPasses()
    {
        var guess = FirstGuess.Of(Wish with { ThicknessMm = 30 }, [Entry(SettingCase.Cut())], Machines, 0.74m);
        (guess.SpeedMmS, guess.Passes).ShouldBe((6.9m, 3));
        guess.Working.ShouldContain("3 faster passes");
    }

    /// <summary>Scoring and engraving begin low, and are not scaled by a thickness they do not hang on.</summary>
    [Fact]
    public void Guess_ForEngravingAndScoring_BeginsLow()
    {
        GuessedSetting Guess(Operation operation, params Setting[] entries) =>
            FirstGuess.Of(Wish with { Operation = operation, ThicknessMm = 12 }, entries, Machines, 0.74m);
        var cut = Guess(Operation.Cut);
        var (score, engrave) = (Guess(Operation.Score), Guess(Operation.Engrave));
        (engrave.PowerPercent, engrave.Passes).ShouldBe((20, 1));
        engrave.SpeedMmS.ShouldBeGreaterThanOrEqualTo(300);
        (score.Watts / score.SpeedMmS).ShouldBeLessThan(cut.Watts * cut.Passes / cut.SpeedMmS / 10);
        var known = SettingCase.Cut() with { Operation = Operation.Engrave, PitchMm = 0.1m, SpeedMmS = 350 };
        Guess(Operation.Engrave, Entry(known)).SpeedMmS.ShouldBe(350, "as it was engraved on 3 mm");
    }

    /// <summary>v2 = v1 P2 / P1: 48 W at 23 mm/s are, with 60 % of 40 W, 24 W at 11.5 mm/s.</summary>
    [Fact]
    public void Guess_FromAnotherMachineOfItsKind()
    {
        var guess = FirstGuess.Of(Wish with { MachineId = Kin.Id, ThicknessMm = 3 }, [Entry(SettingCase.Cut())], Machines, 0.74m);
        (guess.Watts, guess.SpeedMmS).ShouldBe((24, 11.5m));
        FirstGuess
            .Of(Wish with { MachineId = Kin.Id, Operation = Operation.Score }, [Entry(SettingCase.Cut())], Machines, 0.74m)
            .From.ShouldBeNull();
    }

    /// <summary>A 15 W diode on 1/8 in ply at 15 in/min (common practice) is 2.36 J/mm: the guess lies within a quarter of it.</summary>
    [Fact]
    public void Guess_FromTheTable_LiesNearCommonPractice()
    {
        var diode = GateCase.Heron with { Id = "diode", PowerW = 15, TopSpeedMmS = 300 };
        var energy = VelvetGate.Core.Materials.MaterialTable.Find("birch-ply-laser")!.CutEnergyJPerMm2;
        var guess = FirstGuess.Of(
            new SettingWish(diode.Id, "birch-ply-laser", 3.175m, Operation.Cut),
            [],
            new Dictionary<MachineId, MachineSpec> { [diode.Id] = diode },
            energy
        );
        (guess.Watts * guess.Passes / guess.SpeedMmS).ShouldBeInRange(2.36m * 0.75m, 2.36m * 1.25m);
    }

    [Theory]
    [InlineData("powerPercent", "setting.power", 0)]
    [InlineData("speed", "setting.speed", 0)]
    [InlineData("passes", "setting.passes", 0)]
    public void NoughtIsRefused(string field, string code, int value)
    {
        var bad = field switch
        {
            "powerPercent" => SettingCase.Cut() with { PowerPercent = value },
            "speed" => SettingCase.Cut() with { SpeedMmS = value },
            _ => SettingCase.Cut() with { Passes = value },
        };
        var refusal = SettingRules.Check(bad, GateCase.Heron, staff: false, membersMayAdd: true).ShouldHaveSingleItem();
        (refusal.Field, refusal.Code).ShouldBe((field, code));
    }

    [Fact]
    public void VinylTapeIsNever_AndTapeOfUnknownStuffIsAskedFor()
    {
        IEnumerable<string> Codes(SettingValues s, bool staff = false, bool members = true) =>
            SettingRules.Check(s, GateCase.Heron, staff, members).Select(r => r.Code);
        Codes(SettingCase.Cut() with { Mask = Mask.Dry, MaskOf = "Clear VINYL transfer tape" }).ShouldBe(["setting.vinyl"]);
        Codes(SettingCase.Cut() with { Mask = Mask.Damp }).ShouldBe(["setting.maskOf"]);
        Codes(SettingCase.Cut() with { Mask = Mask.Damp, MaskOf = "paper" }).ShouldBeEmpty();
        Codes(SettingCase.Cut(origin: SettingOrigin.Technician)).ShouldBe(["setting.origin"]);
        Codes(SettingCase.Cut(origin: SettingOrigin.Technician), staff: true).ShouldBeEmpty();
        Codes(SettingCase.Cut(), members: false).ShouldBe(["setting.staff"]);
        Codes(SettingCase.Cut() with { Operation = Operation.Engrave }).ShouldBe(["setting.pitchMissing"]);
    }
}
