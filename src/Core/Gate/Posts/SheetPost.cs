using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>Ruling for material x laser x operation x thickness; look-alike proof; the sheet's tag.</summary>
internal static class SheetPost
{
    public static PostReading Read(GateQuestion ask, GateFacts facts)
    {
        var post = new PostWriter(Post.Sheet, ask.Phase);
        for (var i = 0; i < ask.Items.Count; i++)
        {
            var sheet = facts.Sheets[i];
            if (!sheet.Rulings.IsKnown || !sheet.Tag.IsKnown)
            {
                post.Add(
                    Codes.SheetUnknown,
                    "The rulings or the sheet are not known.",
                    i,
                    Remedies.HouseLook.Says("Look again, or ask a steward.")
                );
                continue;
            }
            if (sheet.UnderReview?.FirstOrDefault(h => h.Held.Overlaps(ask.Start, ask.End)) is { } review)
                post.Add(
                    Codes.MaterialIncident,
                    $"What this house says of {sheet.MaterialName} is looked at again after incident {review.Number}.",
                    i,
                    Remedies.IncidentEnd.Says("A steward looks at ruling and settings, then ends the hold.")
                );
            var cleared = ReadTag(ask, facts, post, i);
            foreach (var operation in ask.Items[i].Operations.Distinct())
                ReadOperation(ask, facts, post, i, operation, cleared);
            SheetSettings.Read(ask, facts, post, i);
        }
        return post.Done(FactOf(ask, facts));
    }

    /// <returns>True when a tag clears this sheet for the machine and operations over the whole time.</returns>
    private static bool ReadTag(GateQuestion ask, GateFacts facts, PostWriter post, int i)
    {
        var item = ask.Items[i];
        if (item.SheetTag is not { } number)
            return false;
        if (facts.Sheets[i].Tag.Value is not { } tag)
        {
            post.Add(Codes.SheetUnknown, $"There is no sheet {number}.", i, Remedies.SheetTag.Says("Check the number on the tag."));
            return false;
        }
        var incidents = tag.IncidentHolds ?? [];
        if (incidents.FirstOrDefault(h => h.Held.Overlaps(ask.Start, ask.End)) is { } incident)
            post.Add(
                Codes.SheetIncident,
                $"{tag.Tag} is held after incident {incident.Number}.",
                i,
                Remedies.SheetOther.Says("Take another sheet and leave this one where it is.")
            );
        if (tag.Quarantined.Any(q => q.Overlaps(ask.Start, ask.End) && incidents.All(h => h.Held != q)))
            post.Add(
                Codes.SheetQuarantined,
                $"{tag.Tag} is in quarantine.",
                i,
                Remedies.SheetOther.Says("Take another sheet and leave this one.")
            );
        if (tag.MaterialId != item.MaterialId)
            post.Add(
                Codes.SheetWrong,
                $"{tag.Tag} is {tag.MaterialName}, not {facts.Sheets[i].MaterialName}.",
                i,
                Remedies.SheetTag.Says($"Ask for {tag.MaterialName}, or take the right sheet.")
            );
        else if (!SheetThickness.IsOf(tag.ThicknessMm, item.ThicknessMm))
            post.Add(
                Codes.SheetWrong,
                $"{tag.Tag} measures {Say.Length(tag.ThicknessMm, ask)}, not {Say.Length(item.ThicknessMm, ask)}.",
                i,
                Remedies.SheetTag.Says("Measure the sheet again.")
            );
        var cleared = Span.Cover(tag.Cleared.Where(c => Serves(c, ask, item)).Select(c => c.Held), ask.Start, ask.End);
        if (!cleared)
            post.Add(
                Codes.SheetNotCleared,
                $"{tag.Tag} is not cleared for this machine and work over the whole time.",
                i,
                Remedies.SheetClear.Says("A steward clears the sheet on its evidence.")
            );
        return cleared && tag.MaterialId == item.MaterialId;
    }

    private static bool Serves(ClearanceFacts clearance, GateQuestion ask, GateItem item) =>
        item.Operations.All(clearance.Operations.Contains)
        && (clearance.MachineIds.Count == 0 || clearance.MachineIds.Contains(ask.MachineId));

    private static void ReadOperation(GateQuestion ask, GateFacts facts, PostWriter post, int i, Operation operation, bool cleared)
    {
        var item = ask.Items[i];
        var name = facts.Sheets[i].MaterialName;
        var machine = facts.Machine.Spec;
        var verb = Say.Verb(operation);
        // A ruling that changes during the time asked counts with each of its versions: the strictest governs.
        var held = facts
            .Sheets[i]
            .Rulings.Value.Where(r => r.Ruling.Operation == operation && r.Held.Overlaps(ask.Start, ask.End))
            .ToList();
        var covering = held.Where(r => r.Ruling.Covers(item.ThicknessMm)).ToList();
        if (covering.Count == 0 || !Span.Cover(covering.Select(c => c.Held), ask.Start, ask.End))
        {
            if (held.Count == 0 || covering.Count > 0)
                post.Add(
                    Codes.MaterialNoRuling,
                    $"No ruling says {name} may be {Past(operation)} with this kind of laser.",
                    i,
                    Remedies.MaterialRequest.Says("Ask the stewards for a ruling.")
                );
            else
                post.Add(
                    Codes.MaterialTooThick,
                    $"{name} is ruled to {Say.Limit(held.Max(h => h.Ruling.MaxMm ?? 0), ask)}; this is "
                        + $"{Say.Length(item.ThicknessMm, ask)}.",
                    i,
                    Remedies.SheetThinner.Says("Take a thinner sheet.")
                );
        }
        foreach (var ruling in covering.Select(c => c.Ruling).DistinctBy(r => r.Standing))
            ReadStanding(post, i, ruling, name, verb, machine, cleared);
        ReadLimits(ask, post, i, operation, machine);
        if (covering.All(c => c.Ruling.Standing is RulingStatus.Permitted or RulingStatus.ByArrangement) && covering.Count > 0)
            ReadEvidence(post, i, item, covering[0].Ruling, facts.Sheets[i], machine, cleared);
    }

