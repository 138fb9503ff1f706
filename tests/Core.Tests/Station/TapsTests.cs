using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Station;
using VelvetGate.Core.Station.Controllers;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.Stations;

public class TapsTests
{
    private static readonly Instant At = Instant.FromUtc(2026, 11, 24, 14, 0);
    private static readonly GateCase Case = GateCase.Open();
    private static readonly Tapper Second = new("m-3", Steward: false, Certified: true);
    private static readonly Tapper Steward = new("m-2", Steward: true, Certified: false);
    private static readonly Tapper Own = new("m-4", Steward: false, Certified: true);

    private static readonly StationSession There = new()
    {
        Id = Guid.NewGuid(),
        MachineId = "heron",
        Person = "m-4",
        Booking = Guid.NewGuid(),
        TappedIn = At,
        Until = At + Duration.FromMinutes(90),
        Items = Case.Ask.Items,
        Places = [],
        Step = StationStep.Running,
        Confirmed = true,
        Version = 7,
        Run = new BeamRun(At, 400, 600, At + Duration.FromMinutes(3)),
    };

    private static Instant After(double seconds) => At + Duration.FromSeconds(seconds);

    [Theory]
    [InlineData(15, TapMeans.TakesOver)]
    [InlineData(15.1, TapMeans.Here)]
    public void HandOver_TakesBothTaps_WithinAQuarterOfAMinute(double seconds, TapMeans means)
    {
        There.Means(Second, At).ShouldBe(TapMeans.Offers);
        var offered = There.Tapped(Second, At);
        (offered.Person, offered.Version).ShouldBe(("m-4", 7), "nothing on a screen is old by it");
        offered.Means(Second, After(1)).ShouldBe(TapMeans.Offers, "the same fob twice hands nothing over");
        offered.Means(Own, After(seconds)).ShouldBe(means);
        offered.Taker("m-4").ShouldBe("m-3");

        // The other way round.
        var first = There.Tapped(Own, At);
        first.Means(Second, After(seconds)).ShouldBe(means == TapMeans.Here ? TapMeans.Offers : means);
        first.Taker("m-3").ShouldBe("m-3");
    }

    [Fact]
    public void HandOver_OfTwoOthers_IsNone()
    {
        var offered = There.Tapped(Second, At);
        offered.Means(new Tapper("m-9", false, true), After(2)).ShouldBe(TapMeans.Offers, "whoever is tapped in has not tapped");
    }

    [Fact]
    public void HandedOver_TheRunGoesOn_AndWhatTheFirstSaidIsSaidAnew()
    {
        var handed = (There with { Supervisor = "m-2", SupervisorAt = At }).HandedTo("m-3", [], null).Value;
        (handed.Person, handed.BookedBy, handed.Supervisor, handed.Beam, handed.Run!.Deadline).ShouldBe(
            ("m-3", "m-4", null, true, At + Duration.FromMinutes(3)),
            "a hand-over is no press"
        );
        (handed.Version, handed.Confirmed).ShouldBe((8, false), "the three sentences are the second one’s to say");
        var before = (There with { Step = StationStep.Confirm, Run = null }).HandedTo("m-3", [], null).Value;
        (before.Step, before.Confirmed).ShouldBe((StationStep.Air, false));
        handed.HandedTo("m-9", [], null).Value.BookedBy.ShouldBe("m-4", "it stays the booking of the first");
    }

    [Fact]
    public void HandedOver_TheGateDecidesTheSecond()
    {
        There.HandedTo("m-3", [], "Wren").Refusal!.Problem.ShouldBe(StationProblems.FobElsewhere);
        var shut = Gate.Decide(
            Case.Ask with
            {
                Phase = Phase.AtMachine,
            },
            Case.Facts with
            {
                Training = Case.Facts.Training with { Certificates = Fact.Known<IReadOnlyList<Certificate>>([]) },
            }
        );
        var refused = There.HandedTo("m-3", SessionGate.Against(shut), null).Refusal!;
        (refused.Problem, refused.Text.Contains("certificate", StringComparison.OrdinalIgnoreCase)).ShouldBe(
            (StationProblems.HandOverShut, true)
        );
    }

    [Fact]
    public void StandingBy_CountsForAMinute_AndOnlyWhereSomethingWaits()
    {
        There.Means(Second, At).ShouldNotBe(TapMeans.StandsBy);
        var lapsed = There with { Lapses = 1 };
        lapsed.Means(Second, At).ShouldBe(TapMeans.StandsBy, "a certified person will do");
        lapsed.Means(new Tapper("m-9", false, false), At).ShouldBe(TapMeans.Offers);
        var beside = lapsed.Tapped(Second, At);
        beside.BesideAt(After(60))!.Person.ShouldBe("m-3");
        beside.BesideAt(After(61)).ShouldBeNull();
        beside.Tapped(Own, After(5)).Person.ShouldBe("m-4", "standing by is no hand-over");
        beside.Means(Own, After(5)).ShouldBe(TapMeans.Here);
        There.Tapped(Steward, At).BesideAt(After(1))!.Steward.ShouldBeTrue("a steward may stand by for what a reading leaves to them");
        There.Tapped(Second, At).Beside.ShouldBeNull();
    }

    [Fact]
    public void Supervisor_IsSeenByTheirOwnTap()
    {
        var learner = There with { Supervisor = "m-3" };
        learner.Means(Second, At).ShouldBe(TapMeans.Supervises);
        learner.Tapped(Second, At).SupervisorAt.ShouldBe(At);
        learner.Tapped(Second, At).Over.ShouldBeNull();
    }

    [Theory]
    [InlineData("abc", false)]
    [InlineData("abcd", true)]
    [InlineData("04 A2 19", false)]
    [InlineData("04A219", true)]
    [InlineData("höhe", false)]
    public void FobCode_IsLettersAndFigures(string code, bool good) => (Fobs.Check(code) is null).ShouldBe(good);

    [Fact]
    public void Fob_IsOnePersons()
    {
        Fobs.MayLearn("blue tag", known: false).ShouldBeNull();
        Fobs.MayLearn("blue tag", known: true)!.Problem.ShouldBe(StationProblems.FobKnown);
        Fobs.MayLearn("", known: false)!.Field.ShouldBe("name");
        Fobs.MayLearn(new string('x', 41), known: false)!.Problem.ShouldBe(StationProblems.FobName);
    }

    /// <summary>Computed with Python’s hmac and hashlib: HKDF-SHA256 without salt, info “fob”, then HMAC-SHA256.</summary>
    [Fact]
    public void Fob_IsKeptAsASealOfTheHousesKey()
    {
        var keys = new StationKeys(Convert.ToBase64String([.. Enumerable.Range(1, 32).Select(i => (byte)i)]));
        keys.Fob("04A219").ShouldBe("1a38ff2dbdfee4f72dcd1ebdcb2f11f46b084d23da56a37f9f7c652610f2d1e0");
        keys.Fob(" 04A219 ").ShouldBe(keys.Fob("04A219"));
        keys.TapInCode("04A219").ShouldNotBe(keys.Fob("04A219"), "what is kept of one is nothing of the other");
    }
}
