using NodaTime;

// Rows of the fact queries, as the database gives them.
namespace VelvetGate.Store.Gate;

internal sealed record SpanRow(Instant From, Instant? Until)
{
    public Span Span => new(From, Until);
}

internal sealed record AtRow(Instant? At);

internal sealed record PersonRow(string GivenName, LocalDate? BirthDate);

internal sealed record CertificateRow(string Authority, bool Founding, Instant From, Instant? Until, bool Confirmed);

internal sealed record ModuleRow(string Id, string Kind, string Title, string Topic, int Version, int Done);

internal sealed record RepeatRow(string ModuleId, int Version, LocalDate ByDay);

internal sealed record PathRow(string Body, Instant From);

internal sealed record HoldRow(string Authority, string Kind, string Conditions, Instant From, Instant? Until);

internal sealed record PracticalRepeatRow(string PracticalId, string Title, Instant At, LocalDate ByDay);

internal sealed record ConsentRow(MachineId[] MachineIds, Instant From, Instant? Until);

internal sealed record ClosureRow(Guid Plan, string Title, Instant From, Instant Until);

internal sealed record ClassRow(Guid Plan, string Title, Instant From, Instant Until, PersonId AdultId, int AtOnce, bool OnRoster);

internal sealed record RunningRow(Guid Plan, Instant From, Instant Until);

internal sealed record MaterialRow(MaterialId Id, string Name, decimal CutEnergy, bool HeavyResidue);

internal sealed record TwinRow(MaterialId MaterialId, string Name);

internal sealed record RulingRow(
    MaterialId MaterialId,
    string Kind,
    string Operation,
    decimal MinMm,
    decimal? MaxMm,
    string Standing,
    string Evidence,
    string[] Reasons,
    string Hazard,
    string Handling,
    bool FilteredNeedsArrangement,
    Instant From,
    Instant? Until
);

internal sealed record SheetRow(
    SheetTag Tag,
    MaterialId MaterialId,
    string MaterialName,
    decimal ThicknessMm,
    decimal WidthMm,
    decimal HeightMm
);

internal sealed record TestedRow(MaterialId MaterialId, decimal ThicknessMm, string Operation, Instant At);

internal sealed record ClearanceRow(SheetTag Tag, string[] Operations, MachineId[] MachineIds, Instant From, Instant? Until);

internal sealed record QuarantineRow(SheetTag Tag, Instant From, Instant? Until);

internal sealed record DrawingRow(Guid Id, string Name, string Summary);

internal sealed record LiftRow(Guid AskId, Instant From, Instant Until, string Items, string Reasons);

internal sealed record EyewearRow(string Name, int MinNm, int MaxNm, decimal OpticalDensity, bool DamageRated, int Count);
