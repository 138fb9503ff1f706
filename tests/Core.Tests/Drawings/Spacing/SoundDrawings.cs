using System.Globalization;
using System.Text;

namespace VelvetGate.Core.Tests.Drawings.Spacing;

/// <summary>Drawings as people bring them, without a fault that stops.</summary>
internal static class SoundDrawings
{
    public static string Of(string kind) =>
        kind switch
        {
            "gear" => Gear(24, 40, 46) + Circle(8),
            "box" => Box(90, 50, 3),
            "hinge" => Hinge(),
            "star" => Star(),
            _ => throw new ArgumentOutOfRangeException(nameof(kind)),
        };

    /// <summary>Teeth between two circles.</summary>
    private static string Gear(int teeth, double root, double tip)
    {
        var text = new StringBuilder();
        for (var t = 0; t < teeth; t++)
        {
            var step = 2 * Math.PI / teeth;
            Add(text, t == 0, root, t * step);
            Add(text, false, root, (t + 0.35) * step);
            Add(text, false, tip, (t + 0.48) * step);
            Add(text, false, tip, (t + 0.87) * step);
        }
        return text.Append('Z').ToString();
    }

    private static string Circle(double r) =>
        string.Create(CultureInfo.InvariantCulture, $"M{-r} 0A{r} {r} 0 1 1 {r} 0A{r} {r} 0 1 1 {-r} 0Z");

    /// <summary>A side with fingers of 10 mm, as deep as the sheet is thick.</summary>
    private static string Box(double width, double height, double thick)
    {
        var text = new StringBuilder("M0 0");
        for (var x = 0; x + 10 < width; x += 20)
            text.Append(CultureInfo.InvariantCulture, $"h10v{thick}h10v{-thick}");
        return text.Append(CultureInfo.InvariantCulture, $"h10v{height}H0Z").ToString();
    }

    /// <summary>A living hinge: slits 1.5 mm apart in a sheet of 3 mm.</summary>
    private static string Hinge()
    {
        var text = new StringBuilder();
        for (var row = 0; row < 30; row++)
            text.Append(CultureInfo.InvariantCulture, $"M{row % 2 * 20} {row * 1.5}h36M{row % 2 * 20 + 40} {row * 1.5}h36");
        return text.ToString();
    }

    private static string Star()
    {
        var text = new StringBuilder();
        for (var p = 0; p < 10; p++)
            Add(text, p == 0, p % 2 == 0 ? 60 : 24, p * Math.PI / 5);
        return text.Append('Z').ToString();
    }

    private static void Add(StringBuilder text, bool first, double r, double angle) =>
        text.Append(CultureInfo.InvariantCulture, $"{(first ? 'M' : 'L')}{r * Math.Cos(angle):0.####} {r * Math.Sin(angle):0.####}");
}
