using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Training;

// Rows of the fact queries, as the database gives them.
namespace VelvetGate.Store.Gate;

internal sealed record SpanRow(Instant From, Instant? Until)
{
    public Span Span => new(From, Until);
}

/// <param name="Kind"><c>stop</c>, <c>room</c>, <c>look</c> or <c>ruling</c>.</param>
/// <param name="Incident">Number of the incident that holds it; null where none does.</param>
/// <param name="Target">The machine or the material; of a fault its standing.</param>
/// <param name="Fault">Number and symptom, then what may still be done; null where no fault is behind it.</param>
internal sealed record HoldSpanRow(string Kind, Instant From, Instant? Until, int? Incident, string? Target, string[]? Fault)
{
    public Span Span => new(From, Until);

    /// <summary>The faults that stop the machine, or stand beside it.</summary>
    public static IReadOnlyList<FaultFacts> OfFaults(IEnumerable<HoldSpanRow> rows) =>
        [
            .. rows.Where(r => r.Kind is "stop" or "fault" && r.Fault is not null)
                .Select(r => new FaultFacts(
                    Number: int.Parse(r.Fault![0], System.Globalization.CultureInfo.InvariantCulture),
                    Seen: Symptoms.Find(r.Fault[1])?.Seen ?? r.Fault[1],
                    Standing: r.Kind == "stop" ? FaultStanding.Stops : Enum.Parse<FaultStanding>(r.Target!, true),
                    MayDo: r.Fault[2..],
                    Held: r.Span
                )),
        ];

    public static IReadOnlyList<IncidentHold> OfIncidents(IEnumerable<HoldSpanRow> rows, string kind) =>
        [.. rows.Where(r => r.Kind == kind && r.Incident is not null).Select(r => new IncidentHold(r.Span, r.Incident!.Value))];
}

internal sealed record AtRow(Instant? At);

/// <summary>Sheets that are remembered are read from their text once.</summary>
internal sealed record CommissioningRow(MachineId MachineId, string Sheet, Instant From, Instant? Until)
{
    private CommissioningSheet? _read;

    public CommissioningSheet Read => _read ??= GateJson.Read<CommissioningSheet>(Sheet);
}

/// <summary>One of several kinds of spans that one statement gives.</summary>
internal sealed record KindSpanRow(string Kind, Instant From, Instant? Until)
{
    public Span Span => new(From, Until);
}

internal sealed record ClaimRow(string Resource, Instant From, Instant Until)
{
    public Span Span => new(From, Until);
}

/// <summary>House rules that are remembered are read from their text once.</summary>
internal sealed record RulesRow(string Body, Instant From, Instant? Until)
{
    private HouseRules? _read;

    public HouseRules Rules => _read ??= GateJson.Read<HouseRules>(Body);
}

internal sealed record MachineRow(MachineId Id, string Spec)
{
    private MachineSpec? _read;

    public MachineSpec Machine => _read ??= GateJson.Read<MachineSpec>(Spec);
}

internal sealed record RoomRow(string Body, Instant From, Instant? Until)
{
    private RoomSpec? _read;

    public RoomSpec Room => _read ??= GateJson.Read<RoomSpec>(Body);
}

internal sealed record FixtureOutRow(Instant From, Instant Until, bool Mine, Instant? DamagedSince);

internal sealed record BenchRow(int Number, Instant From, Instant? Until);

internal sealed record FixtureRow(string Id, MachineId MachineId);

internal sealed record KitRow(string Name, Instant? InDateUntil, string[] Wrong, Instant? WrongSince, Instant From, Instant? Until);

internal sealed record DutyRow(Instant? From, Instant? Until, bool Seen);

internal sealed record PersonRow(string GivenName, LocalDate? BirthDate);

internal sealed record CertificateRow(string Authority, bool Founding, Instant From, Instant? Until, bool Confirmed);

internal sealed record ModuleRow(string Id, string Kind, string Title, string Topic, int Version);

internal sealed record DoneRow(string ModuleId, int Version);

internal sealed record RepeatRow(string ModuleId, int Version, LocalDate ByDay, Instant At);

internal sealed record PathRow(string Authority, string Body, Instant From, Instant? Until)
{
    private TrainingPath? _read;

    public TrainingPath Path => _read ??= GateJson.Read<TrainingPath>(Body);
}

internal sealed record HoldRow(string Authority, string Kind, string Conditions, Instant From, Instant? Until);

internal sealed record PracticalRepeatRow(string PracticalId, string Title, Instant At, LocalDate ByDay);

internal sealed record ConsentRow(MachineId[] MachineIds, Instant From, Instant? Until);

internal sealed record OccurrenceRow(
    string Kind,
    Guid Plan,
    string Title,
    Instant From,
    Instant Until,
    PersonId? AdultId,
    int AtOnce,
    bool OnRoster
);

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

/// <param name="Before">The machine's optics were touched since.</param>
internal sealed record TestedRow(MaterialId MaterialId, decimal ThicknessMm, string Operation, Instant At, bool Before);

/// <summary>A task that is due or will be, or what was last read at the machine.</summary>
/// <param name="Kind">What was read; <c>task</c> for a task.</param>
/// <param name="DueFrom">Of a reading when it was read.</param>
internal sealed record UpkeepRow(string Kind, string Task, Instant? OverdueFrom, Instant? DueFrom, decimal? Value);

/// <param name="Body">SettingValues.</param>
internal sealed record SettingRow(Guid Id, int Number, string Body, Instant From, Instant? Until);

/// <param name="Clean">Else a flame stayed.</param>
internal sealed record SettingResultRow(Guid SettingId, decimal ThicknessMm, SheetTag? Tag, Instant At, bool Clean);

/// <param name="Told">PieceTold.</param>
internal sealed record PieceRow(MaterialId MaterialId, decimal ThicknessMm, SheetTag? Tag, string Told, Instant At);

internal sealed record ClearanceRow(SheetTag Tag, string[] Operations, MachineId[] MachineIds, Instant From, Instant? Until);

internal sealed record QuarantineRow(SheetTag Tag, Instant From, Instant? Until, int? Incident);

internal sealed record DrawingRow(Guid Id, string Name, string Summary);

internal sealed record LiftRow(Guid AskId, Instant From, Instant Until, string Items, string Reasons);

internal sealed record EyewearRow(
    string Name,
    int MinNm,
    int MaxNm,
    decimal OpticalDensity,
    bool DamageRated,
    int Count,
    Instant From,
    Instant? Until
);
