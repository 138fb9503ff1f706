using NodaTime;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Machines;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Core.Tests.Gating;

public class StoredDecisionTests
{
    [Fact]
    public void Replay_StoredFacts_RepeatsTheAnswer()
    {
        var c = GateCase.Open().Asking(a => a with { Minutes = 20 });
        var replay = StoredDecision.Of(c.Ask, c.Facts).Replay();
        replay.Same.ShouldBeTrue();
        (replay.Then.Verdict, replay.Today.Verdict, replay.Version).ShouldBe((Verdict.Shut, Verdict.Shut, Core.Gating.Gate.RulesVersion));
        replay
            .Words!.Posts.Single(p => p.Post == Post.Time)
            .Reasons.ShouldContain(r =>
                r.Text.Contains("The job needs", StringComparison.Ordinal) && r.Source == Codes.TimeTooShort.Source
            );
    }

    [Fact]
    public void Replay_ChangedFacts_SaysSo()
    {
        var stored = StoredDecision.Of(GateCase.Open().Ask, GateCase.Open().Facts);
        var changed = stored with
        {
            Facts = stored.Facts.Replace("\"pauses\":{\"known\":[]}", "\"pauses\":{\"known\":[{\"start\":\"2026-01-01T00:00:00Z\"}]}"),
        };
        changed.Facts.ShouldNotBe(stored.Facts);
        var replay = changed.Replay();
        (replay.Same, replay.Explained).ShouldBe((false, false), "no rule changed: the facts did");
        replay
            .Differences.Single()
            .ShouldBe(
                new ReplayDifference(
                    Post: Post.Person,
                    Code: "person.paused",
                    Item: null,
                    Then: null,
                    Now: Standing.Shut,
                    ChangedIn: 1,
                    Explained: false
                )
            );
        changed.Hash.ShouldNotBe(stored.Hash);
    }

    [Fact]
    public void Of_HoldsNoNames()
    {
        var stored = StoredDecision.Of(GateCase.Open().Ask, GateCase.Open().Facts);
        (stored.Ask + stored.Facts + stored.Outcome + stored.Words).ShouldNotContain("Ines", Case.Sensitive);
        stored.Facts.ShouldNotContain("square.svg");
    }

