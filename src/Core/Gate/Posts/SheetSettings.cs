using VelvetGate.Core.Settings;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>What the post of the sheet says of the settings chosen for it.</summary>
internal static class SheetSettings
{
    public static void Read(GateQuestion ask, GateFacts facts, PostWriter post, int i)
    {
        var item = ask.Items[i];
        if (ChosenSettings.Unknown(item, facts).Any())
            post.Add(Codes.SettingsUnknown, "A setting that was chosen is not in the library.", i, Other(ask));
        foreach (var chosen in ChosenSettings.Of(item, facts))
        {
            if (ChosenSettings.NotFor(chosen, ask, item, facts.Machine.Spec.Name) is { } why)
                post.Add(Codes.SettingsUnknown, $"{Setting.Name(chosen.Number)} {why}.", i, Other(ask));
            else
                ReadOne(ask, facts, post, i, chosen);
        }
        ReadUntested(ask, facts, post, i);
    }

    private static void ReadOne(GateQuestion ask, GateFacts facts, PostWriter post, int i, SettingFacts chosen)
    {
        var item = ask.Items[i];
        var name = Setting.Name(chosen.Number);
        if (chosen.Flames > 0)
            post.Add(Codes.SettingsFlame, $"A flame stayed with {name} before.", i, Other(ask));
        if (ChosenSettings.Match(chosen, ask, item, facts) is not { Code: { } code } match)
            return;
        var rule = Codes.Of(code);
        var says = match.Says;
        // The test piece is what clears it; it stays more energy than the sheet needs.
        if (rule == Codes.SettingsHot && ChosenSettings.IsProved(chosen, ask, item))
            (rule, says) = (Codes.SettingsWarm, "A test piece on this sheet came out clean with it: hand at the stop all the same.");
        post.Add(
            rule,
            $"{name} is for {Say.Length(chosen.ThicknessMm, ask)}, the sheet measures {Say.Length(item.ThicknessMm, ask)}: "
                + $"{SettingsMatch.Show(match.Ratio)} times the energy. {says}",
            i,
            rule.Remedies.Count == 0 ? null
                : rule == Codes.SettingsHot ? Remedies.SettingsTest.Says("Cut a test piece on this sheet, or take another setting.")
                : Other(ask)
        );
    }

    private static void ReadUntested(GateQuestion ask, GateFacts facts, PostWriter post, int i)
    {
        var item = ask.Items[i];
        var untested = item.Operations.Distinct().Where(o => !ChosenSettings.IsTested(ask, item, o, facts)).ToList();
        // What cannot run anyhow needs no test piece.
        if (untested.Count == 0 || post.IsShut(i))
            return;
        var before = untested.Where(o => ChosenSettings.WasTested(ask, item, o, facts)).ToList();
        if (before.Count > 0)
            post.Add(
                Codes.SettingsAfterService,
                $"The results to {string.Join(" or ", before.Select(Say.Verb))} {facts.Sheets[i].MaterialName} of about "
                    + $"{Say.Length(item.ThicknessMm, ask)} are of before the service of "
                    + $"{facts.Machine.Spec.Name}: a test piece comes first again.",
                i,
                Remedies.SettingsTest.Says("Cut a test piece first; the time for it is booked with the job.")
            );
        untested.RemoveAll(before.Contains);
        if (untested.Count == 0)
            return;
        post.Add(
            Codes.SettingsUntested,
            $"Nobody has a clean result to {string.Join(" or ", untested.Select(Say.Verb))} {facts.Sheets[i].MaterialName} of about "
                + $"{Say.Length(item.ThicknessMm, ask)} on {facts.Machine.Spec.Name}"
                + $"{(item.SettingIds is { Count: > 0 } ? " with this setting" : "")}: a test piece comes first.",
            i,
            Remedies.SettingsTest.Says("Cut a test piece first; the time for it is booked with the job.")
        );
    }

    private static Remedy Other(GateQuestion ask) =>
        Remedies.SettingsOther.Says(ask.Phase == Phase.AtMachine ? "Set the machine to another entry." : "Choose another setting.");
}
