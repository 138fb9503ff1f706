using System.Text.Json.Serialization;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;

namespace VelvetGate.Core.Gating;

/// <summary>What a stretch of a booking is for, in the order of the work.</summary>
public enum PartKind
{
    Checks,
    ExtractionLead,
    TestPiece,
    Run,
    Changeover,
    Clearing,
    CleanDown,
    Spare,
}

/// <summary>One part of a booking, in minutes.</summary>
/// <param name="Says">What it is made of, where minutes alone say too little: “2 x 35 s”; null elsewhere.</param>
public sealed record BookingPart([property: JsonPropertyName("part")] PartKind Part, decimal Minutes, string? Says = null);

/// <summary>The least time a job needs at the machine.</summary>
/// <param name="Parts">In the order of the work, without spare time.</param>
/// <param name="NeededMinutes">Their sum.</param>
/// <param name="SlotMinutes">The sum rounded up to whole slots: what to book.</param>
public sealed record BookingLength(IReadOnlyList<BookingPart> Parts, decimal NeededMinutes, int SlotMinutes)
{
    /// <summary>
    /// checks + lead + factor x (run + clearing + reload) + clean-down + changeovers + test piece, rounded up to the slot.
    /// </summary>
    /// <param name="runMinutes">Estimated run of each item; null where nothing is known of it yet, which then counts only the fixed
    /// parts.</param>
    /// <param name="clearingMinutes">Air clearing after each run.</param>
    /// <param name="heavyResidue">True when any item leaves residue: the longer clean-down.</param>
    /// <param name="untested">Items whose combination of machine, material and thickness has no test result.</param>
    /// <param name="changeovers">How often another material or thickness follows.</param>
    /// <param name="isShort">A short job: see <see cref="ShortJob"/>.</param>
    /// <remarks>
    /// Source: common practice (book twice the run); figures are house rules. Worked example: run 18, clearing 1 → 65.5 → 75 min.
    /// </remarks>
    public static BookingLength Of(
        HouseRules rules,
        int extractionLeadSeconds,
        IReadOnlyList<decimal?> runMinutes,
        decimal clearingMinutes,
        bool heavyResidue,
        int untested,
        int changeovers,
        bool isShort = false
    )
    {
        var known = runMinutes.Where(r => r is not null).Select(r => r!.Value).ToList();
        var parts = new List<BookingPart>
        {
            new(PartKind.Checks, isShort ? Math.Min(ShortJob.ChecksMinutes, rules.ChecksMinutes) : rules.ChecksMinutes),
            new(PartKind.ExtractionLead, Math.Round(extractionLeadSeconds / 60m, 2)),
        };
        if (untested > 0)
            parts.Add(new(PartKind.TestPiece, untested * rules.TestPieceMinutes));
        if (known.Count > 0)
        {
            parts.Add(new(PartKind.Run, Tidy(rules.RunFactor * known.Sum(r => r + rules.ReloadMinutes))));
            parts.Add(
                new(
                    PartKind.Clearing,
                    Tidy(rules.RunFactor * clearingMinutes * known.Count),
                    AirClearing.Says(rules.RunFactor * known.Count, clearingMinutes)
                )
            );
        }
        if (changeovers > 0)
            parts.Add(new(PartKind.Changeover, changeovers * rules.ChangeoverMinutes));
        var cleanDown = heavyResidue ? rules.CleanDownResidueMinutes : rules.CleanDownMinutes;
        parts.Add(new(PartKind.CleanDown, isShort ? Math.Min(ShortJob.CleanDownMinutes, cleanDown) : cleanDown));
        var needed = parts.Sum(p => p.Minutes);
        var slot = isShort ? Math.Min(ShortJob.SlotMinutes, rules.SlotMinutes) : rules.SlotMinutes;
        var slots = (int)Math.Ceiling(needed / slot) * slot;
        return new BookingLength(parts, needed, slots);
    }

    /// <summary>The parts with what is left of <paramref name="minutes"/> shown as spare, so that they add up.</summary>
    public IReadOnlyList<BookingPart> FilledTo(decimal minutes) =>
        minutes > NeededMinutes ? [.. Parts, new(PartKind.Spare, minutes - NeededMinutes)] : Parts;

    private static decimal Tidy(decimal minutes) => Math.Round(minutes, 2);
}
