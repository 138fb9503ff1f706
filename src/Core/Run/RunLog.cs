using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;

namespace VelvetGate.Core.Run;

/// <summary>How a run came out.</summary>
public enum Outcome
{
    Clean,
    NotThrough,
    Charred,

    /// <summary>A flame that stayed. It is told to a steward as well, however small.</summary>
    Flame,
    Abandoned,
}

/// <summary>What a run that was logged comes to.</summary>
public enum RunWorth
{
    /// <summary>It counts as practice.</summary>
    Practice,

    /// <summary>It was given up.</summary>
    NoPractice,

    /// <summary>No rule allows it, or nobody stands behind it: a steward is told.</summary>
    ToBeLookedAt,

    /// <summary>The machine is out of service, and the stewards are called.</summary>
    Flame,
}

/// <summary>A run as it was logged.</summary>
/// <param name="WaitsForALook">No rule allows it, or nobody stands behind it: a steward is told.</param>
/// <param name="Flame">The machine is out of service, and the stewards are called.</param>
/// <param name="IncidentId">The incident that opened with a flame.</param>
public sealed record LoggedOutcome(Guid Id, bool Counts, bool WaitsForALook, bool Flame, Guid? IncidentId = null)
{
    public RunWorth Worth =>
        Flame ? RunWorth.Flame
        : WaitsForALook ? RunWorth.ToBeLookedAt
        : Counts ? RunWorth.Practice
        : RunWorth.NoPractice;
}

/// <summary>One run as it was logged.</summary>
/// <param name="Settings">Power, speed, passes and remarks, in free text.</param>
/// <param name="SettingId">The entry of the house's library that it was made with; null for none.</param>
/// <param name="Item">Which sheet of its booking, from 0; null takes the first that it can be.</param>
public sealed record LoggedRun(
    PersonId PersonId,
    MachineId MachineId,
    MaterialId MaterialId,
    decimal ThicknessMm,
    IReadOnlyList<Operation> Operations,
    Instant Start,
    Instant End,
    Outcome Outcome,
    string? Settings,
    Guid? SettingId = null,
    int? Item = null
);

/// <summary>
/// Rules of arriving and logging. Source: common practice; settings and outcome are logged because queues vanish at power-off.
/// </summary>
public static class RunLog
{
    public const int SettingsLongest = 1000;

    /// <summary>What is known of a flame by the log of its run alone.</summary>
    public const string FlameSeen = "A flame that stayed, as the run was logged.";

    /// <summary>Longer is a typing error: no house here is open for so long.</summary>
    public static readonly Duration Longest = Duration.FromHours(12);

    /// <summary>How long before its start a booking may be marked as arrived.</summary>
    public static readonly Duration ArriveFrom = Duration.FromMinutes(30);

    /// <summary>A run names a setting of its own machine, material and operation, for about its thickness.</summary>
    /// <param name="of">What the setting it names is for; null where there is no such setting.</param>
    public static Refusal? MayName(LoggedRun run, (MachineId Machine, MaterialId Material, Operation Operation, decimal Mm)? of) =>
        run.SettingId is null
        || of is { } s
            && s.Machine == run.MachineId
            && s.Material == run.MaterialId
            && run.Operations.Contains(s.Operation)
            && Tested.IsNear(s.Mm, run.ThicknessMm)
            ? null
            : RunProblems.RunUnknownSetting.Refuse("settingId");

    /// <returns>Null when the run may be logged.</returns>
    public static Refusal? Check(LoggedRun run, PersonId by, bool staff, Instant now)
    {
        if (run.PersonId != by && !staff)
            return RunProblems.RunNotYours.Refuse("memberId");
        if (run.End <= run.Start)
            return RunProblems.RunEnd.Refuse("end");
        if (run.End > now)
            return RunProblems.RunFuture.Refuse("end");
        if (run.End - run.Start > Longest)
            return RunProblems.RunLong.Refuse("end", Longest.TotalHours);
        if (run.Operations.Count == 0)
            return RunProblems.RunOperations.Refuse("operations");
        return run.Settings?.Length > SettingsLongest ? RunProblems.RunSettings.Refuse("settings", SettingsLongest) : null;
    }

    /// <summary>
    /// Does this run count towards what a learner has to show? Not one that was given up, and a supervised one only once both have said so.
    /// Source: common practice.
    /// </summary>
    public static bool CountsAsSupervised(Outcome outcome, bool confirmed) => confirmed && outcome != Outcome.Abandoned;

    /// <summary>What follows from a run that was just logged.</summary>
    public static string Says(RunWorth worth) =>
        worth switch
        {
            RunWorth.Flame => "The machine is out of service until somebody has looked, and the stewards are called. The lid stays shut "
                + $"for {AirClearing.LongWaitSeconds / 60} minutes at least, or as long as the gate says if that is longer.",
            RunWorth.ToBeLookedAt => "Kept, and told to a steward: it does not count as practice before somebody has looked at it.",
            RunWorth.Practice => "Logged.",
            _ => "Logged. A run that was given up does not count as practice.",
        };

    /// <summary>A supervised run counts once both have said so: one by logging it, the other by this.</summary>
    /// <returns>Null when this person may confirm it.</returns>
    public static Refusal? MayConfirm(PersonId personId, PersonId? supervisorId, PersonId loggedBy, PersonId by)
    {
        if (supervisorId is not { } supervisor)
            return RunProblems.RunNotSupervised.Refuse();
        return by == Confirmer(personId, supervisor, loggedBy)
            ? null
            : new Refusal(
                RunProblems.RunNotYours,
                loggedBy == supervisorId ? "The person who ran it confirms it." : "The supervisor who was booked confirms it."
            );
    }

    /// <summary>Who has to confirm a supervised run: the supervisor, or the learner where the supervisor logged it.</summary>
    public static PersonId Confirmer(PersonId personId, PersonId supervisorId, PersonId loggedBy) =>
        loggedBy == supervisorId ? personId : supervisorId;

    /// <summary>When a booking that nobody came to may be released.</summary>
    public static Instant ReleasedFrom(Instant start, int graceMinutes) => start + Duration.FromMinutes(graceMinutes);

    /// <returns>Null when the booking may be released as a no-show.</returns>
    public static Refusal? MayRelease(Instant start, Instant end, bool arrived, bool cancelled, int graceMinutes, Instant now) =>
        cancelled ? RunProblems.NoShowCancelled.Refuse()
        : arrived ? RunProblems.NoShowArrived.Refuse()
        : now >= end ? RunProblems.NoShowOver.Refuse()
        : now < ReleasedFrom(start, graceMinutes) ? RunProblems.NoShowGrace.Refuse(null, graceMinutes)
        : null;

    /// <returns>Null when the booking may be marked as arrived.</returns>
    public static Refusal? MayArrive(Instant start, Instant end, bool cancelled, Instant now) =>
        cancelled ? RunProblems.ArriveCancelled.Refuse()
        : now < start - ArriveFrom ? RunProblems.ArriveEarly.Refuse(null, ArriveFrom.TotalMinutes)
        : now >= end ? RunProblems.ArriveOver.Refuse()
        : null;
}
