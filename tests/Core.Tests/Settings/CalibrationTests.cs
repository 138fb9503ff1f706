using Shouldly;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings.Motion;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>Logged runs beside their estimates, by hand.</summary>
public class CalibrationTests
{
    private static TimedRun Run(double actual, double cut = 100, double engrave = 0) =>
        new(
            new DrawingTime(
                cut + engrave,
                0,
                0,
                new SecondsBy(cut, 0, engrave, 0),
                [new LayerSeconds("#ff0000", Operation.Cut, cut), new LayerSeconds(null, Operation.Engrave, engrave)]
            ),
            actual
        );

    private static TimeComparison Cut(IEnumerable<TimedRun> runs, params TimeFactor[] accepted) =>
        Calibration.Of(runs, accepted).Single(c => c.Operation == Operation.Cut);

    /// <summary>Ratios 1.1, 1.2, 1.3, 1.4 and 9 (somebody had lunch): the middle is 1.3, whatever the last.</summary>
    [Fact]
    public void FiveRuns_TheMiddleIsProposed_AndTheErrorIsSaidBeforeAndAfter()
    {
        var compared = Cut([Run(110), Run(120), Run(130), Run(140), Run(900)]);
        (compared.Runs, compared.Proposed!.Factor, compared.WhyNot).ShouldBe((5, 1.3m, null));
        compared.Ratio!.Value.ShouldBe(1.3, 1e-12);
        // Off by 10/110, 20/120, 30/130, 40/140 and 800/900: the middle is 30/130. Then 20/110, 10/120, 0, 10/140, 770/900: 10/120.
        compared.ErrorNow!.Value.ShouldBe(30 / 130.0, 1e-9);
        compared.ErrorThen!.Value.ShouldBe(10 / 120.0, 1e-9);
        compared.Proposed.Low.ShouldBeLessThanOrEqualTo(0.85m);
        compared.Proposed.High.ShouldBeGreaterThan(1.08m);
    }

    [Fact]
    public void WhatWasAccepted_IsTheErrorNow()
    {
        var accepted = new TimeFactor(Operation.Cut, 1.3m, 0.9m, 1.1m, 5);
        var compared = Cut([Run(130), Run(130), Run(130), Run(130), Run(130)], accepted);
        (compared.Now, compared.ErrorNow).ShouldBe((accepted, 0));
        // However well a few agree, no time is given closer than five in a hundred.
        (compared.Proposed!.Low, compared.Proposed.High).ShouldBe((0.95m, 1.05m));
    }

    [Theory]
    [InlineData(4, 120, "Runs so far: 4. 5 are needed.")]
    [InlineData(5, 210, "Too far away for a factor. Look at acceleration and speeds in the machine’s form.")]
    [InlineData(5, 49, "Too far away for a factor. Look at acceleration and speeds in the machine’s form.")]
    [InlineData(0, 100, "No run of it was logged on a booking with a drawing.")]
    public void TooFewOrTooFar_NothingIsProposed(int runs, double actual, string why)
    {
        var compared = Cut(Enumerable.Repeat(Run(actual), runs));
        (compared.Proposed, compared.WhyNot).ShouldBe((null, why));
    }

    [Theory]
    [InlineData(200, true)]
    [InlineData(50, true)]
    public void TheBordersThemselves_AreStillAFactor(double actual, bool proposed) =>
        (Cut(Enumerable.Repeat(Run(actual), 5)).Proposed is not null).ShouldBe(proposed);

    /// <summary>79 % cut speaks for nothing, 80 % for the cut.</summary>
    [Theory]
    [InlineData(79, 21, null)]
    [InlineData(80, 20, Operation.Cut)]
    [InlineData(10, 90, Operation.Engrave)]
    public void ARun_SpeaksForWhatTakesNearlyAllOfIt(double cut, double engrave, Operation? operation) =>
        Calibration.Of(Run(100, cut, engrave).Estimate).ShouldBe(operation);
}
