using System.Text;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Svg;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.Jobs;
using VelvetGate.Core.Settings.Motion;
using VelvetGate.Store.Drawings;

namespace VelvetGate.Store.Demo;

/// <summary>Small boxes that members ran on Heron, so that its estimates have runs to be held against.</summary>
public sealed partial class DemoSeed
{
    private const string BoxMachine = "heron";
    private const string BoxMaterial = "birch-ply-laser";
    private const decimal BoxMm = 3;

    /// <summary>Bookings with a box, and how long it really ran, by the booking.</summary>
    private readonly Dictionary<Guid, Duration> _boxes = [];

    /// <returns>
    /// The person’s drawing of a box; null for other sheets, and for those who sign in: their benches stay as they left them.
    /// </returns>
    private async Task<Guid?> BoxFor(Guid booking, string person, string machine, (string Material, decimal Mm) sheet, Instant made)
    {
        if (
            machine != BoxMachine
            || sheet != (BoxMaterial, BoxMm)
            || Enumerable.Range(0, 8).Any(i => Id(i) == person)
            || _boxes.Count >= 24
        )
            return null;
        var spec = DemoHouse.Machines.Single(m => m.Id == machine);
        var odd = booking.ToByteArray()[0];
        var wish = new BoxWish(
            WidthMm: 60 + 10 * (odd % 5),
            DepthMm: 50,
            HeightMm: 40,
            Inside: true,
            Lid: odd % 2 == 0,
            ThicknessMm: BoxMm,
            KerfMm: spec.KerfMm,
            FingerMm: 9,
            PlayMm: 0
        );
        if (BoxMaker.InColourOf(wish, _rules.Colours) is not { Refusal: null, Value: var drawn })
            return null;
        var name = $"box {wish.WidthMm:0} x {wish.DepthMm:0} x {wish.HeightMm:0} mm.svg";
        var bytes = Encoding.UTF8.GetBytes(SvgWriter.Write(drawn));
        var summary = DrawingReading.Summarise(name, DrawingFile.Read(new MemoryStream(bytes)), default);
        var kept = await new DrawingStore(db).Add(person, name, bytes, "image/svg+xml", summary, made, default);
        if (kept.Refusal is not null)
            return null;
        var estimate = RunTime.Of(
            summary,
            _rules.Colours,
            RunSettings.For(spec, Core.Materials.MaterialTable.Find(BoxMaterial)!.CutEnergyJPerMm2, BoxMm)
        );
        // This machine is slower than its form says, and no two runs are alike.
        _boxes[booking] = Duration.FromSeconds(Math.Round(estimate.Seconds * (1.12 + odd % 9 * 0.02)));
        return kept.Value.Id;
    }
}
