using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Training;
using Xunit;
using static VelvetGate.Core.Tests.Gating.GateCase;

namespace VelvetGate.Core.Tests.Gating;

/// <summary>What the training post makes of owed reading, holds, add-ons and idleness.</summary>
public class TrainingPostTests
{
    private static GateCase Owing(params OwedTheory[] owed) => Open().With(f => f with { Training = f.Training with { Owed = owed } });

    private static GateCase Held(CertificateHold hold) => Open().With(f => f with { Training = f.Training with { Holds = [hold] } });

    private static GateCase Supervised(GateCase c) =>
        c.Asking(a => a with { SupervisorId = "m-9" }).With(f => f with { Training = f.Training with { SupervisorTrains = [Always] } });

    private static IEnumerable<string> Codes(GateCase c) =>
        c.Decide().Reasons.Where(r => r.Code.StartsWith("training.", StringComparison.Ordinal)).Select(r => r.Code);

    private static OwedTheory Until(Instant at, string module = "fire", string authority = "heron") => new(authority, module, module, at);

    [Fact]
    public void Owed_CountsOverTheWholeRun()
    {
        Codes(Owing(Until(Start + Duration.FromMinutes(90)))).ShouldBe(["training.readBy"], "to the end of the run");
        Codes(Owing(Until(Start + Duration.FromMinutes(90) - Duration.Epsilon))).ShouldBe(["training.unread"], "it ends within the run");
        Codes(Owing(Until(Now), Until(Start + Duration.FromDays(9), "fumes"))).ShouldBe(["training.unread"], "what is over says it all");
        Owing(Until(Now), Until(Now, "fumes"))
            .Decide()
            .Reasons.Single(r => r.Code == "training.unread")
            .Text.ShouldBe("To be done first: fire, fumes.");
    }

    [Fact]
    public void Owed_OfAnotherAuthority_OrUnderASupervisor_DoesNotStandInTheWay()
    {
        Codes(Owing(Until(Now, "fire", "heron/rotary"))).ShouldBeEmpty();
        Codes(Supervised(Owing(Until(Now)))).ShouldBeEmpty("a supervised run is how one learns");
        Codes(Owing(Until(Now), Until(Now, "fire", "wren"))).ShouldBe(["training.unread"]);
    }

    [Fact]
    public void Holds_OverTheTimeOfTheRun_EachKindOnce()
    {
        Codes(Held(new CertificateHold("heron", CertificateHoldKind.Suspended, new Span(Now, Start))))
            .ShouldBeEmpty("it ends as the run begins");
        Codes(Held(new CertificateHold("wren", CertificateHoldKind.Suspended, new Span(Now)))).ShouldBeEmpty("another machine");
        var both = Open()
            .With(f =>
                f with
                {
                    Training = f.Training with
                    {
                        Holds =
                        [
                            .. Enumerable.Repeat(new CertificateHold("heron", CertificateHoldKind.Suspended, new Span(Now)), 3),
                            new CertificateHold("heron", CertificateHoldKind.Review, new Span(Now)),
                        ],
                    },
                }
            );
        Codes(both).ShouldBe(["training.suspended", "training.review"], ignoreOrder: true);
        both.Decide().Verdict.ShouldBe(Verdict.Shut);
    }

    [Fact]
    public void Suspended_WithSupervisedRunsAsItsCondition_LeavesThoseOpen()
    {
        var towards = new CertificateHold("heron", CertificateHoldKind.Suspended, new Span(Now), new HoldConditions(2));
        Codes(Held(towards)).ShouldBe(["training.suspended"]);
        Codes(Supervised(Held(towards))).ShouldBe(["training.supervised"]);
        Codes(Supervised(Held(towards with { Conditions = new HoldConditions(Quiz: true) })))
            .ShouldBe(["training.suspended"], "a quiz is no reason to run");
    }

    [Fact]
    public void Review_IsLiftedOnce_LikeAnyAsk()
    {
        var c = Held(new CertificateHold("heron", CertificateHoldKind.Review, new Span(Now)));
        c.Decide().Verdict.ShouldBe(Verdict.Ask);
        var lift = new LiftFacts(
            Guid.NewGuid(),
            c.Ask.MemberId,
            c.Ask.MachineId,
            new Span(c.Ask.Start, c.Ask.End),
            c.Ask.Items,
            StewardRequests.ToLift(c.Decide()).Value
        );
        c.With(f => f with { Lifts = [lift] }).Decide().Verdict.ShouldBe(Verdict.Conditions);
        var shut = Held(new CertificateHold("heron", CertificateHoldKind.Suspended, new Span(Now)));
        StewardRequests.ToLift(shut.Decide()).IsOk.ShouldBeFalse("nobody lifts a suspension for a run");
    }

    [Fact]
    public void AddOn_AsThePathsSay_AndOlderFactsKnowRotaryAlone()
    {
        var thick = Open()
            .With(f =>
                f with
                {
                    Training = f.Training with { AddOns = [new AddOnFacts("heron/thick", "Thick stock", new AddOnNeed(ThickerThanMm: 2))] },
                }
            );
        thick
            .Decide()
            .Reasons.Single(r => r.Code == "training.addOn")
            .Text.ShouldBe("Ines holds no certificate for Heron with thick stock.");
        Codes(thick.Asking(a => a with { Fixture = "rotary" }).With(f => f with { Training = f.Training with { AddOns = [] } }))
            .ShouldBeEmpty("a house that signs nothing separately");
        Codes(Open().Asking(a => a with { Fixture = "rotary" })).ShouldBe(["training.addOn"]);
    }

    [Theory]
    [InlineData(90, 0, false)]
    [InlineData(91, 0, true)]
    [InlineData(95, 10, false)]
    [InlineData(101, 10, true)]
    public void Idle_WithoutTheDaysTheMachineWasOut(int daysAgo, int outDays, bool idle)
    {
        var last = Start - Duration.FromDays(daysAgo);
        var stops = outDays == 0 ? Spans() : Spans(new Span(last + Duration.FromDays(20), last + Duration.FromDays(20 + outDays)));
        Codes(
                Open()
                    .With(f =>
                        f with
                        {
                            Training = f.Training with { LastUse = Fact.Known<Instant?>(last) },
                            Machine = f.Machine with { Stops = stops },
                        }
                    )
            )
            .ShouldBe(idle ? ["training.idle"] : []);
    }
}
