namespace VelvetGate.Core.Settings.Calculators;

/// <summary>The picture of each case, to its own scale.</summary>
public static partial class CalculatorList
{
    private const double Mid = CalcPicture.Width / 2;

    private static CalcPicture Sheets(decimal given, decimal sheet, CalcInputs i)
    {
        var scale = 110 / (double)Math.Max(given, sheet);
        var (a, b) = ((double)given * scale, (double)sheet * scale);
        return new Sketch($"A sheet of {i.Mm(given)} beside one of {i.Mm(sheet)}, to scale.")
            .Box(Pen.Cut, 50, 150 - a, 90, a)
            .Text(95, 168, "settings for")
            .Text(95, 142 - a, i.Mm(given))
            .Box(Pen.Part, 210, 150 - b, 90, b)
            .Text(255, 168, "this sheet")
            .Text(255, 142 - b, i.Mm(sheet))
            .Done();
    }

    private static CalcPicture EnergyLine(decimal energy)
    {
        // A line whose width grows with its energy, up to 10 J/mm.
        var half = 3 + 30 * Math.Min(1, (double)energy / 10);
        return new Sketch($"A line that gets {N(energy)} joules for each millimetre.")
            .Line(Pen.Part, (30, 90), (330, 90))
            .Box(Pen.Cut, 30, 90 - half, 220, 2 * half)
            .Text(140, 82 - half, $"{N(energy)} J/mm")
            .Across(30, 60, 150, "1 mm")
            .Done();
    }

    private static CalcPicture Tumbler(decimal height, decimal one, decimal two, decimal around, CalcInputs i)
    {
        var scale = Math.Min(130 / (double)Math.Max(Math.Max(height, around), Math.Max(one, two)), 85 / (double)height);
        var (h, a, b, p) = ((double)height * scale, (double)one * scale, (double)two * scale, (double)around * scale);
        return new Sketch($"{i.Mm(height)} high, and its page of {i.Mm(height)} x {i.Mm(around)}.")
            .Line(Pen.Part, (90 - a / 2, 150), (90 - b / 2, 150 - h), (90 + b / 2, 150 - h), (90 + a / 2, 150), (90 - a / 2, 150))
            .Up(90 + Math.Max(a, b) / 2 + 8, 150 - h, 150, "")
            .Text(90, 168, i.Mm(one))
            .Text(90, 142 - h, two == one ? "" : i.Mm(two))
            .Box(Pen.Cut, 180, 150 - p, h, p)
            .Text(180 + h / 2, 168, i.Mm(height))
            .Up(180 + h + 8, 150 - p, 150, i.Mm(around))
            .Done();
    }

    private static CalcPicture Comb(decimal nominal, decimal kerf, CalcInputs i)
    {
        // The kerf is drawn five times as wide as it is, so that it is seen.
        const double Part = 52;
        var gap = Math.Min(18, Math.Max(3, Part * (double)(kerf / nominal) * 5));
        var sketch = new Sketch($"Parts of a comb with a kerf of {i.Mm(kerf)} between them; the kerf is drawn wider than it is.");
        for (var n = 0; n < 5; n++)
            sketch.Box(Pen.Part, 30 + n * Part + gap / 2, 50, Part - gap, 70);
        for (var n = 0; n <= 5; n++)
            sketch.Line(Pen.Cut, (30 + n * Part, 44), (30 + n * Part, 126));
        return sketch.Across(30, 30 + Part, 38, i.Mm(nominal)).Text(30 + 2 * Part, 146, $"kerf {i.Mm(kerf)}").Done();
    }

    private static CalcPicture SlotAcross(decimal sheet, decimal drawn, CalcInputs i)
    {
        var (s, d) = (70.0, 70.0 * (double)(drawn / sheet));
        return new Sketch($"A slot drawn {i.Mm(drawn)} wide, cut to {i.Mm(sheet)}.")
            .Line(Pen.Part, (30, 110), (Mid - s / 2, 110), (Mid - s / 2, 50), (Mid - s / 2, 110))
            .Line(Pen.Part, (330, 110), (Mid + s / 2, 110), (Mid + s / 2, 50))
            .Line(Pen.Cut, (Mid - d / 2, 50), (Mid - d / 2, 110), (Mid + d / 2, 110), (Mid + d / 2, 50))
            .Across(Mid - s / 2, Mid + s / 2, 38, $"sheet {i.Mm(sheet)}")
            .Text(Mid, 136, $"drawn {i.Mm(drawn)}")
            .Done();
    }

