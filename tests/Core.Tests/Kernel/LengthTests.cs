using Shouldly;
using Xunit;

namespace VelvetGate.Core.Tests.Kernel;

/// <summary>Inch fractions checked by hand: the international inch is 25.4 mm exactly.</summary>
public class LengthTests
{
    [Theory]
    [InlineData("3 mm", "3")]
    [InlineData("3", "3")]
    [InlineData("3,2 mm", "3.2")]
    [InlineData(".5mm", "0.5")]
    [InlineData("0.125 in", "3.175")]
    [InlineData("1/8 in", "3.175")]
    [InlineData("1/8\"", "3.175")]
    [InlineData("1 1/2 in", "38.1")]
    [InlineData("1-1/2 in", "38.1")]
    [InlineData("2.5 cm", "25")]
    [InlineData("72 pt", "25.4")]
    [InlineData("96px", "25.4")]
    [InlineData("1 ft", "304.8")]
    public void Parse_WhatPeopleType_GivesMillimetres(string typed, string mm) =>
        Math.Round(Length.Parse(typed).Value, 9).ShouldBe(decimal.Parse(mm, System.Globalization.CultureInfo.InvariantCulture));

    [Theory]
    [InlineData("1/4", "6.35")]
    [InlineData("1/4 mm", "0.25")]
    public void Parse_BareNumber_TakesTheUnitThePersonSees(string typed, string mm) =>
        Length.Parse(typed, LengthUnit.In).Value.ShouldBe(decimal.Parse(mm, System.Globalization.CultureInfo.InvariantCulture));

    [Fact]
    public void ParseMany_UnitAtTheEnd_ServesThoseBeforeIt()
    {
        Length.ParseMany("6 x 6 in").Value.ShouldBe([152.4m, 152.4m]);
        Length.ParseMany("600x400").Value.ShouldBe([600m, 400m]);
        Length.ParseMany("12 in x 300 mm").Value.ShouldBe([304.8m, 300m]);
    }

    [Theory]
    [InlineData("")]
    [InlineData("3.O")]
    [InlineData("mm")]
    [InlineData("3 furlongs")]
    [InlineData("0 mm")]
    [InlineData("-3 mm")]
    [InlineData("1/0 in")]
    [InlineData("1,000 mm")]
    [InlineData("999999999 m")]
    [InlineData("3 mm; drop table")]
    [InlineData("1 2 3")]
    public void Parse_Wrong_SaysWhatToType(string typed)
    {
        var refusal = Length.Parse(typed).Refusal.ShouldNotBeNull();
        refusal.Code.ShouldBe("length.bad");
        refusal.Text.ShouldEndWith(".");
    }

    [Fact]
    public void Parse_LetterForDigit_NamesTheMistake() => Length.Parse("3.O").Refusal!.Text.ShouldContain("letter");

    [Theory]
    [InlineData("3", "3 mm", "0.118 in")]
    [InlineData("6.35", "6.35 mm", "0.25 in")]
    public void Show_EitherUnit(string mm, string inMm, string inInches)
    {
        var value = decimal.Parse(mm, System.Globalization.CultureInfo.InvariantCulture);
        Length.Show(value).ShouldBe(inMm);
        Length.Show(value, LengthUnit.In).ShouldBe(inInches);
    }
}
