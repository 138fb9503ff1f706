using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Dxf;
using VelvetGate.Core.Drawings.Mending;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.Settings;

namespace VelvetGate.Cli;

/// <summary>What <c>vg check --mend OUT</c> did, beside the report of the file as it was.</summary>
/// <param name="File">Where it was written.</param>
/// <param name="Report">Of the mended drawing.</param>
internal sealed record MendedFile(string File, IReadOnlyList<MendStep> Steps, IReadOnlyList<string> LeftOut, DrawingReport Report);

/// <summary>The options of <c>--mend</c>: what to mend, and the file to write.</summary>
internal static class MendOptions
{
    public static readonly string[] Values = ["--mend", "--close", "--outline", "--scale", "--width", "--recolour"];

    private const string UsualClose = "0.1 mm";

    /// <returns>Doubled and nearly doubled lines out and small gaps closed, when only <c>--mend</c> is given.</returns>
    public static MendingQuestion Read(Options options)
    {
        var words = new MendWords(
            Doubled: true,
            Near: true,
            options["--close"] ?? UsualClose,
            options["--outline"],
            options["--scale"],
            [.. (options["--recolour"] ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries).Select(Pair)],
            options["--width"]
        );
        var ask = words.Read(LengthUnit.Mm, out var refusals);
        return refusals.Count == 0 ? ask : throw new UsageException($"--{refusals[0].Field}: {refusals[0].Text}");
    }

    /// <summary>SVG or DXF, by the ending; an existing file that is not the drawing itself is written over.</summary>
    public static void Write(string file, string from, Drawing drawing)
    {
        if (Path.GetFullPath(file) == Path.GetFullPath(from))
            throw new UsageException("--mend: name another file. The drawing itself is left as it is.");
        var text = Path.GetExtension(file).ToLowerInvariant() switch
        {
            ".svg" => SvgWriter.Write(drawing),
            ".dxf" => DxfWriter.Write(drawing),
            _ => throw new UsageException("--mend: name a file that ends in .svg or .dxf."),
        };
        File.WriteAllText(file, text);
    }

    private static (string?, string?) Pair(string text) => text.Split('=', 2) is [var from, var to] ? (from, to) : (text, null);
}
