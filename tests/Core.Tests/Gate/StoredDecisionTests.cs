using Shouldly;
using VelvetGate.Core.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Gating;

public class StoredDecisionTests
{
    [Fact]
    public void Replay_StoredFacts_RepeatsTheAnswer()
    {
        var c = GateCase.Open().Asking(a => a with { Minutes = 20 });
        var (decision, same) = StoredDecision.Of(c.Ask, c.Facts).Replay();
        same.ShouldBeTrue();
        decision.Verdict.ShouldBe(Verdict.Shut);
    }

    [Fact]
    public void Replay_ChangedFacts_SaysSo()
    {
        var stored = StoredDecision.Of(GateCase.Open().Ask, GateCase.Open().Facts);
        var changed = stored with { Facts = stored.Facts.Replace("\"pauses\":{\"known\":[]}", "\"pauses\":{\"known\":[{\"start\":\"2026-01-01T00:00:00Z\"}]}") };
        changed.Facts.ShouldNotBe(stored.Facts);
        changed.Replay().Same.ShouldBeFalse();
        changed.Hash.ShouldNotBe(stored.Hash);
    }

    [Fact]
    public void Of_HoldsNoNames()
    {
        var stored = StoredDecision.Of(GateCase.Open().Ask, GateCase.Open().Facts);
        (stored.Ask + stored.Facts + stored.Outcome).ShouldNotContain("Ines", Case.Sensitive);
        stored.Facts.ShouldNotContain("square.svg");
    }

    /// <summary>Facts as each version wrote them, kept for as long as records hold them.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void Replay_GoldenFactsOfEachVersion_StillRepeatTheirAnswer(int version)
    {
        var golden = File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "Gate", $"golden-v{version}.txt"));
        var stored = new StoredDecision(Core.Gating.Gate.RulesVersion, golden[0], golden[1], golden[2]);
        stored.Hash.ShouldBe(golden[3]);
        stored.Replay().Same.ShouldBeTrue();
        GateJson.Read<GateFacts>(golden[1]).V.ShouldBe(version);
        GateFacts.CurrentVersion.ShouldBe(4, "a new version wants golden facts of its own");
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
