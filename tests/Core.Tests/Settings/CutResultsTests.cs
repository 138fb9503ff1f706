using Shouldly;
using VelvetGate.Core.Settings.TestPieces;
using Xunit;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>What a cut row says, and when it says nothing.</summary>
public class CutResultsTests
{
    /// <param name="marks">One for each energy from 1 J/mm in steps of 10 %: - not through, + through, x through and charred.</param>
    private static IEnumerable<CellResult> Row(string marks) =>
        marks.Select((m, i) => new CellResult(Math.Pow(1.1, i), m is '+' or 'x', m == 'x'));

    private static Result<CutResults> Of(params string[] rows) => CutResults.Of([.. rows.SelectMany(Row)]);

    /// <summary>A setting is shown by cells of about its energy: all of them through, and none charred.</summary>
    [Theory]
    [InlineData(3.0, true)]
    [InlineData(3.2, true)] // 3.0 lies within a tenth
    [InlineData(2.05, false)] // 2.0 stayed
    [InlineData(4.0, false)] // charred
    [InlineData(6.0, false)] // nothing was cut with so much
    public void Show_IsByCellsOfAboutThatEnergy(double jPerMm, bool shown) =>
        CutResults.Show([new(2, false), new(3, true), new(3, true), new(4, true, Charred: true)], (decimal)jPerMm).ShouldBe(shown);

    [Fact]
    public void CleanlyParted_TheIntervalIsTheTwoCells_AndTheMarginDecides()
    {
        var found = Of("-----+++++", "-----+++++").Value;
        found.Boundary.Separated.ShouldBeTrue();
        found.Boundary.Low!.Value.ShouldBe(Math.Pow(1.1, 4), 1e-9);
        found.Boundary.High!.Value.ShouldBe(Math.Pow(1.1, 5), 1e-9);
        found.Boundary.JPerMm.ShouldBeInRange(Math.Pow(1.1, 4), Math.Pow(1.1, 5));
        found.KeepJPerMm!.Value.ShouldBe(Math.Max(found.Boundary.JPerMm * 1.1, Math.Pow(1.1, 5)), 1e-3);
    }

    [Fact]
    public void Mixed_TheLowestSureCellDecidesWhereItLiesHigher()
    {
        var found = Of("---+-++-++", "----+-++++").Value;
        found.Boundary.Separated.ShouldBeFalse();
        (found.Boundary.Low < found.Boundary.JPerMm && found.Boundary.JPerMm < found.Boundary.High).ShouldBeTrue();
        found.KeepJPerMm!.Value.ShouldBe(Math.Max(found.Boundary.JPerMm * 1.1, Math.Round(Math.Pow(1.1, 6), 4)), 1e-9);
    }

    /// <summary>Everything that is surely through is charred as well.</summary>
    [Fact]
    public void CharredThroughout_KeepsNothing()
    {
        var found = Of("-----xxxxx", "-----+xxxx").Value;
        found.KeepJPerMm.ShouldBeNull();
        found.Why.ShouldContain("nothing is kept");
    }

    [Theory]
    [InlineData("test.contradicts", "+++++-----")]
    [InlineData("test.allThrough", "++++++++++")]
    [InlineData("test.noneThrough", "----------")]
    [InlineData("test.few", "-+")]
    public void WhatSaysNothing_IsRefusedInWords(string code, string row)
    {
        var refusal = Of(row).Refusal!;
        refusal.Code.ShouldBe(code);
        refusal.Text.ShouldEndWith(".");
    }

    [Fact]
    public void OneEnergy_OrNonsense_IsRefused()
    {
        CutResults.Of([.. Enumerable.Range(0, 6).Select(i => new CellResult(2, i > 2))]).Refusal!.Code.ShouldBe("test.oneEnergy");
        CutResults.Of([.. Enumerable.Range(0, 6).Select(i => new CellResult(i - 1, i > 2))]).Refusal!.Code.ShouldBe("test.few");
    }
}
