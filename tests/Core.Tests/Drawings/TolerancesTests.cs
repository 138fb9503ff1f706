using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Tests.Gating;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>What a house lets pass in a drawing is its own; kerf and thickness are the machine's and the sheet's.</summary>
public class TolerancesTests
{
    private static IReadOnlyList<Finding> Find(DrawingSummary drawing, HouseRules rules) =>
        DrawingFindings.Of(drawing, rules.Colours, GateCase.Heron, thicknessMm: 3, tolerances: rules.DrawingTolerances);

    private static readonly HouseRules Usual = Packs.Start("memberRun", "House", "Europe/London") with { Colours = TestColours.Map };

    [Fact]
    public void Usual_AreThoseOfTheFindings() => Usual.DrawingTolerances.ShouldBe(DrawingTolerances.Usual);

    [Theory]
    [InlineData(5, Severity.Stop)]
    [InlineData(0, Severity.Stop)]
    [InlineData(20, Severity.Warn)]
    public void NearLines_StopAboveTheHousesLength(int mm, Severity severity) =>
        Find(SvgReaderTests.Summary("<path d='M0 0H50M0 .1H8' stroke='red'/>"), Usual with { NearLinesStopMm = mm })
            .Single(f => f.Code == "line.near")
            .Severity.ShouldBe(severity);

    [Theory]
    [InlineData(20, true)]
    [InlineData(0, true)]
    [InlineData(60, false)]
    [InlineData(100, false)]
    public void CrowdedCuts_AskAboveTheHousesShare(int percent, bool asks) =>
        Find(SvgReaderTests.Summary("<path d='M0 0H50M0 2H50M0 50H100' stroke='red'/>"), Usual with { CrowdedCutsPercent = percent })
            .Single(f => f.Code == "gap.tooClose")
            .Asks.ShouldBe(asks);

    [Theory]
    [InlineData(300, 5, true, true)]
    [InlineData(200, 5, false, true)]
    [InlineData(300, 30, true, false)]
    [InlineData(200, 100, false, false)]
    public void Pictures_AreHeldAgainstTheHousesPixelsAndGreys(int ppi, int percent, bool coarse, bool grey)
    {
        var picture = PngFiles.Grey(250, 100, (x, _) => (byte)(x < 50 ? 128 : 0), 254);
        var findings = Find(
            DrawingReading.Summarise("t", DrawingFile.Read(new MemoryStream(picture))),
            Usual with
            {
                PicturePpi = ppi,
                PictureGreyPercent = percent,
            }
        );
        findings.Any(f => f.Code == "image.lowResolution").ShouldBe(coarse);
        findings.Any(f => f.Code == "image.notBlackWhite").ShouldBe(grey);
    }
}
