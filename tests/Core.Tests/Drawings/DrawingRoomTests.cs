using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Watch;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

public class DrawingRoomTests
{
    [Theory]
    [InlineData(0, 0, 0, 1, null)]
    [InlineData(DrawingRoom.PerPerson - 10, 3, 0, 10, null)]
    [InlineData(DrawingRoom.PerPerson - 10, 3, 0, 11, "drawings.full")]
    [InlineData(0, DrawingRoom.DrawingsPerPerson, 0, 1, "drawings.full")]
    [InlineData(0, 0, DrawingRoom.PerHouse, 1, "house.full")]
    public void Room_EndsForOnePerson_AndForTheHouse(long kept, int drawings, long house, long bytes, string? code) =>
        DrawingRoom.Refused(kept, drawings, house, bytes)?.Code.ShouldBe(code);

    [Theory]
    [InlineData(-1, 0, new int[0])]
    [InlineData(50_000, 0, new int[0])]
    [InlineData(1_999, 0, new[] { 3 })]
    [InlineData(400, DrawingRoom.PerHouse, new[] { 4, 2 })]
    public void Watch_IsTold_BeforeThereIsNoRoom(long free, long drawings, int[] urgency) =>
        NeedsAHand.Room(free, drawings).Select(n => n.Urgency).ShouldBe(urgency);

    [Fact]
    public void OwnColours_SpeakWhereTheHouseIsSilent_AndNeverAgainstIt()
    {
        var own = ColourMap.Parse("#ff0000=engrave,#123456=score").Value;
        var both = TestColours.Map.With(own);
        (both.Of("#ff0000"), both.Of("#123456"), both.Of("#654321")).ShouldBe(
            (StrokeMeaning.Cut, StrokeMeaning.Score, StrokeMeaning.Unknown)
        );
        // A house that comes to name the colour later is not contradicted by what the page still shows.
        TestColours.Map.Counting(own).Strokes.Keys.ShouldBe(["#123456"]);
        TestColours.Map.Counting(null).Strokes.ShouldBeEmpty();
        ColourMap.Parse(both.ToText()).Value.ShouldBe(both);
    }

    /// <summary>Silence about what nobody looked at is not a yes.</summary>
    [Fact]
    public void Report_NamesWhatWasLookedForAndWhatWasNot()
    {
        DrawingFindings
            .NotLookedAt(null, TestColours.Map, null)
            .ShouldContain(n => n.StartsWith("whether it fits your sheet", StringComparison.Ordinal));
        DrawingFindings.NotFoundIn([], null, TestColours.Map, null).ShouldContain("lines drawn twice");
        DrawingFindings
            .NotFoundIn(
                [new(kind: FindingKinds.LineDuplicate, severity: Severity.Stop, count: 1, lengthMm: 1, at: [], text: "", why: "")],
                null,
                TestColours.Map,
                null
            )
            .ShouldNotContain("lines drawn twice");
    }

    [Theory]
    [InlineData("Untitled.svg", true)]
    [InlineData("drawing (3).svg", true)]
    [InlineData("New Document 2.dxf", true)]
    [InlineData("scan0001.png", true)]
    [InlineData("20261124.svg", true)]
    [InlineData("file - copy.svg", true)]
    [InlineData("lantern side, 3 mm ply.svg", false)]
    [InlineData("test piece T-0004.svg", false)]
    [InlineData("drawing of a heron.svg", false)]
    [InlineData("box 60 x 50 x 40 mm.svg", false)]
    public void Name_ThatManyCouldHave(string name, bool little) => DrawingRoom.SaysLittle(name).ShouldBe(little);
}
