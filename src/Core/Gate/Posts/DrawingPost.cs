using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
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

    private static bool IsWanted(GateQuestion ask, GateFacts facts) =>
        facts.Rules.DrawingWanted switch
        {
            DrawingWanted.Everybody => true,
            DrawingWanted.Newcomers => !facts.Training.Certificates.IsKnown
                || facts.Training.Certificates.Value.All(c =>
                    c.Authority != ask.MachineId.Value || c.Held.Start > ask.Start - Duration.FromDays(HouseRules.NewcomerDays)
                ),
            _ => false,
        };

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

    /// <summary>A DXF has no page: its place on the sheet is chosen at the machine.</summary>
    private static void ReadPage(GateQuestion ask, SheetFacts sheet, DrawingSummary drawing, PostWriter post, int i)
    {
        if (sheet.Tag is not { IsKnown: true, Value: { WidthMm: > 0 and var width, HeightMm: > 0 and var height } tag })
            return;
        var hasPage = drawing.Format == "svg";
        var (w, h) = ((decimal)Math.Round(drawing.WidthMm, 3), (decimal)Math.Round(drawing.HeightMm, 3));
        if (hasPage && Same(w, width) && Same(h, height))
            return;
        post.Add(
            Codes.PageNotSheet,
            hasPage
                ? $"The page of {drawing.Name} is {Say.Size(w, h, ask)}; {tag.Tag} measures {Say.Size(width, height, ask)}."
                : $"{drawing.Name} has no page: a DXF file does not say where on the sheet it lies.",
            i,
            Remedies.DrawingLay.Says("Lay it on the sheet, on the drawing’s page, and ask for the drawing that comes of it.")
        );

        static bool Same(decimal page, decimal sheet) => Math.Abs(page - sheet) <= PageApartMm;
    }

    /// <summary>As near as a sheet is measured by hand. House practice.</summary>
    private const decimal PageApartMm = 1;

    /// <summary>On a rotary the thing turns: only what lies along it is bound by the bed.</summary>
    private static bool IsTooWide(DrawingSummary drawing, MachineSpec machine) =>
        drawing.Reach is { } reach && (decimal)reach.Width > machine.UsableWidthMm;

    private static void ReadItem(GateQuestion ask, GateFacts facts, PostWriter post, int i)
    {
        var rotary = ask.Fixture == Fixtures.Rotary;
        if (rotary)
            RotaryReading.AddShape(post, ask, facts.Machine.Spec, i);
        var given = facts.Drawings[i];
        if (!given.Given)
        {
            if (IsWanted(ask, facts))
                post.Add(
                    Codes.DrawingWanted,
                    facts.Rules.DrawingWanted == DrawingWanted.Everybody
                        ? "This house asks everybody for a drawing that was checked."
                        : $"This house asks whoever is new to {facts.Machine.Spec.Name} for a drawing that was checked.",
                    i,
                    Remedies.DrawingCheck.Says("Put the drawing in first, under Drawings.")
                );
            else
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
        if (rotary)
            RotaryReading.AddPage(post, ask, drawing, i);
        foreach (var finding in findings.Where(f => f.Kind.OfSize && (!rotary || IsTooWide(drawing, facts.Machine.Spec))))
            post.Add(
                Codes.DrawingOffBed,
                $"{drawing.Name}: {finding.Text}",
                i,
                Remedies.MachineOther.Says("Choose a larger machine, or make the drawing smaller."),
                finding.Kind
            );
        if (!rotary)
        {
            ReadSheetSize(ask, facts.Sheets[i], drawing, post, i);
            if (facts.Rules.PageIsSheet)
                ReadPage(ask, facts.Sheets[i], drawing, post, i);
        }
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
