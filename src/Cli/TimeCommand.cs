using System.Globalization;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings.Motion;

namespace VelvetGate.Cli;

/// <summary>How long a drawing runs on a machine that moves so, without a database or a server.</summary>
internal static class TimeCommand
{
    private const string Usage =
        "vg time FILE --speed 20 --accel 3000 --corner 0 [--rapid 300] [--engrave 400] [--score 40] [--pitch 0.1] [--passes 1] "
        + "[--machine ID] [--colours MAP] [--json]";

    public static int Run(string[] args)
    {
        try
        {
            return Work(
                Options.Parse(
                    args,
                    ["--speed", "--accel", "--corner", "--rapid", "--engrave", "--score", "--pitch", "--passes", "--machine", "--colours"],
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

    private static int Work(Options options)
    {
        if (options.Plain is not [var file])
            throw new UsageException(Usage);
        var machine = CheckCommand.Machine(options);
        var drawing = CheckCommand.Read(file);
        var summary = DrawingReading.Summarise(Path.GetFileName(file), drawing);
        // Without a map of its own a line is a cut: that is what a speed is asked for.
        var colours = options["--colours"] is null
            ? new ColourMap(summary.Strokes.ToDictionary(s => s.Colour, _ => StrokeMeaning.Cut))
            : CheckCommand.Colours(options, summary);
        var cut = SpeedOf(options, "--speed") ?? throw new UsageException($"--speed is needed: {Usage}");
        var rapid = SpeedOf(options, "--rapid") ?? (double)machine.TopSpeedMmS;
        var time = DrawingTime.Of(
            drawing,
            colours,
            new RunSettings(
                CutMmS: cut,
                ScoreMmS: SpeedOf(options, "--score") ?? cut,
                EngraveMmS: SpeedOf(options, "--engrave") ?? Math.Min(RunSettings.UsualEngraveMmS, (double)machine.TopSpeedMmS),
                PitchMm: Number(options, "--pitch", 0.01, 10) ?? RunSettings.UsualPitchMm,
                Passes: (int)(Number(options, "--passes", 1, 100) ?? 1),
                AccelerationMmS2: Number(options, "--accel", 1, 100_000) ?? (double)machine.AccelerationMmS2,
                CornerMmS: Number(options, "--corner", 0, 10_000) ?? 0,
                RapidMmS: rapid
            )
        );
        if (options.Has("--json"))
            Console.WriteLine(
                GateJson.Write(
                    new
                    {
                        seconds = Math.Round(time.Seconds, 3),
                        low = Math.Round(time.Low, 3),
                        high = Math.Round(time.High, 3),
                        byOperation = new
                        {
                            cut = Math.Round(time.ByOperation.Cut, 3),
                            score = Math.Round(time.ByOperation.Score, 3),
                            engrave = Math.Round(time.ByOperation.Engrave, 3),
                            travel = Math.Round(time.ByOperation.Travel, 3),
                        },
                    }
                )
            );
        else
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{time.Seconds:0.0} s, between {time.Low:0} and {time.High:0}: cut {time.ByOperation.Cut:0.0}, "
                        + $"score {time.ByOperation.Score:0.0}, "
                        + $"engrave {time.ByOperation.Engrave:0.0}, travel {time.ByOperation.Travel:0.0}"
                )
            );
        return 0;
    }

    private static double? SpeedOf(Options options, string name)
    {
        if (options[name] is not { } text)
            return null;
        var speed = Speed.Parse(text);
        return speed.Refusal is { } refusal ? throw new UsageException($"{name}: {refusal.Text}") : (double)speed.Value;
    }

    private static double? Number(Options options, string name, double least, double most)
    {
        if (options[name] is not { } text)
            return null;
        return
            double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var value)
            && value >= least
            && value <= most
            ? value
            : throw new UsageException(string.Create(CultureInfo.InvariantCulture, $"{name}: write a number from {least} to {most}."));
    }
}
