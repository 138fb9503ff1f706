namespace VelvetGate.Core.Gating;

/// <summary>Who may lift a reason once, for one person, machine, item and window. Nobody ever lifts for themselves.</summary>
public enum LiftedBy
{
    Nobody,
    Steward,
}

/// <summary>The facts as they would be once a remedy is carried out; null when it is in nobody's hands for this question.</summary>
public delegate GateFacts? Assumed(Reason reason, GateQuestion ask, GateFacts facts);

/// <summary>One rule of the gate.</summary>
/// <param name="Means">One sentence: when it speaks.</param>
/// <param name="AtBooking">How hard it is when somebody books.</param>
/// <param name="AtMachine">How hard it is at the machine, before a run.</param>
/// <param name="Source">Where it comes from.</param>
/// <param name="ChangedIn">The version of the rules (<see cref="Gate.RulesVersion"/>) in which the same facts could first bring another
/// answer from this rule.</param>
public sealed record Rule(
    string Code,
    Post Post,
    string Means,
    Standing AtBooking,
    Standing AtMachine,
    LiftedBy LiftedBy,
    string Source,
    int ChangedIn = 1
)
{
    /// <summary>How hard it is for a booking that stands, when it is looked at again.</summary>
    public Standing AtStanding { get; init; } = AtBooking;

    /// <summary>Names of the house rules it reads, as <see cref="House.HouseRules"/> has them.</summary>
    public IReadOnlyList<string> Settings { get; init; } = [];

    /// <summary>What may open it. None: it says what to look at, or nothing opens it.</summary>
    public IReadOnlyList<RemedyAction> Remedies { get; init; } = [];

    /// <summary>How the soonest way takes it as opened; null where only another question opens it, such as another time.</summary>
    public Assumed? Assumed { get; init; }

    public Standing At(Phase phase) =>
        phase switch
        {
            Phase.AtMachine => AtMachine,
            Phase.Standing => AtStanding,
            _ => AtBooking,
        };
}