    private static void ReadStanding(PostWriter post, int i, Ruling ruling, string name, string verb, MachineSpec machine, bool cleared)
    {
        switch (ruling.Standing)
        {
            case RulingStatus.Never:
                post.Add(Codes.MaterialNever, $"{name} is never allowed. {ruling.Hazard}", i);
                break;
            case RulingStatus.Banned:
                post.Add(
                    Codes.MaterialBanned,
                    $"{name} is banned here. {ruling.Hazard}",
                    i,
                    Remedies.MaterialOther.Says("Choose another material.")
                );
                break;
            case RulingStatus.Cannot:
                post.Add(
                    Codes.MaterialCannot,
                    $"{machine.Name} cannot {verb} {name}.",
                    i,
                    Remedies.MachineOther.Says("Choose another machine or operation.")
                );
                break;
            case RulingStatus.ByArrangement when !cleared:
                post.Add(
                    Codes.MaterialByArrangement,
                    $"{name} is by arrangement: a steward clears each sheet. {ruling.Hazard}",
                    i,
                    Remedies.SheetClear.Says("Bring the sheet and its papers to a steward.")
                );
                break;
        }
    }

    private static void ReadLimits(GateQuestion ask, PostWriter post, int i, Operation operation, MachineSpec machine)
    {
        var item = ask.Items[i];
        if (operation == Operation.Cut && machine.MaxCutMm <= 0)
            post.Add(
                Codes.MaterialCannot,
                $"{machine.Name} marks, it does not cut.",
                i,
                Remedies.MachineOther.Says("Choose another machine.")
            );
        else if (operation == Operation.Cut && item.ThicknessMm > machine.MaxCutMm)
            post.Add(
                Codes.MaterialTooThick,
                $"{machine.Name} cuts to {Say.Limit(machine.MaxCutMm, ask)}; this is {Say.Length(item.ThicknessMm, ask)}.",
                i,
                Remedies.SheetThinner.Says("Take a thinner sheet or a stronger machine.")
            );
        else if (item.ThicknessMm > machine.MaxHeightMm)
            post.Add(
                Codes.MaterialTooThick,
                $"Only {Say.Limit(machine.MaxHeightMm, ask)} fits under the head of {machine.Name}.",
                i,
                Remedies.MachineOther.Says("Choose another machine.")
            );
    }

    private static void ReadEvidence(
        PostWriter post,
        int i,
        GateItem item,
        Ruling ruling,
        SheetFacts sheet,
        MachineSpec machine,
        bool cleared
    )
    {
        if (ruling.FilteredNeedsArrangement && machine.Extraction == Extraction.Filtered && !cleared)
            post.Add(
                Codes.MaterialExtraction,
                $"{machine.Name} only filters, and {sheet.MaterialName} loads the filter.",
                i,
                Remedies.MachineOther.Says("Choose a ducted machine, or have the sheet cleared.")
            );
        if (item.SheetTag is not null)
            return;
        if (ruling.Evidence == Evidence.ClearedTag)
        {
            var twins = sheet.TwinNames.Count > 0 ? $" By eye it could be {string.Join(" or ", sheet.TwinNames.Take(3))}." : "";
            post.Add(
                Codes.SheetUntagged,
                $"{sheet.MaterialName} needs the tag of a cleared sheet.{twins}",
                i,
                Remedies.SheetClear.Says("Give the tag, or have the sheet cleared.")
            );
        }
        else if (ruling.Evidence == Evidence.Declared)
        {
            post.Add(Codes.MaterialDeclared, $"State where the {sheet.MaterialName} comes from, and look at a fresh edge.", i);
        }
    }

    private static string Past(Operation operation) =>
        operation switch
        {
            Operation.Cut => "cut",
            Operation.Score => "scored",
            _ => "engraved",
        };

    private static string FactOf(GateQuestion ask, GateFacts facts)
    {
        var item = ask.Items[0];
        var tag = item.SheetTag is { } number ? $"{number}, " : "";
        var more = ask.Items.Count > 1 ? $", and {ask.Items.Count - 1} more" : "";
        return $"{tag}{facts.Sheets[0].MaterialName} {Say.Length(item.ThicknessMm, ask)}{more}";
    }
}
