using System.Globalization;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Settings;

namespace VelvetGate.Cli;

/// <summary>One drawing of a folder: its report, or why it cannot be read.</summary>
internal sealed record CheckedFile(string File, DrawingReport? Report, string? Problem);

/// <summary>Checks every drawing of a folder and writes one row for each: CSV, or one JSON document.</summary>
internal static class FolderCheck
{
    private static readonly string[] Endings = [".svg", ".svgz", ".dxf", ".png", ".jpg", ".jpeg"];

    private static readonly string[] Columns =
    [
        "file",
        "widthMm",
        "heightMm",
        "cutMm",
        "scoreMm",
        "engraveMm",
        "fillMm2",
        "runSeconds",
        "stop",
        "warn",
        "note",
        "codes",
        "problem",
    ];

    /// <returns>2 when a file cannot be read, else 1 when one has stop findings, else 0.</returns>
    public static int Run(string folder, bool json, Func<string, DrawingReport> check)
    {
        var files = Directory
            .EnumerateFiles(folder)
            .Where(f => Endings.Contains(Path.GetExtension(f), StringComparer.OrdinalIgnoreCase))
            .Order(StringComparer.Ordinal)
            .ToList();
        if (files.Count == 0)
            throw new UsageException($"There is no SVG, DXF, PNG or JPEG file in {folder}.");
        var all = files.Select(f => Check(f, check)).ToList();
        Console.Out.Write(json ? GateJson.Write(new { files = all }) + "\n" : CsvTable.Write(Columns, [.. all.Select(Row)]));
        return all.Any(f => f.Report is null) ? 2
            : all.Any(f => f.Report!.Findings.Any(x => x.Severity == Severity.Stop)) ? 1
            : 0;
    }

    private static CheckedFile Check(string file, Func<string, DrawingReport> check)
    {
        var name = Path.GetFileName(file);
        try
        {
            return new CheckedFile(name, check(file), null);
        }
        catch (Exception e) when (e is UsageException or UnreadableDrawingException or IOException or UnauthorizedAccessException)
        {
            return new CheckedFile(name, null, e.Message);
        }
    }

    private static string[] Row(CheckedFile file)
    {
        if (file.Report is not { } report)
            return [file.File, .. Enumerable.Repeat("", Columns.Length - 2), file.Problem ?? ""];
        string Length(StrokeMeaning meaning) => Number(report.Strokes.Where(s => s.Operation == meaning).Sum(s => s.LengthMm));
        string Count(Severity severity) => report.Findings.Count(f => f.Severity == severity).ToString(CultureInfo.InvariantCulture);
        return
        [
            file.File,
            Number(report.WidthMm),
            Number(report.HeightMm),
            Length(StrokeMeaning.Cut),
            Length(StrokeMeaning.Score),
            Length(StrokeMeaning.Engrave),
            Number(report.Fills.Sum(f => f.AreaMm2)),
            Number(report.Time.RunSeconds),
            Count(Severity.Stop),
            Count(Severity.Warn),
            Count(Severity.Note),
            string.Join(' ', report.Findings.Select(f => f.Code)),
            "",
        ];
    }

    private static string Number(double value) => Math.Round(value, 3).ToString("0.###", CultureInfo.InvariantCulture);
}
