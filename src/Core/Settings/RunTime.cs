using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Settings;

/// <summary>Speeds a job starts from. Speeds in mm/s, acceleration in mm/s2, pitch in mm.</summary>
public sealed record StartingSettings(
    double CutMmS,
    double ScoreMmS,
    double EngraveMmS,
    double EngravePitchMm,
    int Passes,
    double AccelerationMmS2,
    double TravelMmS
)
{
    /// <summary>Part of the rated power that is taken to reach the sheet.</summary>
    private const double Delivered = 0.8;

    /// <summary>Slowest sensible cut: below it several passes are made instead of one slow one.</summary>
    private const double SlowestMmS = 5;

    /// <summary>A first guess from line energy: v = P / (e · t). Always start with a test piece.</summary>
    /// <param name="energyJPerMm2">Energy to cut, J per mm of path and mm of thickness: from memory, rough.</param>
    public static StartingSettings For(MachineSpec machine, decimal energyJPerMm2, decimal thicknessMm)
    {
        var top = (double)machine.TopSpeedMmS;
        var oneMm = Delivered * (double)machine.PowerW / (double)energyJPerMm2;
        var single = oneMm / Math.Max(0.1, (double)thicknessMm);
        var passes = single >= SlowestMmS ? 1 : (int)Math.Ceiling(SlowestMmS / single);
        return new StartingSettings(
            CutMmS: Math.Min(single * passes, top * 0.5),
            ScoreMmS: Math.Min(oneMm * 2, top * 0.6),
            EngraveMmS: Math.Min(400, top),
            EngravePitchMm: 0.1,
            Passes: passes,
            AccelerationMmS2: (double)machine.AccelerationMmS2,
            TravelMmS: top
        );
    }
}

/// <summary>How long a drawing runs. Rough: the head is taken to stop at each sharp corner and to keep its speed along curves.</summary>
public static class RunTime
{
    /// <summary>Seconds of beam and travel: engrave, then score, then cut.</summary>
    public static double Seconds(DrawingWork work, StartingSettings settings)
    {
        var total = Raster(work, settings);
        foreach (var stroke in work.Strokes)
        {
            total += work.Colours.Of(stroke.Colour) switch
            {
                StrokeMeaning.Cut => settings.Passes * Trace(stroke, settings.CutMmS, settings),
                StrokeMeaning.Score => Trace(stroke, settings.ScoreMmS, settings),
                _ => 0,
            };
        }
        return total;
    }

    /// <summary>Seconds to cover a distance from rest to rest: a trapezoid of speed, or a triangle when it is short.</summary>
    public static double Move(double mm, double speedMmS, double accelerationMmS2) =>
        mm <= 0 ? 0
        : mm >= speedMmS * speedMmS / accelerationMmS2 ? mm / speedMmS + speedMmS / accelerationMmS2
        : 2 * Math.Sqrt(mm / accelerationMmS2);

    private static double Trace(StrokeWork stroke, double speed, StartingSettings settings)
    {
        var along = stroke.Moves.Sum(m => m.Count * Move(m.TotalMm / m.Count, speed, settings.AccelerationMmS2));
        var hops = Math.Max(0, stroke.Paths - 1);
        return along + (hops == 0 ? 0 : hops * Move(stroke.TravelMm / hops, settings.TravelMmS, settings.AccelerationMmS2));
    }

    /// <summary>
    /// Lines over the box of all that is engraved: each its width at speed, and a turn-round from speed to rest and back.
    /// </summary>
    private static double Raster(DrawingWork work, StartingSettings settings)
    {
        var box = new Box();
        foreach (
            var engraved in work.Engraved.Concat(
                work.Strokes.Where(s => work.Colours.Of(s.Colour) == StrokeMeaning.Engrave).Select(s => s.Box)
            )
        )
        {
            box.Add(new Point(engraved.MinX, engraved.MinY));
            box.Add(new Point(engraved.MaxX, engraved.MaxY));
        }
        if (box.IsEmpty)
            return 0;
        var lines = Math.Max(1, Math.Ceiling(box.Height / settings.EngravePitchMm));
        return lines * (box.Width / settings.EngraveMmS + 2 * settings.EngraveMmS / settings.AccelerationMmS2);
    }
}
