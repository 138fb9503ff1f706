using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>Faults that were told: who says what they do, and who closes them.</summary>
public static class Faults
{
    public const int NoteLongest = 600;

    /// <summary>Faults one person may tell of in a day: more is noise.</summary>
    public const int PerDay = 20;

    /// <param name="today">Told by the same person within a day.</param>
    public static Refusal? MayTell(Symptom? symptom, string? note, int today) =>
        symptom is null ? UpkeepProblems.SymptomUnknown.Refuse("symptom")
        : note?.Length > NoteLongest ? UpkeepProblems.Note.Refuse("note", NoteLongest)
        : symptom.Key == Symptoms.Other && string.IsNullOrWhiteSpace(note) ? UpkeepProblems.FaultWhat.Refuse("note")
        : today >= PerDay ? UpkeepProblems.FaultTooMany.Refuse()
        : null;

    /// <summary>A repairer’s or steward’s word on what it does. What stops the machine ends with its return to service alone.</summary>
    public static Refusal? MayJudge(FaultStanding now, UpkeepHands hands, bool steward, string? note) =>
        !hands.Repairs && !steward ? UpkeepProblems.RepairAuthority.Refuse()
        : now == FaultStanding.Stops ? UpkeepProblems.FaultStops.Refuse()
        : Said(note);

    /// <summary>Found and put right, or found to be nothing.</summary>
    public static Refusal? MayClose(FaultStanding now, UpkeepHands hands, bool steward, string? note) =>
        MayJudge(now, hands, steward, note);

    private static Refusal? Said(string? note) =>
        string.IsNullOrWhiteSpace(note) ? UpkeepProblems.FaultFound.Refuse("note")
        : note.Length > NoteLongest ? UpkeepProblems.Note.Refuse("note", NoteLongest)
        : null;
}
