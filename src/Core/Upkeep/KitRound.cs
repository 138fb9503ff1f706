using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Upkeep;

/// <summary>What somebody found at an item of fire kit.</summary>
/// <param name="InOrder">There, sealed, in date and whole: said, not taken for granted.</param>
/// <param name="Wrong">What is not.</param>
public sealed record KitLook(bool InOrder, IReadOnlyList<KitFault> Wrong, string? Note);

/// <summary>An item of the round.</summary>
/// <param name="Looked">When somebody last looked at it; null for never.</param>
public readonly record struct RoundItem(bool Eyewear, string Id, Instant? Looked);

/// <summary>
/// The monthly look at extinguishers, blankets, alarms, first aid and eyewear. It is the house’s own, beside the yearly service by a firm.
/// Source: common practice; the insurer may want it oftener.
/// </summary>
public static class KitRound
{
    public const int NoteLongest = 200;

    /// <summary>Looked at longer ago, an item is due again, where no task of the room says another number of days.</summary>
    public const int UsualDays = 30;

    /// <summary>A round is whole when each item was looked at within so many days.</summary>
    public const int WithinDays = 7;

    public static bool IsDue(Instant? looked, decimal days, Instant now) =>
        looked is not { } at || now - at > Duration.FromDays((double)days);

    /// <summary>Every item was looked at in this round, and since the task was last done.</summary>
    public static bool IsWhole(IReadOnlyCollection<RoundItem> items, Instant taskSince, Instant now) =>
        items.Count > 0 && items.All(i => i.Looked is { } at && at > taskSince && now - at <= Duration.FromDays(WithinDays));

    /// <returns>Null where it is kept.</returns>
    public static Refusal? Wrong(KitLook look, UpkeepHands hands)
    {
        if (!UpkeepDone.MayDo(UpkeepWho.Trainer, hands))
            return UpkeepProblems.NotYours.Refuse(null, UpkeepDone.Says(UpkeepWho.Trainer));
        if (look.InOrder == look.Wrong.Count > 0)
            return UpkeepProblems.KitUnsaid.Refuse("wrong");
        return Long(look.Note);
    }

    /// <param name="damaged">Pairs found scratched, bleached or cracked: they go.</param>
    /// <param name="count">Pairs in good condition so far.</param>
    public static Refusal? WrongEyewear(int? damaged, int count, string? note, UpkeepHands hands)
    {
        if (!UpkeepDone.MayDo(UpkeepWho.Trainer, hands))
            return UpkeepProblems.NotYours.Refuse(null, UpkeepDone.Says(UpkeepWho.Trainer));
        if (damaged is null || damaged < 0 || damaged > count)
            return UpkeepProblems.EyewearDamaged.Refuse("damaged", count);
        return Long(note);
    }

    private static Refusal? Long(string? note) => note?.Length > NoteLongest ? UpkeepProblems.Note.Refuse("note", NoteLongest) : null;
}
