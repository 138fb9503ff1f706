using Shouldly;
using VelvetGate.Core.Incidents;
using Xunit;

namespace VelvetGate.Core.Tests.Incidents;

public class IncidentHoldsTests
{
    private static HoldFacts Facts(Mishap what, Severity severity = Severity.NoHarm, bool never = false) =>
        new(what, severity, "heron", "S-0142", "birch-ply-laser", never, "m-4");

    private static string[] Of(HoldFacts facts) =>
        [.. IncidentHolds.Propose(facts).Select(h => $"{h.Kind} {h.Target}{(h.AtOnce ? "!" : "")}")];

    [Theory]
    [InlineData(Mishap.Flame, "Machine heron!")]
    [InlineData(Mishap.Glow, "Machine heron!")]
    [InlineData(Mishap.InterlockFailed, "Machine heron!")]
    [InlineData(Mishap.HeadHit, "Machine heron")]
    public void Machine_IsStopped(Mishap what, string hold) => Of(Facts(what)).ShouldBe([hold]);

    [Theory]
    [InlineData(Mishap.Smoke)]
    [InlineData(Mishap.LidTooSoon)]
    [InlineData(Mishap.NobodyThere)]
    [InlineData(Mishap.WrongSheet)]
    [InlineData(Mishap.Other)]
    public void OtherThings_HoldNothingByThemselves(Mishap what) => Of(Facts(what)).ShouldBeEmpty();

    [Fact]
    public void ChokingSmell_ShutsRoomAndSheetAtOnce() => Of(Facts(Mishap.Fume)).ShouldBe(["Room room!", "Sheets S-0142!"]);

    [Fact]
    public void NeverStock_IsProposed_AndConductWithIt() =>
        Of(Facts(Mishap.WrongSheet, never: true)).ShouldBe(["Machine heron", "Sheets S-0142", "Optics heron", "Conduct m-4"]);

    /// <summary>Telling is never held against anybody: only stock that is never allowed leads to a word.</summary>
    [Fact]
    public void NothingElse_LeadsToConduct() =>
        Enum.GetValues<Mishap>()
            .SelectMany(w => Enum.GetValues<Severity>().SelectMany(s => IncidentHolds.Propose(Facts(w, s))))
            .ShouldNotContain(h => h.Kind == HoldKind.Conduct);

    [Theory]
    [InlineData(Severity.DamageOrFirstAid, false)]
    [InlineData(Severity.DoctorOrFireService, true)]
    [InlineData(Severity.LastingOrBuilding, true)]
    public void FromADoctorOn_TheRulingIsLookedAtAgain(Severity severity, bool proposed) =>
        Of(Facts(Mishap.Smoke, severity)).Contains("Ruling birch-ply-laser").ShouldBe(proposed);

    [Fact]
    public void NoHold_StandsTwice() =>
        Of(Facts(Mishap.Flame, Severity.DoctorOrFireService, never: true))
            .Count(h => h.StartsWith("Machine", StringComparison.Ordinal))
            .ShouldBe(1);

    private static readonly string[] All = [.. IncidentHolds.MachineList.Select(l => l.Code)];

    private static string? End(
        HoldKind kind = HoldKind.Machine,
        bool steward = true,
        bool deputy = false,
        bool involved = false,
        bool watch = false,
        string[]? ticked = null,
        string? reason = "Looked at all of it"
    ) => IncidentHolds.MayEnd(kind, new HoldEnder(steward, deputy, involved, watch, ticked ?? All), reason)?.Code;

    [Fact]
    public void Ending_WantsAStewardTheListAndTheEndOfTheWatch()
    {
        End().ShouldBeNull();
        End(steward: false).ShouldBe("hold.notYours");
        End(steward: false, deputy: true).ShouldBeNull();
        End(HoldKind.Room, steward: false, deputy: true).ShouldBe("hold.notYours", "a deputy is one for machines");
        End(involved: true).ShouldBe("incident.self");
        End(watch: true).ShouldBe("watch.running");
        End(HoldKind.Sheets, watch: true, ticked: []).ShouldBeNull("a sheet does not smoulder in a duct");
        End(ticked: []).ShouldBe("hold.list");
        End(reason: " ").ShouldBe("reason.missing");
    }

    [Theory]
    [MemberData(nameof(Codes))]
    public void Ending_WithoutOneOfTheList_IsRefusedAndNamesIt(string code)
    {
        var refusal = IncidentHolds.MayEnd(
            HoldKind.Machine,
            new HoldEnder(true, false, false, false, [.. All.Where(c => c != code)]),
            "Looked"
        );
        refusal!.Text.ShouldContain(IncidentHolds.MachineList.Single(l => l.Code == code).Words);
    }

    public static TheoryData<string> Codes => [.. All];
}
