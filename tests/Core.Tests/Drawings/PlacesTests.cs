using System.Text.Json;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Spacing;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>Summaries that were stored before these had names are lists of numbers: they are read, and written the same.</summary>
public class PlacesTests
{
    [Fact]
    public void Stored_AsListsOfNumbers()
    {
        Same(new Place(1.5, -2), "[1.5,-2]");
        Same(new Gap(new Place(1, 2), new Place(4, 6), true), "[1,2,4,6,1]");
        Same(new NestingLevel(2, 7, 31.4), "[2,7,31.4]");
        Same(new MoveBin(4, 100.25), "[4,100.25]");
        Same(
            new SpacingBin(FromMm: 1, ToMm: 1.01, AlongMm: 20, InsideMm: 0, CrowdedMm: 40, Runs: 3, RunsInside: 1),
            "[1,1.01,20,0,40,3,1]"
        );
    }

    [Fact]
    public void Gap_IsAsLongAsItsEndsAreApart()
    {
        var gap = new Gap(new Place(1, 2), new Place(4, 6), false);
        (gap.Mm, gap.Middle).ShouldBe((5, new Place(2.5, 4)));
    }

    [Theory]
    [InlineData("[1]")]
    [InlineData("[]")]
    [InlineData("7")]
    public void TooFewNumbers_AreNoPlace(string text) => Should.Throw<JsonException>(() => GateJson.Read<Place>(text));

    private static void Same<T>(T value, string text)
    {
        GateJson.Write(value).ShouldBe(text);
        GateJson.Read<T>(text).ShouldBe(value);
    }
}
