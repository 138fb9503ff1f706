using System.Text.Json.Serialization;

namespace VelvetGate.Core.Machines;

/// <summary>What a step of an emergency card has people do.</summary>
public enum CardAct
{
    Stop,
    KeepShut,
    CutPower,
    Suppress,
    Fight,
    Embers,

    /// <summary>Nobody opens the lid, nobody fights it.</summary>
    HandsOff,
    FanOff,
    Leave,
    Call,
    Meet,
    Treat,
    Tell,
}

/// <summary>How things stand round the machine, as far as a card cares. Null: not known, or as it was.</summary>
/// <param name="BeamOff">The source has no power: a paused machine stays live.</param>
/// <param name="ExtractionOn">The fan draws.</param>
/// <param name="LidShut">Also true where there is no lid.</param>
/// <param name="InRoom">People are still in the room.</param>
public sealed record CardState(bool? BeamOff = null, bool? ExtractionOn = null, bool? LidShut = null, bool? InRoom = null)
{
    /// <summary>This state after what a step brings about.</summary>
    public CardState After(CardState brings) =>
        new(brings.BeamOff ?? BeamOff, brings.ExtractionOn ?? ExtractionOn, brings.LidShut ?? LidShut, brings.InRoom ?? InRoom);

    /// <summary>Everything that is asked for here holds there.</summary>
    public bool HeldBy(CardState state) =>
        Holds(BeamOff, state.BeamOff)
        && Holds(ExtractionOn, state.ExtractionOn)
        && Holds(LidShut, state.LidShut)
        && Holds(InRoom, state.InRoom);

    private static bool Holds(bool? wanted, bool? have) => wanted is null || wanted == have;
}

/// <summary>One step of the card, in the imperative.</summary>
/// <param name="Strong">The few words read at two metres.</param>
public sealed record CardStep(CardAct Act, string Strong, string Text)
{
    /// <summary>What it presupposes: nobody opens a lid over a live beam, nobody fights from outside.</summary>
    [JsonIgnore]
    public CardState Needs { get; init; } = new();

    /// <summary>What holds once it is done.</summary>
    [JsonIgnore]
    public CardState Brings { get; init; } = new();
}

/// <summary>The card at a machine.</summary>
/// <param name="Smoke">Smoke from the filter or the duct: the fan may be feeding it.</param>
/// <param name="After">Once it is over.</param>
/// <param name="Warnings">What must not be done, and what is different here.</param>
public sealed record Card(
    string MachineName,
    string HouseName,
    IReadOnlyList<CardStep> Fire,
    IReadOnlyList<CardStep> Fume,
    IReadOnlyList<CardStep> Hurt,
    IReadOnlyList<string> Warnings,
    string Call,
    string Meet,
    string Defers,
    IReadOnlyList<CardStep> Smoke,
    IReadOnlyList<CardStep> After
);
