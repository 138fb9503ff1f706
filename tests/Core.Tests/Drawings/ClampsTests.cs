using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

public class ClampsTests
{
    private static Finding? Find(string inner, params Clamp[] clamps) =>
        DrawingFindings
            .Of(SvgReaderTests.Summary(inner), TestColours.Map, GateCase.Heron, LengthUnit.Mm, 3, clamps)
            .SingleOrDefault(f => f.Code == "frame.obstructed");

    private const string Part = "<path d='M100 100h50v40h-50z' stroke='red'/>";

    [Theory]
    [InlineData(120, 120, true)] // within the part
    [InlineData(76, 120, true)] // 24 mm beside: its half and the head reach 25
    [InlineData(74, 120, false)]
    [InlineData(174, 120, true)]
    [InlineData(176, 120, false)]
    [InlineData(120, 166, false)]
    [InlineData(166, 156, true)] // 22.6 mm from the corner
    [InlineData(168, 158, false)] // 25.5 mm
    public void Obstructed_WhenTheHeadWouldReachIt(double x, double y, bool found)
    {
        var finding = Find(Part, new Clamp(x, y, 20));
        (finding is not null).ShouldBe(found);
        if (finding is null)
            return;
        (finding.Severity, finding.Count).ShouldBe((Severity.Note, 1));
        finding.At.ShouldHaveSingleItem().ShouldBe(new Place(x, y));
        finding.Text.ShouldBe("1 clamp stands within 15 mm of the frame, in the head’s way.");
    }

    [Fact]
    public void LargerClamps_ReachFarther_AndOnlyThoseInTheWayAreMarked()
    {
        Find(Part, new Clamp(74, 120, 24)).ShouldNotBeNull();
        var finding = Find(Part, new Clamp(0, 0, 20), new Clamp(120, 120, 20), new Clamp(150, 140, 20)).ShouldNotBeNull();
        (finding.Count, finding.At.Count).ShouldBe((2, 2));
        finding.Text.ShouldStartWith("2 clamps stand");
    }

    [Fact]
    public void NothingDrawn_OrNoClamp_IsNoFinding()
    {
        Find("<g/>", new Clamp(0, 0, 20)).ShouldBeNull();
        Find(Part).ShouldBeNull();
    }

    [Theory]
    [InlineData(double.NaN, 0, 20, "clamps")]
    [InlineData(0, 20_000, 20, "clamps")]
    [InlineData(0, 0, 0, "across")]
    [InlineData(0, 0, double.PositiveInfinity, "across")]
    public void Refused_NamesTheField(double x, double y, double across, string field) =>
        Clamps.Refused([new Clamp(x, y, across)])!.Field.ShouldBe(field);

    [Fact]
    public void Refused_NoClampAtAll() => Clamps.Refused([new Clamp(1, 1, 20), null])!.Code.ShouldBe("clamps.place");

    [Fact]
    public void Refused_MoreThanFifty() =>
        Clamps.Refused([.. Enumerable.Range(0, 51).Select(i => new Clamp(i, 0, 20))])!.Code.ShouldBe("clamps.many");

    [Theory]
    [InlineData("120,40; 10.5,-3", 2)]
    [InlineData("1,2;", 1)]
    [InlineData("1 in, 0", 1)]
    [InlineData(null, 0)]
    [InlineData("", -1)]
    [InlineData("1;2", -1)]
    [InlineData("a,b", -1)]
    [InlineData("1,2,3", -1)]
    [InlineData("99999,0", -1)]
    public void TypedInOneLine_IsReadOrRefused(string? text, int count)
    {
        var read = Clamps.Parse(text);
        (read.IsOk ? read.Value.Count : -1).ShouldBe(count);
    }

    [Theory]
    [InlineData("120", "40,5", null, 120, 40.5, 20)]
    [InlineData(" 0 ", "-3 mm", "35 mm", 0, -3, 35)]
    [InlineData("\u22121/2 in", "1 in", "2 in", -12.7, 25.4, 50.8)]
    public void Words_AreLengths_AndMayLieBelowNothing(string x, string y, string? across, double mmX, double mmY, double mmAcross)
    {
        new ClampWords(x, y, across).Read(LengthUnit.Mm, out var refusals).ShouldBe(new Clamp(mmX, mmY, mmAcross));
        refusals.ShouldBeEmpty();
    }

    [Fact]
    public void Words_WithoutAUnit_AreInThatOfThePerson() =>
        new ClampWords("1", "-2", "0.5").Read(LengthUnit.In, out _).ShouldBe(new Clamp(25.4, -50.8, 12.7));

    [Theory]
    [InlineData("", "1", null, "x")]
    [InlineData("1", "here", null, "y")]
    [InlineData("1", "--1", null, "y")]
    [InlineData("1", "1 x 2", null, "y")]
    [InlineData("1", "1", "-3", "across")]
    [InlineData("1", "1", "0", "across")]
    public void Words_ThatCannotBe_NameTheField(string x, string y, string? across, string field)
    {
        new ClampWords(x, y, across).Read(LengthUnit.Mm, out var refusals).ShouldBeNull();
        refusals.ShouldHaveSingleItem().Field.ShouldBe(field);
    }
}
