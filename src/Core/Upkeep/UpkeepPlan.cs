using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>What a task counts until it is due.</summary>
public enum UpkeepCounter
{
    /// <summary>Days on the calendar: they run on while a machine is out of service.</summary>
    Days,

    /// <summary>Runs that were logged.</summary>
    Runs,

    /// <summary>Hours of those runs.</summary>
    LaserHours,

    /// <summary>Hours of those runs, stock that leaves heavy residue counted as often as the house says.</summary>
    WeightedHours,

    /// <summary>Airflow in per cent of that at commissioning: due below its limit.</summary>
    Airflow,
}

/// <summary>Who does a task. Each includes those named after it.</summary>
public enum UpkeepWho
{
    /// <summary>Whoever may run the machine.</summary>
    Member,

    /// <summary>Trainers of the machine, and stewards.</summary>
    Trainer,

    /// <summary>Who holds repair authority for the machine: panels, high voltage, alignment.</summary>
    Repairer,
}

/// <summary>A task of upkeep, as the house wants it done.</summary>
/// <param name="Limit">In the unit of its counter.</param>
/// <param name="SlipPercent">How far beyond its limit it may slip before the gate asks a steward.</param>
/// <param name="Steps">How it is done, in order.</param>
/// <param name="Kit">What is needed, and where it is kept.</param>
/// <param name="Basis">Where the limit comes from: the maker’s manual, or a starting value.</param>
public sealed record UpkeepPlan(
    string Name,
    UpkeepPart Part,
    UpkeepCounter Counter,
    decimal Limit,
    decimal SlipPercent,
    UpkeepWho Who,
    IReadOnlyList<string> Steps,
    string Kit,
    string Basis
)
{
    /// <summary>In which the limit is given, and the use.</summary>
    public string Unit =>
        Counter switch
        {
            UpkeepCounter.Days => "days",
            UpkeepCounter.Runs => "runs",
            UpkeepCounter.Airflow => "%",
            _ => "h",
        };

    /// <summary>From here on the gate asks a steward. Airflow has its own rules.</summary>
    public decimal Overdue => Limit * (1 + SlipPercent / 100);

    /// <summary>It grows with the runs of its machine.</summary>
    public bool IsByUse => Counter is UpkeepCounter.Runs or UpkeepCounter.LaserHours or UpkeepCounter.WeightedHours;

    /// <summary>Who does it, in the house’s school of practice.</summary>
    /// <param name="coversMarked">The covers over the machine’s mirrors are marked free of voltage.</param>
    public UpkeepWho WhoFor(MemberUpkeep school, bool coversMarked) =>
        Part == UpkeepPart.Electrical ? UpkeepWho.Repairer
        : Who != UpkeepWho.Member ? Who
        : school == MemberUpkeep.Nothing ? UpkeepWho.Trainer
        : Part == UpkeepPart.Mirrors && !(school == MemberUpkeep.MarkedMirrors && coversMarked) ? UpkeepWho.Trainer
        : UpkeepWho.Member;

    public const decimal SlipMost = 100;
    public const int NameLongest = 80;
    public const int StepsMost = 12;
    public const int StepLongest = 200;
    public const int WordsLongest = 200;

    /// <summary>Largest limit that a counter takes: more is a slip of the pen.</summary>
    public static decimal LimitMost(UpkeepCounter counter) =>
        counter switch
        {
            UpkeepCounter.Days => 3650,
            UpkeepCounter.Airflow => 100,
            _ => 10_000,
        };

    /// <param name="taken">Another task of the same machine has the name.</param>
    public static Refusal? Twice(bool taken) => taken ? UpkeepProblems.PlanTwice.Refuse("name") : null;

    /// <summary>What is wrong with a task, each with the field at fault.</summary>
    /// <param name="ofMachine">It is of a machine; else of the room, which has no runs.</param>
    public IEnumerable<Refusal> Wrong(bool ofMachine)
    {
        if (string.IsNullOrWhiteSpace(Name) || Name.Length > NameLongest)
            yield return UpkeepProblems.PlanName.Refuse("name", NameLongest);
        if (Limit <= 0 || Limit > LimitMost(Counter))
            yield return UpkeepProblems.PlanLimit.Refuse("limit", LimitMost(Counter), Unit);
        if (SlipPercent is < 0 or > SlipMost)
            yield return UpkeepProblems.PlanSlip.Refuse("slipPercent", SlipMost);
        if (Counter == UpkeepCounter.Airflow && SlipPercent != 0)
            yield return UpkeepProblems.PlanSlipAirflow.Refuse("slipPercent");
        if (!ofMachine && Counter != UpkeepCounter.Days)
            yield return UpkeepProblems.PlanRoom.Refuse("counter");
        if (Steps.Count > StepsMost || Steps.Any(s => s.Length > StepLongest))
            yield return UpkeepProblems.PlanSteps.Refuse("steps", StepsMost, StepLongest);
        if (Kit.Length > WordsLongest)
            yield return UpkeepProblems.PlanWords.Refuse("kit", WordsLongest);
        if (Basis.Length > WordsLongest)
            yield return UpkeepProblems.PlanWords.Refuse("basis", WordsLongest);
    }
}
