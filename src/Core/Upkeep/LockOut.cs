namespace VelvetGate.Core.Upkeep;

/// <summary>
/// A lock on a machine out of service. It is hung by hand: software locks nothing, it keeps where the lock hangs and who has its key.
/// Whoever hangs it keeps the key and takes it off. Source: common practice for isolation; local rules come first.
/// </summary>
public static class LockOut
{
    public const int WhereLongest = 120;
    public const int WhyLongest = 300;

    /// <summary>Said on the tag, whatever else stands there.</summary>
    public const string Tag = "Do not use. Do not switch on. Do not take this tag off: whoever returns the machine does.";

    /// <param name="stopped">The machine is out of service.</param>
    /// <param name="twice">A lock hangs there already.</param>
    public static Refusal? Wrong(string? where, bool stopped, bool twice, UpkeepHands hands) =>
        !UpkeepDone.MayDo(UpkeepWho.Trainer, hands) ? UpkeepProblems.NotYours.Refuse(null, UpkeepDone.Says(UpkeepWho.Trainer))
        : !stopped ? UpkeepProblems.LockRuns.Refuse()
        : string.IsNullOrWhiteSpace(where) || where.Length > WhereLongest ? UpkeepProblems.LockWhere.Refuse("where", WhereLongest)
        : twice ? UpkeepProblems.LockTwice.Refuse("where")
        : null;

    /// <summary>It comes off by the hand that hung it; by another one only with a reason that stays on record.</summary>
    public static Refusal? WrongOff(bool holder, bool steward, string? why) =>
        holder ? null
        : !steward ? UpkeepProblems.LockNotYours.Refuse()
        : string.IsNullOrWhiteSpace(why) || why.Length > WhyLongest ? UpkeepProblems.LockWhy.Refuse("why", WhyLongest)
        : null;

    /// <param name="where">Of each lock that hangs.</param>
    public static Refusal? Hangs(IReadOnlyCollection<string> where) =>
        where.Count == 0 ? null : UpkeepProblems.Locked.Refuse(null, string.Join(", ", where));
}
