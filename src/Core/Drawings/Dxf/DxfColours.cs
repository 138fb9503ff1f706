using System.Globalization;

namespace VelvetGate.Core.Drawings.Dxf;

/// <summary>The 255 colours of the index that DXF files name (DXF reference, code 62), on paper: 7 is black there.</summary>
internal static class DxfColours
{
    public const int ByBlock = 0,
        ByLayer = 256;

    private static readonly string[] First =
    [
        "#000000",
        "#ff0000",
        "#ffff00",
        "#00ff00",
        "#00ffff",
        "#0000ff",
        "#ff00ff",
        "#000000",
        "#808080",
        "#c0c0c0",
    ];
    private static readonly string[] Greys = ["#333333", "#505050", "#696969", "#828282", "#bebebe", "#ffffff"];
    private static readonly int[] Brightness = [255, 165, 127, 76, 38];

    /// <summary>24 hues, 15 degrees apart, in five brightnesses; odd ones are half way to that brightness of grey.</summary>
    public static string Of(int index)
    {
        if (index is < 1 or > 255)
            return First[7];
        if (index < 10)
            return First[index];
        if (index >= 250)
            return Greys[index - 250];
        var (hue, shade) = ((index - 10) / 10, index % 10);
        var (bright, pale) = (Brightness[shade / 2], shade % 2 == 1);
        return True((Channel(hue + 8) << 16) | (Channel(hue) << 8) | Channel(hue - 8));

        int Channel(int turned)
        {
            // A trapezium over the circle: full for a third of it, a ramp of four steps on each side.
            var at = ((turned % 24) + 24) % 24;
            var full =
                at < 4 ? at / 4.0
                : at <= 12 ? 1
                : at < 16 ? (16 - at) / 4.0
                : 0;
            // The published table rounds the pale ones and cuts the others off.
            return pale ? (int)Math.Ceiling(bright * (1 + full) / 2 - 0.5) : (int)(bright * full);
        }
    }

    public static string True(int rgb) => string.Create(CultureInfo.InvariantCulture, $"#{rgb & 0xFFFFFF:x6}");
}
