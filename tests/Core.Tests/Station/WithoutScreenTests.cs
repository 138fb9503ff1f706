using Shouldly;
using VelvetGate.Core.Station;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Stations;

public class WithoutScreenTests
{
    /// <summary>Paper and screen ask the same: each look of a session is on it, and the wait is the screen’s own.</summary>
    [Fact]
    public void Paper_SaysWhatTheScreenSays()
    {
        var (machine, rules) = (SessionActsTests.Facts.Machine with { ExtractionLeadSeconds = 90 }, SessionActsTests.Facts.Rules);
        var paper = WithoutScreen.Of(machine, rules);
        var lines = paper.Parts.SelectMany(p => p.Lines).ToList();
        foreach (var look in PlaceChecks.For(machine, null, "m-4", default).SelectMany(p => p.Lines))
            lines.ShouldContain(look);
        lines.ShouldContain(l =>
            l.Contains($"{LidWait.Of(machine, rules, null, BeamLeft.Smoke).Seconds} s at least", StringComparison.Ordinal)
        );
        foreach (var line in RunWatch.For(machine))
            lines.ShouldContain(line);
        lines.ShouldContain(l => l.Contains("90 s", StringComparison.Ordinal));
        lines.ShouldContain(l => l.Contains("every 3 min", StringComparison.Ordinal));
        paper
            .Parts[^1]
            .Lines.ShouldBe(SessionActs.Closing.SelectMany(c => ClosingPlaces.Lines(c.Id, machine, residue: true, comesAfter: false)));
    }

    [Fact]
    public void ServiceKey_NamesTheDensityOfThisLaser()
    {
        ServiceKey
            .Says(GateCase.Heron)
            .ShouldContain(l =>
                l.Contains("optical density", StringComparison.Ordinal) && l.Contains("10600 nm", StringComparison.Ordinal)
            );
        ServiceKey.Says(GateCase.Heron)[0].ShouldContain("take no beam away");
    }
}
