using VelvetGate.Core.Bench;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Run;

namespace VelvetGate.Core.Gating;

/// <summary>The booking length an ask needs, from its items, its machine and the house rules.</summary>
public static class JobLength
{
    public static BookingLength Of(Ask ask, GateFacts facts)
    {
        var runs = ask.Items.Select((item, i) => RunMinutes(item, i, facts)).ToList();
        var clearing = AirClearing.Used(facts.Machine.Spec, facts.Rules) ?? facts.Rules.AirClearingFloorSeconds;
        var untested = ask.Items
            .Where((item, i) => runs[i] is not null && !Tested(item, facts))
            .Select(item => (item.MaterialId, item.ThicknessMm)).Distinct().Count();
        return BookingLength.Of(
            facts.Rules,
            facts.Machine.Spec.ExtractionLeadSeconds,
            runs,
            Math.Round((decimal)clearing / 60m, 2),
            facts.Sheets.Any(s => s.HeavyResidue),
            untested);
    }

    /// <summary>The person's own figure, else the drawing's estimate on this machine; null when there is neither.</summary>
    private static decimal? RunMinutes(AskItem item, int index, GateFacts facts)
    {
        if (item.RunMinutes is { } given) return given;
        if (facts.Drawings[index] is not { Given: true, Drawing: { IsKnown: true, Value: { } drawing } }) return null;
        var settings = StartingSettings.For(facts.Machine.Spec, facts.Sheets[index].CutEnergyJPerMm2, item.ThicknessMm);
        return Math.Round((decimal)RunTime.Seconds(drawing.WorkWith(facts.Rules.Colours), settings) / 60m, 1);
    }

    private static bool Tested(AskItem item, GateFacts facts) =>
        facts.Machine.Tested.Any(t => t.MaterialId == item.MaterialId && Math.Abs(t.ThicknessMm - item.ThicknessMm) <= 0.3m);
}
