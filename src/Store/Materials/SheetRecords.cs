using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Store.Materials;

/// <summary>A sheet as it is registered.</summary>
/// <param name="BroughtBy">Null for the house's own stock.</param>
public sealed record NewSheet(
    MaterialId MaterialId,
    decimal ThicknessMm,
    decimal WidthMm,
    decimal HeightMm,
    string Supplier,
    string Batch,
    PersonId? BroughtBy,
    int Count
);

/// <summary>What a steward clears a sheet for.</summary>
/// <param name="MachineIds">None means every machine.</param>
/// <param name="Seen">What it rests on: label, order page, data sheet.</param>
public sealed record Clearing(IReadOnlyList<Operation> Operations, IReadOnlyList<MachineId> MachineIds, Instant Until, string Seen);

/// <summary>A sheet as it stands.</summary>
/// <param name="Note">What was seen, asked for or found last; gone once erased.</param>
/// <param name="Operations">What it is cleared for now; empty when it is not.</param>
public sealed record SheetCard(
    SheetTag Tag,
    MaterialId MaterialId,
    string MaterialName,
    decimal ThicknessMm,
    decimal WidthMm,
    decimal HeightMm,
    string Supplier,
    string Batch,
    string Source,
    SheetTag? ParentTag,
    PersonId? BroughtBy,
    string State,
    bool Quarantined,
    string? Note,
    Instant? StateAt,
    PersonId? StateBy,
    Instant? RegisteredAt,
    string[] Operations,
    MachineId[] MachineIds,
    Instant? ClearedFrom,
    Instant? ClearedUntil,
    int Version
);

public sealed record EvidenceFile(Guid Id, string Name, string MediaType, long Length, PersonId AddedBy, Instant At);

/// <summary>What a report hits.</summary>
/// <param name="Quarantined">Tags put away now: the sheet, its parent, siblings, offcuts and batch.</param>
/// <param name="Recheck">Tags cleared on the same evidence, whose clearance ends.</param>
/// <param name="Bookings">Standing bookings with one of them.</param>
/// <param name="Runs">Runs already made with one of them, newest first.</param>
/// <param name="Machines">Machines to inspect.</param>
public sealed record ReportHits(
    IReadOnlyList<SheetTag> Quarantined,
    IReadOnlyList<SheetTag> Recheck,
    IReadOnlyList<Guid> Bookings,
    IReadOnlyList<int> Runs,
    IReadOnlyList<MachineId> Machines
);
