using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.Motion;

namespace VelvetGate.Core.Gating;

/// <summary>The booking length an ask needs, from its items, its machine and the house rules.</summary>
public static class JobLength
{
    public static BookingLength Of(GateQuestion ask, GateFacts facts)
    {
        var runs = ask.Items.Select((item, i) => Planned(item, i, facts)).ToList();
        var untested = ask
            .Items.Where((item, i) => runs[i] is not null && item.Operations.Any(o => !ChosenSettings.IsTested(ask, item, o, facts)))
            .Select(item => (item.MaterialId, item.ThicknessMm))
            .Distinct()
            .Count();
        var residue = facts.Sheets.Any(s => s.HeavyResidue);
        var changeovers = ask.Items.Zip(ask.Items.Skip(1)).Count(pair => Stock(pair.First) != Stock(pair.Second));
        return BookingLength.Of(
            rules: facts.Rules,
            extractionLeadSeconds: facts.Machine.Spec.ExtractionLeadSeconds,
            runMinutes: runs,
            clearingMinutes: AirClearing.Planned(facts.Machine.Spec, facts.Rules),
            heavyResidue: residue,
            untested: untested,
            changeovers: changeovers,
            isShort: ask.Items.Count > 0 && ShortJob.Is(facts.Rules, runs, residue, untested, changeovers)
        );

        static (MaterialId, decimal) Stock(GateItem item) => (item.MaterialId, item.ThicknessMm);
    }

    /// <summary>
    /// Items of which nobody knows how long they run: neither a figure of the person's own nor a drawing that can be estimated.
    /// </summary>
    public static IEnumerable<int> UnknownRuns(GateQuestion ask, GateFacts facts) =>
        Enumerable.Range(0, ask.Items.Count).Where(i => Planned(ask.Items[i], i, facts) is null);

    /// <summary>All runs of a job, in minutes; null while the length of one is not known.</summary>
    public static decimal? AllRuns(GateQuestion ask, GateFacts facts)
    {
        var runs = ask.Items.Select((item, i) => Planned(item, i, facts)).ToList();
        return runs.Contains(null) ? null : runs.Sum();
    }

    /// <summary>The person's own figure, else the drawing's estimate on this machine; null when there is neither.</summary>
    public static decimal? Planned(GateItem item, int index, GateFacts facts)
    {
        if (item.RunMinutes is { } given)
            return given;
        var seconds = Estimate(item, index, facts, facts.Machine.Spec)?.Seconds;
        return seconds > 0 ? Math.Round((decimal)seconds / 60m, 1) : null;
    }

    /// <summary>How long the drawing of an item runs with the settings chosen for it; null without one.</summary>
    /// <param name="machine">As it is now, where a question of before is looked at again.</param>
    public static DrawingTime? Estimate(GateItem item, int index, GateFacts facts, MachineSpec machine)
    {
        if (facts.Drawings[index] is not { Given: true, Drawing: { IsKnown: true, Value: { } drawing } })
            return null;
        var settings = RunSettings.For(machine, facts.Sheets[index].CutEnergyJPerMm2, item.ThicknessMm);
        foreach (var chosen in ChosenSettings.Of(item, facts))
            settings = ChosenSettings.Into(settings, chosen);
        return RunTime.Of(drawing, facts.Rules.Colours, settings);
    }
}
