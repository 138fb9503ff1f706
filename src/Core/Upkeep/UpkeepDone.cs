using NodaTime;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>What somebody is to a machine, where it is looked after.</summary>
/// <param name="Runs">May run it now.</param>
/// <param name="Trains">Trainer of it, or a steward.</param>
/// <param name="Repairs">Holds repair authority for it.</param>
public readonly record struct UpkeepHands(bool Runs, bool Trains, bool Repairs);

/// <summary>Writing down that a task was done.</summary>
public static class UpkeepDone
{
    public const int NoteLongest = 600;

    /// <summary>Written down again so soon, it is the same that was done.</summary>
    internal static readonly Duration Twice = Duration.FromMinutes(1);

    public static bool MayDo(UpkeepWho who, UpkeepHands hands) =>
        who switch
        {
            UpkeepWho.Member => hands.Runs || hands.Trains || hands.Repairs,
            UpkeepWho.Trainer => hands.Trains || hands.Repairs,
            _ => hands.Repairs,
        };

    /// <param name="who">In the house’s school of practice.</param>
    /// <param name="since">When it was last done.</param>
    /// <param name="reading">After it, in m³/h, where the task is about airflow.</param>
    /// <param name="before">The same before it.</param>
    /// <returns>Null where it is written down.</returns>
    public static Refusal? Wrong(
        UpkeepPlan plan,
        UpkeepWho who,
        UpkeepHands hands,
        Instant since,
        MachineSpec? machine,
        decimal? reading,
        decimal? before,
        string? note,
        Instant now
    )
    {
        if (!MayDo(who, hands))
            return UpkeepProblems.NotYours.Refuse(null, Says(who));
        // Two windows, or two people, at the same moment: the second has nothing left to do.
        if (now - since < Twice)
            return UpkeepProblems.DoneJustNow.Refuse();
        if (note?.Length > NoteLongest)
            return UpkeepProblems.Note.Refuse("note", NoteLongest);
        if (plan.Counter != UpkeepCounter.Airflow)
            return reading is not null ? UpkeepProblems.NoReading.Refuse("reading")
                : before is not null ? UpkeepProblems.NoReading.Refuse("before")
                : null;
        if (reading is null)
            return UpkeepProblems.ReadingWanted.Refuse("reading");
        return HandReadings.Airflow(machine!, reading, "reading") ?? HandReadings.Airflow(machine!, before, "before");
    }

    internal static string Says(UpkeepWho who) =>
        who switch
        {
            UpkeepWho.Member => "whoever may run the machine",
            UpkeepWho.Trainer => "a trainer of the machine, a steward or its repairer",
            _ => "whoever holds repair authority for the machine",
        };
}
