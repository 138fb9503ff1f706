using VelvetGate.Core.House;

namespace VelvetGate.Core.Machines;

/// <summary>How the head of a machine moves, beyond acceleration and top speed. What is left out is taken as the text says.</summary>
/// <param name="CornerMmS">Speed at a sharp corner (junction speed); 0 stops there.</param>
/// <param name="RapidMmS">Between lines, beam off; null: as fast as its top speed.</param>
/// <param name="StartUpSeconds">Before each layer.</param>
/// <param name="OverscanMm">Run-out beyond each end of an engraved row; null: as far as braking takes.</param>
public sealed record MachineMotion(
    decimal? CornerMmS = null,
    decimal? RapidMmS = null,
    decimal? StartUpSeconds = null,
    decimal? OverscanMm = null
);

/// <summary>How long an operation really takes on a machine: what a steward accepted, from its own logged runs.</summary>
/// <param name="Factor">Median of actual ÷ estimate, 0.5 to 2.</param>
/// <param name="Low">Nine runs in ten took at least this part of the estimate so corrected; so too <paramref name="High"/> at most.</param>
/// <param name="Runs">That it comes from.</param>
public sealed record TimeFactor(Operation Operation, decimal Factor, decimal Low, decimal High, int Runs);
