using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Mending;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Settings;
using VelvetGate.Store.Demo;

namespace VelvetGate.Cli;

/// <summary>
/// Checks a drawing, or a folder of them, without a database or a server. Exit 0 no stop finding, 1 stop findings, 2 unreadable.
/// </summary>
internal static class CheckCommand
{
    public static int Run(IReadOnlyList<string> args)
    {
        try
        {
            return Check(
                Options.Parse(
                    args,
                    ["--machine", "--material", "--thickness", "--colours", "--bed", "--kerf", "--clamps", .. MendOptions.Values],
                    ["--json", "--all-cut"]
                )
            );
        }
        catch (Exception e) when (e is UsageException or UnreadableDrawingException or IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine(e.Message);
            return 2;
        }
    }

    private static int Check(Options options)
    {
        if (options.Plain is not [var file])
            throw new UsageException("Name one drawing or folder: vg check FILE --machine ID --material ID --thickness MM");
        var machine = Machine(options);
        var material = MaterialTable.Find(options["--material"] ?? "birch-ply-laser")
            ?? throw new UsageException($"There is no material “{options["--material"]}”.");
        var thickness = Length.Parse(options["--thickness"] ?? "3 mm");
        if (thickness.Refusal is { } refusal)
            throw new UsageException($"--thickness: {refusal.Text}");
        var clamps = Clamps.Parse(options["--clamps"]);
        if (clamps.Refusal is { } badly)
            throw new UsageException($"--clamps: {badly.Text}");
        DrawingReport Report(Drawing drawing, string path)
        {
            var summary = DrawingReading.Summarise(Path.GetFileName(path), drawing);
            return DrawingReport.Of(
                summary,
                Colours(options, summary),
                machine,
                material.CutEnergyJPerMm2,
                thickness.Value,
                clamps: clamps.Value
            );
        }
        if (Directory.Exists(file))
        {
            if (options["--mend"] is not null)
                throw new UsageException("--mend mends one drawing: name a file, not a folder.");
            return FolderCheck.Run(file, options.Has("--json"), path => Report(Read(path), path));
        }
        if (options["--mend"] is null && MendOptions.Values.FirstOrDefault(v => options[v] is not null) is { } alone)
            throw new UsageException($"{alone} goes with --mend OUT.");
        var drawing = Read(file);
        var report = Report(drawing, file);
        MendedFile? mended = null;
        if (options["--mend"] is { } to)
        {
            var made = Mender.Mend(
                drawing,
                MendOptions.Read(options),
                Colours(options, DrawingReading.Summarise("", drawing)),
                (double)machine.KerfMm
            );
            MendOptions.Write(to, file, made.Drawing);
            mended = new MendedFile(to, made.Steps, made.LeftOut, Report(made.Drawing, to));
        }
        if (options.Has("--json"))
            Console.Out.WriteLine(mended is null ? GateJson.Write(report) : WithMended(report, mended));
        else
            Print(report, mended);
        return report.Findings.Any(f => f.Severity == Severity.Stop) ? 1 : 0;
    }

    /// <summary>The report of the file as it was, with what was mended beside it.</summary>
    private static string WithMended(DrawingReport report, MendedFile mended)
    {
        var whole = JsonNode.Parse(GateJson.Write(report))!.AsObject();
        whole["mended"] = JsonNode.Parse(GateJson.Write(mended));
        return whole.ToJsonString(new JsonSerializerOptions { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping });
    }

    internal static Drawing Read(string file)
    {
        if (!File.Exists(file))
            throw new UsageException($"There is no file {file}.");
        if (new FileInfo(file).Length > DrawingLimits.Bytes)
            throw new UsageException($"The file is larger than {DrawingLimits.Bytes / 1024 / 1024} MB. Split it.");
        using var stream = File.OpenRead(file);
        return DrawingFile.Read(stream);
    }

    internal static MachineSpec Machine(Options options)
    {
        var id = options["--machine"] ?? "heron";
        var machine = DemoHouse.Machines.FirstOrDefault(m => m.Id == id)
            ?? throw new UsageException($"There is no machine “{id}”. Known: {string.Join(", ", DemoHouse.Machines.Select(m => m.Id))}.");
        if (options["--bed"] is { } bed)
        {
            var size = Length.ParseMany(bed);
            if (!size.IsOk || size.Value.Count != 2)
                throw new UsageException("--bed: write the width and height, such as 600x400.");
            machine = machine with { BedWidthMm = size.Value[0], BedHeightMm = size.Value[1], MarginMm = 0 };
        }
        if (options["--kerf"] is { } kerf)
        {
            if (!decimal.TryParse(kerf, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var mm))
                throw new UsageException("--kerf: write millimetres, such as 0.2.");
            machine = machine with { KerfMm = mm };
        }
        return machine;
    }

    internal static ColourMap Colours(Options options, DrawingSummary summary)
    {
        if (options.Has("--all-cut"))
            return new ColourMap(summary.Strokes.ToDictionary(s => s.Colour, _ => StrokeMeaning.Cut));
        if (options["--colours"] is not { } text)
            return DemoHouse.Colours;
        if (File.Exists(text))
            text = File.ReadAllText(text)
                .Trim()
                .Trim('{', '}')
                .Replace("\"", "", StringComparison.Ordinal)
                .Replace(':', '=')
                .ReplaceLineEndings(",");
        var map = ColourMap.Parse(text);
        return map.IsOk ? map.Value : throw new UsageException($"--colours: {map.Refusal!.Text}");
    }

    private static void Print(DrawingReport report, MendedFile? mended)
    {
        Print(report);
        if (mended is null)
            return;
        Console.Out.WriteLine($"Mended, in {mended.File}:");
        foreach (var step in mended.Steps)
            Console.Out.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  {step.Kind, -8} {step.Count} {(step.LengthMm > 0 ? $"({step.LengthMm:0.##} mm)" : "")}"
                )
            );
        foreach (var left in mended.LeftOut)
            Console.Out.WriteLine($"  Left out: {left}.");
        Print(mended.Report);
    }

    private static void Print(DrawingReport report)
    {
        var c = CultureInfo.InvariantCulture;
        Console.Out.WriteLine(
            string.Create(
                c,
                $"Page {report.WidthMm:0.##} x {report.HeightMm:0.##} mm, run about {report.Time.RunSeconds / 60:0.0} min (rough)"
            )
        );
        foreach (var s in report.Strokes)
            Console.Out.WriteLine(
                string.Create(
                    c,
                    $"  {s.Colour} {s.Operation.ToString().ToLowerInvariant(), -8} {s.LengthMm, 10:0.0} mm in {s.Paths} paths, "
                        + $"{s.OpenPaths} open"
                )
            );
        foreach (var f in report.Fills)
            Console.Out.WriteLine(string.Create(c, $"  {f.Colour} fill     {f.AreaMm2, 10:0.0} mm2"));
        foreach (var p in report.Pictures ?? [])
            Console.Out.WriteLine(
                string.Create(
                    c,
                    $"  picture of {p.Pixels} x {p.Rows} pixels, {p.WidthMm:0.#} x {p.HeightMm:0.#} mm, {p.Ppi ?? 0:0} pixels to the inch"
                )
            );
        foreach (var f in report.Findings)
            Console.Out.WriteLine($"{f.Severity.ToString().ToUpperInvariant(), -5} {f.Code}: {f.Text} {f.Why}");
        if (report.Findings.Count == 0)
            Console.Out.WriteLine("Nothing found of what was looked for.");
        Console.Out.WriteLine($"Not looked at: {string.Join("; ", report.NotLookedAt)}.");
    }
}
