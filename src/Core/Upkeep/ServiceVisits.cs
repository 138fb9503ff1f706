namespace VelvetGate.Core.Upkeep;

/// <summary>Work on a machine by somebody of the house or a firm, as it is written down.</summary>
public static class ServiceVisits
{
    public const int WhoLongest = 120;
    public const int NoteLongest = 1000;

    /// <summary>A firm’s work is written down by a steward or repairer; what they touched is tried all the same.</summary>
    public static Refusal? Wrong(IReadOnlyCollection<Touched> touched, string doneBy, string note, UpkeepHands hands, bool steward) =>
        !hands.Repairs && !steward ? UpkeepProblems.RepairAuthority.Refuse()
        : touched.Count == 0 ? UpkeepProblems.ServiceTouched.Refuse("touched")
        : string.IsNullOrWhiteSpace(doneBy) || doneBy.Length > WhoLongest ? UpkeepProblems.ServiceWho.Refuse("by", WhoLongest)
        : string.IsNullOrWhiteSpace(note) || note.Length > NoteLongest ? UpkeepProblems.ServiceNote.Refuse("note", NoteLongest)
        : null;

    public static string Says(Touched touched) =>
        touched switch
        {
            Touched.Optics => "lens or mirrors",
            Touched.Tube => "tube",
            Touched.Alignment => "alignment",
            Touched.Interlock => "interlock or stops",
            Touched.Extraction => "extraction",
            Touched.Coolant => "cooling",
            _ => "something else",
        };
}