    private static CalcPicture Arc(double radius, double width, double sag, CalcInputs i)
    {
        var half = Math.Asin(Math.Min(1, width / 2 / radius));
        var scale = 260 / width;
        // A flat arc is drawn steeper than it is, so that it is seen.
        var tall = Math.Min(90, Math.Max(24, sag * scale));
        return new Sketch($"An arc over {i.Mm((decimal)width)} that rises {i.Mm((decimal)sag)}; focus at half its height.")
            .Curve(Pen.Part, -half, half, t =>
                (Mid + radius * Math.Sin(t) * scale, 140 - tall * (1 - (1 - Math.Cos(t)) / Math.Max(1e-12, 1 - Math.Cos(half))))
            )
            .Line(Pen.Cut, (40, 140 - tall / 2), (320, 140 - tall / 2))
            .Across(50, 310, 164, i.Mm((decimal)width))
            .Up(326, 140 - tall, 140, "")
            .Text(Mid, 140 - tall - 8, $"sag {i.Mm((decimal)sag)}")
            .Done();
    }

    private static CalcPicture Waist(FocusedBeam beam, double defocus, CalcInputs i)
    {
        var reach = Math.Max(2.5 * beam.RayleighMm, 1.3 * defocus);
        double X(double z) => Mid + z / reach * 150;
        double Half(double z) => 60 * beam.At(z) / beam.At(reach);
        var sketch = new Sketch($"A beam with a waist of {N(beam.SpotMm)} mm.")
            .Curve(Pen.Part, -reach, reach, z => (X(z), 90 - Half(z)))
            .Curve(Pen.Part, -reach, reach, z => (X(z), 90 + Half(z)))
            .Line(Pen.Measure, (Mid, 90 - Half(0)), (Mid, 90 + Half(0)))
            .Text(Mid, 168, $"spot {i.Mm((decimal)beam.SpotMm)}");
        return defocus > 0
            ? sketch
                .Line(Pen.Cut, (X(defocus), 90 - Half(defocus)), (X(defocus), 90 + Half(defocus)))
                .Text(X(defocus), 22, i.Mm((decimal)beam.At(defocus)))
                .Done()
            : sketch.Done();
    }

    private static CalcPicture Rows(CalcInputs i)
    {
        var sketch = new Sketch("Rows of slots, each other row moved by half a slot.").Box(Pen.Part, 40, 30, 280, 110);
        var step = Math.Clamp(280.0 * (double)((i["web"] + i["gap"]) / (i["slot"] * 2)), 6, 40);
        for (var (x, n) = (40 + step, 0); x < 318; x += step, n++)
        {
            if (n % 2 == 0)
                sketch.Line(Pen.Cut, (x, 40), (x, 130));
            else
                sketch.Line(Pen.Cut, (x, 30), (x, 80)).Line(Pen.Cut, (x, 90), (x, 140));
        }
        return sketch.Text(Mid, 164, $"web {i.Mm(i["web"])}, slot {i.Mm(i["slot"])}").Done();
    }

    private static CalcPicture Decay(double seconds, double wait, double residual)
    {
        double X(double t) => 40 + t / (wait * 1.1) * 290;
        return new Sketch($"Fume left in the box over time: {N(seconds, "0")} seconds to the part that may be left.")
            .Line(Pen.Measure, (40, 20), (40, 140), (335, 140))
            .Curve(Pen.Part, 0, wait * 1.1, t => (X(t), 140 - 115 * Math.Pow(residual, t / seconds)))
            .Line(Pen.Cut, (X(wait), 30), (X(wait), 140))
            .Text(X(wait), 24, "lid opens")
            .Text(X(wait), 158, $"{N(wait, "0")} s")
            .Text(46, 18, "fume", "start")
            .Done();
    }

    private static CalcPicture Glasses(double od)
    {
        // The beam before and behind, by powers of ten, to at most eight.
        var part = Math.Min(8, od) / 8;
        return new Sketch($"A pair of lenses that lets one part in ten to the power of {N(od, "0.0")} through.")
            .Box(Pen.Part, 170, 30, 20, 110)
            .Box(Pen.Cut, 30, 40, 140, 90)
            .Box(Pen.Cut, 190, 85 - 45 * (1 - part), 140, 90 * (1 - part))
            .Text(100, 158, "1")
            .Text(260, 158, $"1 in 10^{N(od, "0.0")}")
            .Done();
    }
}
