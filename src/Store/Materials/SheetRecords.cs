using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Store.Materials;

/// <summary>A sheet as it is registered.</summary>
/// <param name="BroughtBy">Null for the house's own stock.</param>
public sealed record NewSheet(
    string MaterialId,
    decimal ThicknessMm,
    decimal WidthMm,
    decimal HeightMm,
    string Supplier,
    string Batch,
    string? BroughtBy,
    int Count
);

/// <summary>What a steward clears a sheet for.</summary>
/// <param name="MachineIds">None means every machine.</param>
/// <param name="Seen">What it rests on: label, order page, data sheet.</param>
public sealed record Clearing(IReadOnlyList<Operation> Operations, IReadOnlyList<string> MachineIds, Instant Until, string Seen);

/// <summary>A sheet as it stands.</summary>
/// <param name="Note">What was seen, asked for or found last; gone once erased.</param>
/// <param name="Operations">What it is cleared for now; empty when it is not.</param>
public sealed record SheetCard(
    string Tag,
    string MaterialId,
    string MaterialName,
    decimal ThicknessMm,
    decimal WidthMm,
    decimal HeightMm,
    string Supplier,
    string Batch,
    string Source,
    string? ParentTag,
    string? BroughtBy,
    string State,
    bool Quarantined,
    string? Note,
    Instant? StateAt,
    string? StateBy,
    Instant? RegisteredAt,
    string[] Operations,
    string[] MachineIds,
    Instant? ClearedFrom,
    Instant? ClearedUntil,
    int Version
);

public sealed record EvidenceFile(Guid Id, string Name, string MediaType, long Length, string AddedBy, Instant At);

/// <summary>What a report hits.</summary>
/// <param name="Quarantined">Tags put away now: the sheet, its parent, siblings, offcuts and batch.</param>
/// <param name="Recheck">Tags cleared on the same evidence, whose clearance ends.</param>
/// <param name="Bookings">Standing bookings with one of them.</param>
/// <param name="Runs">Runs already made with one of them, newest first.</param>
/// <param name="Machines">Machines to inspect.</param>
public sealed record ReportHits(
    IReadOnlyList<string> Quarantined,
    IReadOnlyList<string> Recheck,
    IReadOnlyList<Guid> Bookings,
    IReadOnlyList<int> Runs,
    IReadOnlyList<string> Machines
);
