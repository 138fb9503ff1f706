using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>How the machine was set up, its interlocks since, and whether anything ran on it lately.</summary>
internal static class SetUpReading
{
    /// <summary>Of what is missing so many are named: the machine’s page has all.</summary>
    private const int Named = 3;

    public static void Read(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        if (facts.Machine.SetUp is not { } setUp)
            return;
        var (name, rules) = (facts.Machine.Spec.Name, facts.Rules);
        var remedy = Remedies.MachineCommission.Says(
            $"A keeper goes through the commissioning sheet of {name}, and writes down what is shown."
        );
        if (setUp.On is not { } on)
            post.Add(Codes.MachineCommissioning, $"Nobody has written down how {name} was set up.", remedy: remedy);
        else if (rules.Clock.At(on).Date.PlusMonths(rules.CommissioningMonths) < rules.Clock.DateOf(ask.End))
            post.Add(
                Codes.MachineCommissioning,
                $"{name} was last gone through on {HouseDates.Day(on, rules)}, more than {rules.CommissioningMonths} months before.",
                remedy: remedy
            );
        else if (setUp.Missing.Count > 0)
            post.Add(Codes.MachineGaps, $"Not shown of {name}: {Few(setUp.Missing)}.", remedy: remedy);
        if (facts.Machine.CountsAsFour is { } why)
            post.Add(
                Codes.MachineInterlocks,
                why,
                remedy: setUp.ControllerShown
                    ? Remedies.InterlocksTry.Says("A trainer tries them with the lid at three heights, and writes it down under Upkeep.")
                    : remedy
            );
        if (Breaks.IsAfter(facts.Machine.UsedAt, facts.Now, rules))
            post.Add(
                Codes.MachineAfterBreak,
                $"Nothing has run on {name} since {HouseDates.Day(facts.Machine.UsedAt!.Value, rules)}: after {rules.BreakDays} days "
                    + "coolant, airflow, interlocks, duct outlet and fire kit are looked at first.",
                remedy: Remedies.BreakCheck.Says("A trainer or repairer looks at all five, and writes it down under Upkeep.")
            );
    }

    private static string Few(IReadOnlyList<string> missing) =>
        string.Join("; ", missing.Take(Named)) + (missing.Count > Named ? $"; and {missing.Count - Named} more" : "");
}
