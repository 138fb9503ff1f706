using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Materials;

/// <summary>What a house says of a material. In rising strictness; <see cref="Cannot"/> is physics, not policy.</summary>
public enum RulingStatus
{
    Permitted,

    /// <summary>A steward clears each sheet.</summary>
    ByArrangement,
    Banned,

    /// <summary>No house can loosen it.</summary>
    Never,

    /// <summary>This kind of laser does not do it at all.</summary>
    Cannot,
}

/// <summary>What has to be shown before a sheet goes in.</summary>
public enum Evidence
{
    /// <summary>What you see is what it is: paper, card, cork, plain cotton.</summary>
    None,

    /// <summary>The member states the source; shown as a condition.</summary>
    Declared,

    /// <summary>A tag of a sheet that a steward cleared.</summary>
    ClearedTag,
}

/// <summary>One ruling: material x laser kind x operation x thickness range, both ends inclusive, in mm.</summary>
/// <param name="MinMm">0 when there is no lower end.</param>
/// <param name="MaxMm">Null when only the machine limits it.</param>
/// <param name="Reasons">Reason codes such as <c>chlorine</c>.</param>
/// <param name="FilteredNeedsArrangement">True where a machine that only filters asks for a steward.</param>
public sealed record Ruling(
    MaterialId MaterialId,
    LaserKind Kind,
    Operation Operation,
    decimal MinMm,
    decimal? MaxMm,
    RulingStatus Standing,
    Evidence Evidence,
    IReadOnlyList<string> Reasons,
    string Hazard,
    string Handling,
    bool FilteredNeedsArrangement
)
{
    /// <summary>Inclusive at both ends; nothing is rounded into a milder range.</summary>
    public bool Covers(decimal thicknessMm) => thicknessMm >= MinMm && (MaxMm is null || thicknessMm <= MaxMm);
}

/// <summary>A stuff that people bring, by the name it goes by here.</summary>
/// <param name="Synonyms">Other names people use for it.</param>
/// <param name="CutEnergyJPerMm2">Rough energy to cut, J per mm of path and mm of thickness: a first guess only, from memory.</param>
/// <param name="HeavyResidue">True when the machine needs the longer clean-down after it.</param>
public sealed record Material(
    MaterialId Id,
    string Name,
    string Family,
    IReadOnlyList<string> Synonyms,
    decimal CutEnergyJPerMm2,
    bool HeavyResidue
);

/// <summary>Materials that cannot be told apart by eye.</summary>
/// <param name="FreshEdgeTells">True where a look at a fresh or torn edge tells.</param>
public sealed record LookAlikes(IReadOnlyList<MaterialId> MaterialIds, bool FreshEdgeTells, string TellsApart);
