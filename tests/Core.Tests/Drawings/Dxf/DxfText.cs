using System.Text;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Dxf;

namespace VelvetGate.Core.Tests.Drawings.Dxf;

/// <summary>Writes DXF files as a test needs them: groups as “code value” with bars between.</summary>
internal static class DxfText
{
    /// <param name="entities">Such as <c>0 LINE|10 0|20 0|11 3|21 4</c>.</param>
    public static string File(string entities, string header = "", string tables = "", string blocks = "") =>
        Section("HEADER", header) + Section("TABLES", tables) + Section("BLOCKS", blocks) + Section("ENTITIES", entities) + Groups("0 EOF");

    public static string Line(double x, double y, string more = "") =>
        FormattableString.Invariant($"0 LINE|{more}{(more.Length > 0 ? "|" : "")}10 0|20 0|11 {x}|21 {y}");

    public static string Layer(string name, int colour, int flags = 0) => $"0 LAYER|2 {name}|70 {flags}|62 {colour}";

    public static string Block(string name, string entities, double x = 0, double y = 0) =>
        FormattableString.Invariant($"0 BLOCK|8 0|2 {name}|70 0|10 {x}|20 {y}|{entities}|0 ENDBLK|8 0");

    public static string Groups(string bars) =>
        bars.Length == 0 ? "" : string.Concat(bars.Split('|').Select(g => $"{g.Split(' ', 2)[0], 3}\n{g.Split(' ', 2)[1]}\n"));

    public static Drawing Read(string file) => DxfReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(file)));

    public static DrawingSummary Summary(string entities, string header = "", string tables = "", string blocks = "") =>
        DrawingReading.Summarise("t.dxf", Read(File(entities, header, tables, blocks)));

    private static string Section(string name, string groups) => Groups($"0 SECTION|2 {name}") + Groups(groups) + Groups("0 ENDSEC");
}
