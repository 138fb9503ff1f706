using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>Photos of faults and of work. They may show people: staff see them, and whoever took them.</summary>
public static class UpkeepPhotos
{
    public const int Most = 6;

    public static Refusal? MaySee(bool staff, bool own) => staff || own ? null : UpkeepProblems.PhotoNotYours.Refuse();

    /// <param name="staff">Or whoever may repair the machine.</param>
    /// <param name="own">They told of the fault, or did the work.</param>
    /// <param name="have">Photos there are already.</param>
    public static Refusal? MayAdd(bool staff, bool own, int have) =>
        MaySee(staff, own) ?? (have >= Most ? MachinesProblems.PhotoMany.Refuse(null, have) : null);
}
