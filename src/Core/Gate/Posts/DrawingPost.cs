using VelvetGate.Core.Drawings;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings.Jobs;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>Checked, no stop finding, fits the usable bed, uses only operations that were asked.</summary>
internal static class DrawingPost
{
    public static PostReading Read(GateQuestion ask, GateFacts facts)
    {
        var post = new PostWriter(Post.Drawing, ask.Phase);
        for (var i = 0; i < ask.Items.Count; i++)
            ReadItem(ask, facts, post, i);
        var named = facts
            .Drawings.Where(d => d is { Given: true, Drawing: { IsKnown: true, Value: not null } })
            .Select(d => d.Drawing.Value!.Name)
            .ToList();
        return post.Done(named.Count > 0 ? string.Join(", ", named) : "No drawing given");
    }

    /// <summary>All of the drawing has to lie on the sheet, this way or turned by a quarter, with an edge to hold it down.</summary>
    private static void ReadSheetSize(GateQuestion ask, SheetFacts sheet, DrawingSummary drawing, PostWriter post, int i)
    {
        if (
            drawing.Reach is not { } reach
            || sheet.Tag is not { IsKnown: true, Value: { WidthMm: > 0 and var width, HeightMm: > 0 and var height } tag }
        )
            return;
        var (w, h) = ((decimal)Math.Round(reach.Width, 3), (decimal)Math.Round(reach.Height, 3));
        if (SheetLayout.Of((w, h), (width, height), copies: 1, ask.Items[i].ThicknessMm) is not null)
            return;
        post.Add(
            Codes.DrawingOffSheet,
            $"{drawing.Name} reaches over {Say.Size(w, h, ask)}; {tag.Tag} measures {Say.Size(width, height, ask)}, and wants "
                + $"{Say.Length(SheetLayout.EdgeMm, ask)} free all round.",
            i,
            Remedies.SheetOther.Says("Take a larger sheet, or make the drawing smaller."),
            FindingKinds.SizeOffSheet
        );
    }

    /// <summary>On a rotary the thing turns: only what lies along it is bound by the bed.</summary>
    private static bool IsTooWide(DrawingSummary drawing, MachineSpec machine) =>
        drawing.Reach is { } reach && (decimal)reach.Width > machine.UsableWidthMm;

    private static void ReadItem(GateQuestion ask, GateFacts facts, PostWriter post, int i)
    {
        var given = facts.Drawings[i];
        if (!given.Given)
        {
            post.Add(
                Codes.DrawingNone,
                "No drawing was checked: frame the job, and look for lines drawn twice.",
                i,
                Remedies.DrawingCheck.Says("Put the drawing in first, under Drawings.")
            );
            return;
        }
        if (!given.Drawing.IsKnown || given.Drawing.Value is not { } drawing)
        {
            post.Add(
                Codes.DrawingUnknown,
                "That drawing is not known here.",
                i,
                Remedies.DrawingCheck.Says("Put the drawing in again, under Drawings.")
            );
            return;
        }
        var findings = DrawingFindings.Of(
            drawing,
            facts.Rules.Colours,
            facts.Machine.Spec,
            ask.ShowIn,
            ask.Items[i].ThicknessMm,
            tolerances: facts.Rules.DrawingTolerances
        );
        foreach (var finding in findings.Where(f => f.Severity == Severity.Stop && !f.Kind.OfSize))
            post.Add(
                Codes.DrawingStop,
                $"{drawing.Name}: {finding.Text}",
                i,
                Remedies.DrawingMend.Says("Mend the drawing, and put it in again."),
                finding.Kind
            );
        foreach (var finding in findings.Where(f => f.Severity == Severity.Warn))
        {
            if (finding.Asks)
                post.Add(
                    Codes.DrawingAsks,
                    $"{drawing.Name}: {finding.Text}",
                    i,
                    Remedies.DrawingShow.Says("Show it to a steward, who may let it run as it is, or mend it."),
                    finding.Kind
                );
            else
                post.Add(Codes.DrawingWarn, $"{drawing.Name}: {finding.Text}", i, finding: finding.Kind);
        }
        var rotary = ask.Fixture == Fixtures.Rotary;
        if (rotary)
            post.Add(
                Codes.DrawingRotary,
                $"{drawing.Name}: on the rotary its height has to be π times the diameter. No handles or balls; more than 2 % of taper "
                    + "needs a tilt jig and a test wrap.",
                i,
                Remedies.DrawingWrap.Says("Hold the page against the rotary calculator.")
            );
        foreach (var finding in findings.Where(f => f.Kind.OfSize && (!rotary || IsTooWide(drawing, facts.Machine.Spec))))
            post.Add(
                Codes.DrawingOffBed,
                $"{drawing.Name}: {finding.Text}",
                i,
                Remedies.MachineOther.Says("Choose a larger machine, or make the drawing smaller."),
                finding.Kind
            );
        if (!rotary)
            ReadSheetSize(ask, facts.Sheets[i], drawing, post, i);
        var extra = drawing.OperationsWith(facts.Rules.Colours).Except(ask.Items[i].Operations).ToList();
        if (extra.Count > 0)
            post.Add(
                Codes.DrawingOperations,
                $"{drawing.Name} also holds lines, fills or pictures to {string.Join(" and ", extra.Select(Say.Verb))}; the "
                    + "question does not.",
                i,
                Remedies.AskOperations.Says($"Ask for {string.Join(" and ", extra.Select(Say.Verb))} too.")
            );
    }
}
