using System.Text.Json.Serialization;
using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating;

/// <summary>
/// Where the question is asked: a fact that only the machine shows is a condition at booking and has to be known at the machine.
/// </summary>
public enum Phase
{
    Booking,
    AtMachine,

    /// <summary>A booking that stands and is decided again: as at booking, but it was made in time.</summary>
    Standing,
}

/// <summary>May this person run these sheets and drawings on this machine over <c>[Start, End)</c>?</summary>
/// <param name="Minutes">Whole time at the machine, checks and clean-down included.</param>
public sealed record GateQuestion(
    PersonId MemberId,
    MachineId MachineId,
    IReadOnlyList<GateItem> Items,
    string? Fixture,
    PersonId? SupervisorId,
    Instant Start,
    int Minutes,
    Phase Phase = Phase.Booking
)
{
    /// <summary>The unit in which reasons write lengths. It changes words only, never an answer.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public LengthUnit ShowIn { get; init; }

    /// <summary>Come along and watch: a demonstration, a visit. Each wears what the beam asks for.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public int Companions { get; init; }

    /// <summary>A finishing bench, after the run or at another time; null for none.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public BenchWish? Bench { get; init; }

    /// <summary>At the machine: who runs it, who supervises, who comes along.</summary>
    [JsonIgnore]
    public int People => 1 + (SupervisorId is null ? 0 : 1) + Companions;

    [JsonIgnore]
    public Instant End => Start + Duration.FromMinutes(Minutes);
}

/// <summary>Time at a finishing bench: taking film off, cleaning, glueing.</summary>
/// <param name="Start">Null begins when the machine’s time ends, wherever that moves.</param>
/// <param name="Minutes">Null takes as long as is usual in the house.</param>
public sealed record BenchWish(Instant? Start = null, int? Minutes = null)
{
    /// <summary>From when to when, for a run that ends at <paramref name="machineEnd"/>.</summary>
    public Interval At(Instant machineEnd, HouseRules rules)
    {
        var start = Start ?? machineEnd;
        return new Interval(start, start + Duration.FromMinutes(Minutes ?? rules.BenchMinutes));
    }
}

/// <summary>One sheet and what is to be done to it.</summary>
/// <param name="ThicknessMm">Measured thickness in mm.</param>
/// <param name="RunMinutes">The person's own figure; null takes the drawing's estimate, if there is one.</param>
/// <param name="SettingIds">Entries of the house's library that the machine will be set to; null where none was chosen.</param>
/// <param name="Round">What turns on the rotary; null on a flat bed, and where nobody measured it.</param>
public sealed record GateItem(
    MaterialId MaterialId,
    decimal ThicknessMm,
    IReadOnlyList<Operation> Operations,
    SheetTag? SheetTag = null,
    Guid? DrawingId = null,
    decimal? RunMinutes = null,
    IReadOnlyList<Guid>? SettingIds = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] RoundPiece? Round = null
);

/// <summary>What turns on a rotary.</summary>
/// <param name="DiameterMm">At one end, above 0.</param>
/// <param name="Diameter2Mm">At the other end; null where it is as wide.</param>
/// <param name="HandleOrBall">A handle, a spout, or round both ways.</param>
public sealed record RoundPiece(decimal DiameterMm, decimal? Diameter2Mm = null, bool HandleOrBall = false)
{
    /// <summary>Of the wider end: the page is drawn for it.</summary>
    [JsonIgnore]
    public decimal WidestMm => Math.Max(DiameterMm, Diameter2Mm ?? DiameterMm);

    [JsonIgnore]
    public decimal NarrowestMm => Math.Min(DiameterMm, Diameter2Mm ?? DiameterMm);
}
