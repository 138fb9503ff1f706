using VelvetGate.Core.Gating;

namespace VelvetGate.Core.Booking;

/// <summary>What is run again: drawings on their sheets, with settings and fixture, on one machine. No time, and nobody.</summary>
public sealed record Job(MachineId MachineId, string? Fixture, IReadOnlyList<GateItem> Items)
{
    public const int NameLongest = 80;

    /// <summary>A shelf that nobody looks through is no help.</summary>
    public const int MostKept = 100;

    public static Job Of(GateQuestion question) => new(question.MachineId, question.Fixture, question.Items);

    /// <returns>Null when it may be kept under this name.</returns>
    public static Refusal? MayKeep(string? name, int kept) =>
        string.IsNullOrWhiteSpace(name) || name.Trim().Length > NameLongest ? BookingProblems.JobName.Refuse("name", NameLongest)
        : kept >= MostKept ? BookingProblems.JobTooMany.Refuse(null, MostKept)
        : null;
}