    /// <summary>
    /// Facts as each version wrote them, kept for as long as records hold them. What differs by today's rules comes from rules that changed
    /// since, and from nothing else.
    /// </summary>
    [Theory]
    [InlineData(1, 1)]
    [InlineData(2, 1)]
    [InlineData(3, 1)]
    [InlineData(4, 1)]
    [InlineData(5, 2)]
    [InlineData(6, 2)]
    [InlineData(7, 3)]
    [InlineData(8, 4)]
    [InlineData(9, 5)]
    [InlineData(10, 6)]
    [InlineData(11, 7)]
    [InlineData(12, 8)]
    public void Replay_GoldenFactsOfEachVersion_DifferOnlyByRulesThatChangedSince(int version, int rules)
    {
        var golden = File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "Gate", $"golden-v{version}.txt"));
        var words = golden.Length > 4 ? golden[4] : null;
        var stored = new StoredDecision(rules, golden[0], golden[1], golden[2], words);
        stored.Hash.ShouldBe(golden[3]);
        var replay = stored.Replay();
        if (rules == Core.Gating.Gate.RulesVersion)
            replay.Same.ShouldBeTrue();
        replay.Differences.ShouldAllBe(d => d.Explained && d.ChangedIn > rules);
        GateJson.Write(replay.Then).ShouldBe(golden[2], "the outcome is read back as it was stored");
        GateJson.Read<GateFacts>(golden[1]).V.ShouldBe(version);
        (GateFacts.CurrentVersion, Core.Gating.Gate.RulesVersion).ShouldBe((12, 8), "a new version wants golden facts of its own");
    }

    /// <summary>VELVETGATE_WRITE=1 keeps golden facts of a new version, once: what every list of the facts holds is in them.</summary>
    [Fact]
    public void GoldenFacts_OfThisVersion_AreKept()
    {
        var file = Repo.Path("tests", "Core.Tests", "Gate", $"golden-v{GateFacts.CurrentVersion}.txt");
        if (Environment.GetEnvironmentVariable("VELVETGATE_WRITE") == "1" && !File.Exists(file))
        {
            var held = new IncidentHold(new Span(GateCase.Now), 3);
            var c = GateCase
                .Open()
                .WithSheet(s => s with { UnderReview = [held] })
                .Set(GateCase.Entry(3), GateCase.Entry(3, number: 8) with { Flames = 1 })
                .With(f =>
                    f with
                    {
                        V = GateFacts.CurrentVersion,
                        Machine = f.Machine with
                        {
                            Stops = GateCase.Spans(held.Held),
                            IncidentStops = [held],
                            LookAsked = [held.Held],
                            Fixture = new FixtureFacts(held.Held, false, GateCase.Now),
                            Faults = [new FaultFacts(3, "Flow alarm", FaultStanding.Caution, ["Look."], held.Held)],
                            Measured = new MeasuredFacts(AirflowM3PerHour: 540, AirflowAt: GateCase.Now),
                            TestedBefore = f.Machine.Tested,
                            SetUp = GateCase.WellSetUp with { Missing = ["that it stands level"] },
                            UsedAt = GateCase.Now - Duration.FromDays(22),
                            LongClosures = [held.Held],
                            Upkeep = Fact.Known<IReadOnlyList<UpkeepFacts>>([new("Lens", null) { DueFrom = GateCase.Now }]),
                        },
                        Room = f.Room with
                        {
                            Shut = [held],
                            Seen = true,
                            FireKit = Fact.Known<IReadOnlyList<KitFacts>>([new KitFacts("fire blanket", null, "not there", GateCase.Now)]),
                        },
                        Time = f.Time with { NoShows = [GateCase.Now], Benches = [new BenchFacts(1, held.Held)], InClass = [held.Held] },
                    }
                );
            var stored = StoredDecision.Of(c.Ask, c.Facts);
            File.WriteAllLines(file, [stored.Ask, stored.Facts, stored.Outcome, stored.Hash, stored.Words!]);
        }
        File.Exists(file).ShouldBeTrue();
    }

    /// <summary>
    /// What version 1 decided stands in the record with other reasons than today's: each named with the version that changed it.
    /// </summary>
    [Fact]
    public void Replay_OfVersion1_NamesEveryDifferenceAndTheVersionThatChangedIt()
    {
        var c = GateCase
            .Open()
            .With(f =>
                f with
                {
                    V = 4,
                    Machine = f.Machine with { Readings = Fact.OnlyAtMachine<bool>(), Spec = f.Machine.Spec with { Station = null } },
                }
            );
        var outcome = new StoredOutcome(
            Verdict.Conditions,
            [
                .. StoredOutcome
                    .Of(c.Decide())
                    .Posts.Select(p =>
                        p.Post == Post.Machine
                            ? new StoredPost(p.Post, Standing.Caution, [new StoredReason("machine.readings", Standing.Caution, null)])
                            : p
                    ),
            ]
        );
        var replay = new StoredDecision(1, GateJson.Write(c.Ask), GateJson.Write(c.Facts), GateJson.Write(outcome)).Replay();
        replay.Then.Verdict.ShouldBe(Verdict.Conditions);
        replay.Differences.ShouldBe([
            new ReplayDifference(
                Post: Post.Machine,
                Code: "machine.enclosure",
                Item: null,
                Then: null,
                Now: Standing.Ask,
                ChangedIn: 2,
                Explained: true
            ),
            new ReplayDifference(
                Post: Post.Machine,
                Code: "machine.readings",
                Item: null,
                Then: Standing.Caution,
                Now: null,
                ChangedIn: 2,
                Explained: true
            ),
        ]);
        (replay.Same, replay.Explained).ShouldBe((false, true));
    }

    [Fact]
    public void Fact_Unknown_SurvivesWritingAndReading()
    {
        var fact = Fact.OnlyAtMachine<bool>();
        GateJson.Read<Fact<bool>>(GateJson.Write(fact)).Knowledge.ShouldBe(Knowledge.OnlyAtMachine);
        GateJson.Read<Fact<int?>>(GateJson.Write(Fact.Known<int?>(null))).IsKnown.ShouldBeTrue();
        Should.Throw<InvalidOperationException>(() => Fact.Unknown<bool>().Value);
    }
}
