using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Training;
using Xunit;
using static VelvetGate.Core.Tests.Gating.GateCase;

namespace VelvetGate.Core.Tests.Gating;

public class SoonestWayTests
{
    [Fact]
    public void Find_TimeTaken_GivesTheFirstFreeTimeAfterIt()
    {
        var c = Open().With(f => f with { Time = f.Time with { MachineTaken = Spans(Around(1, 2)) } });
        var way = SoonestWay.Find(c.Ask, c.Facts).ShouldNotBeNull();
        way.Start.ShouldBe(Start + Duration.FromHours(2));
        way.Steps.ShouldHaveSingleItem().Action.ShouldBe("run");
    }

    [Fact]
    public void Find_TooLateInTheDay_MovesToTheNextOpening()
    {
        var c = Open().Asking(a => a with { Start = Instant.FromUtc(2026, 11, 25, 20, 0) });
        SoonestWay.Find(c.Ask, c.Facts)!.Start.ShouldBe(Instant.FromUtc(2026, 11, 26, 10, 0));
    }

    [Fact]
    public void Find_NoCertificateAndNoTag_AssumesEachStepDoneInOrderAndOpens()
    {
        var c = Open()
            .Asking(a => a with { Items = [a.Items[0] with { SheetTag = null }] })
            .With(f => f with { Training = f.Training with { Certificates = Fact.Known<IReadOnlyList<Certificate>>([]) } });
        var way = SoonestWay.Find(c.Ask, c.Facts).ShouldNotBeNull();
        way.Steps.Select(s => s.Action).ShouldBe(["training.signOff", "sheet.clear", "run"]);
        way.Steps.Select(s => s.Opens).ShouldBe([Post.Training, Post.Sheet, null]);
        way.Verdict.ShouldBe(Verdict.Open);
    }

    [Fact]
    public void Find_NoCertificate_NamesTheStepsOfThePath_AndWaitsForTheirTimes()
    {
        var session = Instant.FromUtc(2026, 11, 27, 18, 0);
        var c = Open()
            .With(f =>
                f with
                {
                    Training = f.Training with
                    {
                        Certificates = Fact.Known<IReadOnlyList<Certificate>>([]),
                        Ways =
                        [
                            new WayFacts(
                                "heron",
                                [new WayStep("2 pages to read: Fire, Fumes", null), new WayStep("An induction", session)]
                            ),
                            new WayFacts("wren", [new WayStep("no", null)]),
                        ],
                    },
                }
            );
        var way = SoonestWay.Find(c.Ask, c.Facts).ShouldNotBeNull();
        way.Steps.Select(s => s.Action).ShouldBe(["training.step", "training.step", "training.signOff", "run"]);
        way.Steps[1].At.ShouldBe(session);
        way.Start.ShouldBe(session, "not before the induction");
        var late = c.With(f =>
            f with
            {
                Training = f.Training with { Ways = [new WayFacts("heron", [new WayStep("An induction", Now + Duration.FromDays(40))])] },
            }
        );
        SoonestWay.Find(late.Ask, late.Facts).ShouldBeNull("nothing in the weeks that are looked at");
    }

    [Fact]
    public void Find_UnreadOrSuspended_IsReadOrReinstated()
    {
        var unread = Open().With(f => f with { Training = f.Training with { Owed = [new OwedTheory("heron", "fire", "Fire", Now)] } });
        SoonestWay.Find(unread.Ask, unread.Facts)!.Steps.Select(s => s.Action).ShouldBe(["training.read", "run"]);
        var held = Open()
            .With(f =>
                f with
                {
                    Training = f.Training with { Holds = [new CertificateHold("heron", CertificateHoldKind.Suspended, new Span(Now))] },
                }
            );
        SoonestWay.Find(held.Ask, held.Facts)!.Steps.Select(s => s.Action).ShouldBe(["training.reinstate", "run"]);
    }

    [Fact]
    public void Find_TooShort_TakesTheLengthTheJobNeeds() =>
        SoonestWay.Find(Open().Ask with { Minutes = 15 }, Open().Facts)!.Minutes.ShouldBe(Open().Decide().Length.SlotMinutes);

    [Fact]
    public void Find_NeverAllowed_HasNoWay()
    {
        var c = Open()
            .WithSheet(s =>
                s with
                {
                    Rulings = Fact.Known<IReadOnlyList<HeldRuling>>([
                        .. s.Rulings.Value.Select(r => r with { Ruling = r.Ruling with { Standing = Core.Materials.RulingStatus.Never } }),
                    ]),
                }
            );
        SoonestWay.Find(c.Ask, c.Facts).ShouldBeNull();
    }

    [Fact]
    public void Find_PausedUntilADate_WaitsForIt()
    {
        var until = Instant.FromUtc(2026, 11, 27, 12, 0);
        var c = Open().With(f => f with { Person = f.Person with { Pauses = Spans(new Span(Now, until)) } });
        SoonestWay.Find(c.Ask, c.Facts)!.Start.ShouldBe(until);
    }
}
