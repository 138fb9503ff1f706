using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Run;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Run;

public class RunVerdictTests
{
    private static readonly GateQuestion Booked = GateCase.Open().Ask;

    private static readonly LoggedRun Run = new(
        PersonId: "m-4",
        MachineId: "heron",
        MaterialId: "birch-ply-laser",
        ThicknessMm: 3,
        Operations: [Operation.Cut],
        Start: GateCase.Start + Duration.FromMinutes(10),
        End: GateCase.Start + Duration.FromMinutes(60),
        Outcome: Outcome.Clean,
        Settings: null
    );

    [Fact]
    public void Covers_TheRunThatWasBooked() => RunVerdict.Covers(Booked, cancelled: false, Run).ShouldBeTrue();

    [Fact]
    public void Covers_AnotherRun_DoesNot()
    {
        LoggedRun[] others =
        [
            Run with
            {
                PersonId = "m-5",
            },
            Run with
            {
                MachineId = "wren",
            },
            Run with
            {
                MaterialId = "mdf",
            },
            Run with
            {
                ThicknessMm = 6,
            },
            Run with
            {
                Operations = [Operation.Cut, Operation.Engrave],
            },
            Run with
            {
                Start = Booked.End,
                End = Booked.End + Duration.FromMinutes(5),
            },
            Run with
            {
                Start = Booked.Start - Duration.FromHours(3),
                End = Booked.Start - Duration.FromHours(2),
            },
        ];
        foreach (var other in others)
            RunVerdict.Covers(Booked, cancelled: false, other).ShouldBeFalse(other.ToString());
        RunVerdict.Covers(Booked, cancelled: true, Run).ShouldBeFalse();
    }

    /// <summary>What stood against the run itself counts; its time has passed, and the person was there.</summary>
    [Fact]
    public void Against_LeavesOutTimeAndBeingThere()
    {
        var paused = GateCase
            .Open()
            .With(f =>
                f with
                {
                    Now = GateCase.Start + Duration.FromDays(1),
                    Person = f.Person with { Pauses = GateCase.Spans(GateCase.Always), Attending = GateCase.Spans(GateCase.Always) },
                    Time = f.Time with { MachineTaken = GateCase.Spans(GateCase.Always) },
                }
            );
        RunVerdict.Against(paused.Decide()).ShouldBe(["person.paused"]);
        RunVerdict.Against(GateCase.Open().With(f => f with { Now = GateCase.Start + Duration.FromDays(1) }).Decide()).ShouldBeEmpty();
    }

    [Fact]
    public void WantsALook_UnlessTheGateAllowedItAndSomebodyStandsBehindIt()
    {
        new RunVerdict([], Behind.Booking).WantsALook.ShouldBeFalse();
        new RunVerdict([], Behind.Steward).WantsALook.ShouldBeFalse();
        new RunVerdict([], null).WantsALook.ShouldBeTrue();
        new RunVerdict(["training.none"], Behind.Booking).WantsALook.ShouldBeTrue();
    }

    [Theory]
    [InlineData("m-4", "m-4", true, false, "Fine.", "run.self")]
    [InlineData("m-4", "m-2", true, false, " ", "reason.missing")]
    [InlineData("m-4", "m-2", false, true, "Fine.", "run.notAllowed")]
    [InlineData("m-4", "m-2", false, false, "We talked.", null)]
    [InlineData("m-4", "m-2", true, true, "I stood beside it.", null)]
    public void MayLook_ByRule(string person, string by, bool allowed, bool counts, string reason, string? code) =>
        RunVerdict.MayLook(person, by, allowed, counts, reason)?.Code.ShouldBe(code);

    [Fact]
    public void Why_SaysInWordsWhatASteward_HasToLookAt()
    {
        RunVerdict.Why(false, []).ShouldBe("no booking covers it, and no steward has vouched for it");
        RunVerdict.Why(false, ["machine.stopped", "training.none"]).ShouldStartWith("no rule allowed it: somebody stopped the machine; ");
        RunVerdict.Why(true, ["machine.stopped"]).ShouldBe("a flame stayed; no rule allowed it: somebody stopped the machine");
        RunVerdict.Why(true, []).ShouldBe("a flame stayed");
        // Of a version that knew more than this one.
        RunVerdict.Why(false, ["later.code"]).ShouldBe("no rule allowed it: later.code");
    }

    /// <summary>Every reason reads as a clause: one sentence, that does not begin with a name or an abbreviation.</summary>
    [Fact]
    public void EveryReason_ReadsAsAClause()
    {
        foreach (var rule in Codes.All)
        {
            rule.Means.ShouldEndWith(".", Case.Sensitive, rule.Code);
            rule.Means.TrimEnd('.').ShouldNotContain(". ", Case.Sensitive, rule.Code);
            char.IsLower(rule.Means[1]).ShouldBe(rule.Means[1] != ' ', rule.Code);
        }
    }

    [Fact]
    public void Worth_AFlameComesFirst_ThenTheLook()
    {
        new LoggedOutcome(Guid.NewGuid(), true, true, true).Worth.ShouldBe(RunWorth.Flame);
        new LoggedOutcome(Guid.NewGuid(), true, true, false).Worth.ShouldBe(RunWorth.ToBeLookedAt);
        new LoggedOutcome(Guid.NewGuid(), true, false, false).Worth.ShouldBe(RunWorth.Practice);
        new LoggedOutcome(Guid.NewGuid(), false, false, false).Worth.ShouldBe(RunWorth.NoPractice);
    }
}
