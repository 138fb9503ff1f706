using System.Globalization;
using VelvetGate.Core.Bench;
using VelvetGate.Core.Bench.Dxf;
using VelvetGate.Core.Bench.Mending;
using VelvetGate.Core.Bench.Svg;
using VelvetGate.Core.House;

namespace VelvetGate.Cli;

/// <summary>What <c>vg check --mend OUT</c> did, beside the report of the file as it was.</summary>
/// <param name="File">Where it was written.</param>
/// <param name="Report">Of the mended drawing.</param>
internal sealed record MendedFile(string File, IReadOnlyList<MendStep> Steps, IReadOnlyList<string> LeftOut, DrawingReport Report);

/// <summary>The options of <c>--mend</c>: what to mend, and the file to write.</summary>
internal static class MendOptions
{
    public static readonly string[] Values = ["--mend", "--close", "--outline", "--scale", "--recolour"];

    /// <returns>The usual mends when only <c>--mend</c> is given.</returns>
    public static MendAsk Read(Options options)
    {
        var ask = MendAsk.Usual with
        {
            CloseMm = options["--close"] is { } close ? Number("--close", close) : MendAsk.Usual.CloseMm,
            Outline = options["--outline"],
            Scale = options["--scale"] is { } scale ? Number("--scale", scale) : 1,
            Recolour = options["--recolour"] is { } recolour ? Colours(recolour) : null,
        };
        if (ask.Refused() is { } refusal) throw new UsageException($"--{refusal.Field?.Replace("Mm", "", StringComparison.Ordinal)}: {refusal.Text}");
        return ask;
    }

    /// <summary>SVG or DXF, by the ending; an existing file that is not the drawing itself is written over.</summary>
    public static void Write(string file, string from, Drawing drawing)
    {
        if (Path.GetFullPath(file) == Path.GetFullPath(from)) throw new UsageException("--mend: name another file. The drawing itself is left as it is.");
        var text = Path.GetExtension(file).ToLowerInvariant() switch
        {
            ".svg" => SvgWriter.Write(drawing),
            ".dxf" => DxfWriter.Write(drawing),
            _ => throw new UsageException("--mend: name a file that ends in .svg or .dxf."),
        };
        File.WriteAllText(file, text);
    }

    private static double Number(string option, string text) =>
        double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) ? number : throw new UsageException($"{option}: write a number, such as 0.1.");

    private static Dictionary<string, string> Colours(string text)
    {
        var map = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var pair in text.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            if (pair.Split('=') is not [var from, var to] || ColourMap.Tidy(from) is not { } was || ColourMap.Tidy(to) is not { } now)
                throw new UsageException($"--recolour: “{pair}” is not a pair of colours. Write it like #00ff00=#ff0000.");
            map[was] = now;
        }
        return map;
    }
}
