using System.Globalization;
using System.Text;
using Shouldly;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>Numbers in path data are the very doubles that the runtime's own correctly rounded parser gives.</summary>
public class PathNumberTests
{
    private const double MmPerPx = 25.4 / 96;

    [Fact]
    public void Read_20000Decimals_AreThoseOfTheRuntime()
    {
        var random = new Random(4711);
        var texts = Enumerable.Range(0, 20_000).Select(_ => Some(random)).ToList();
        var path = new StringBuilder("M0 0");
        foreach (var text in texts)
            path.Append('H').Append(text);
        var shape = SvgReaderTests
            .Read($"<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"100\" height=\"100\"><path stroke=\"red\" d=\"{path}\"/></svg>")
            .Shapes.ShouldHaveSingleItem();
        var read = shape.Subpaths.ShouldHaveSingleItem();
        read.Count.ShouldBe(texts.Count);
        for (var i = 0; i < texts.Count; i++)
            read[i].End.X.ShouldBe(MmPerPx * double.Parse(texts[i], CultureInfo.InvariantCulture), texts[i]);
    }

    [Theory]
    [InlineData("9007199254740992")] // 2^53, the last whole number that is surely exact
    [InlineData("9007199254740993")]
    [InlineData("0.1234567890123456789012")]
    [InlineData("00000000000000000000000012.5")]
    [InlineData("-0.000000000000000001")]
    [InlineData("123456789.12345678901")]
    [InlineData("1.7976931348623157e3")]
    [InlineData("99999999999999999999e-19")]
    public void Read_LongNumbers_AreThoseOfTheRuntime(string text)
    {
        // Far out a drawing is refused: brought near again by the transform, which is exact for a power of two.
        var scale = Math.Pow(2, -40);
        var svg =
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"100\" height=\"100\"><path "
            + $"transform=\"scale({scale.ToString("R", CultureInfo.InvariantCulture)})\" stroke=\"red\" d=\"M0 0H{text}\"/></svg>";
        SvgReaderTests
            .Read(svg)
            .Shapes[0]
            .Subpaths[0][0]
            .End.X.ShouldBe(MmPerPx * scale * double.Parse(text, CultureInfo.InvariantCulture));
    }

    private static string Some(Random random)
    {
        var whole = random.Next(6);
        var text = new StringBuilder(
            random.Next(3) switch
            {
                0 => "-",
                1 => "+",
                _ => "",
            }
        );
        for (var i = 0; i < whole; i++)
            text.Append((char)('0' + random.Next(10)));
        var decimals = whole == 0 ? 1 + random.Next(16) : random.Next(16);
        if (decimals > 0)
            text.Append('.');
        for (var i = 0; i < decimals; i++)
            text.Append((char)('0' + random.Next(10)));
        if (random.Next(8) == 0)
            text.Append(random.Next(2) == 0 ? 'e' : 'E').Append(random.Next(-6, 2));
        return text.ToString();
    }
}
