using System.Text.Json.Serialization;
using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Training;

namespace VelvetGate.Core.Gating;

/// <summary>Everything one decision rests on, the present time included. Stored whole, so that the decision can be replayed.</summary>
/// <param name="V">Version of this shape; golden facts of each version stay in the tests.</param>
/// <param name="Lifts">Steward's lifts for this person and machine, not yet used by another booking.</param>
/// <param name="Sheets">One for each item of the ask, in its order; so too <paramref name="Drawings"/>.</param>
/// <param name="Settings">The entries of the library that the ask names, and with them the cuts tested on this machine in its materials;
/// null where none is named, and in facts of before version 7.</param>
public sealed record GateFacts(
    int V,
    Instant Now,
    HouseRules Rules,
    PersonFacts Person,
    TrainingFacts Training,
    IReadOnlyList<SheetFacts> Sheets,
    IReadOnlyList<DrawingFacts> Drawings,
    MachineFacts Machine,
    TimeFacts Time,
    RoomFacts Room,
    IReadOnlyList<LiftFacts>? Lifts = null,
    IReadOnlyList<SettingFacts>? Settings = null
)
{
    /// <summary>
    /// 2 since lifts are among the facts; 3 since closures, classes, consents and duties are; 4 since owed reading, add-ons and certificate
    /// holds
    /// are; 5 since tests have an operation and a day, sheets a size and the room its air; 6 since incidents hold machines, sheets and the
    /// room; 7 since settings are among the facts; 8 since whoever is on duty may have been seen, and
    /// no-shows are among the facts; 9 since fixtures handed out, finishing benches and bookings in a class are; 10 since faults, what was
    /// last read at the machine and its last service are; 11 since how the machine was set up and when it was last used are; 12
    /// since what a look at the fire kit found is. Older facts have none of these.
    /// </summary>
    public const int CurrentVersion = 12;
}

/// <param name="Active">Spans in which the account is open.</param>
/// <param name="Agreement">Spans in which the house agreement is signed and current.</param>
/// <param name="Pauses">Spans in which a steward has paused the person. No reason: only the person and stewards see that.</param>
/// <param name="Attending">Other bookings the person attends, on any machine.</param>
/// <param name="AgeYears">Whole years at the start; known null means an adult whose birth date is not kept.</param>
/// <param name="Duties">Spans in which the person teaches a class or supervises somebody else's run.</param>
/// <param name="Consents">A guardian's consents, with the machines each is for.</param>
public sealed record PersonFacts(
    string Name,
    Fact<IReadOnlyList<Span>> Active,
    Fact<IReadOnlyList<Span>> Agreement,
    Fact<IReadOnlyList<Span>> Pauses,
    Fact<IReadOnlyList<Span>> Attending,
    Fact<int?> AgeYears,
    IReadOnlyList<Span>? Duties = null,
    IReadOnlyList<ConsentFacts>? Consents = null
);

/// <param name="MachineIds">Empty means every machine.</param>
public sealed record ConsentFacts(Span Held, IReadOnlyList<MachineId> MachineIds);

/// <param name="Certificates">All the person has held for this machine.</param>
/// <param name="LastUse">Last time at this machine: sign-off or end of a logged run.</param>
/// <param name="SupervisorTrains">Spans in which the booked supervisor holds trainer authority here; empty without one.</param>
/// <param name="SupervisorCertified">Spans in which the booked supervisor holds a certificate here.</param>
/// <param name="SupervisorBusy">Spans in which the booked supervisor attends elsewhere; in facts of before version 3, supervises
/// too.</param>
/// <param name="SupervisorTeaches">Spans in which the booked supervisor teaches a class.</param>
/// <param name="SupervisorRuns">Runs that the booked supervisor supervises already.</param>
/// <param name="Owed">Reading that the certificates held at the start rest on and that is not done.</param>
/// <param name="AddOns">Authorities this machine asks for beside its own, and when.</param>
/// <param name="Holds">Certificates under review or suspended.</param>
/// <param name="Ways">For authorities the person does not hold: what their path still asks. Only loaded for the soonest way.</param>
public sealed record TrainingFacts(
    Fact<IReadOnlyList<Certificate>> Certificates,
    Fact<Instant?> LastUse,
    IReadOnlyList<Span> SupervisorTrains,
    IReadOnlyList<Span> SupervisorCertified,
    IReadOnlyList<Span> SupervisorBusy,
    IReadOnlyList<Span>? SupervisorTeaches = null,
    IReadOnlyList<Span>? SupervisorRuns = null,
    IReadOnlyList<OwedTheory>? Owed = null,
    IReadOnlyList<AddOnFacts>? AddOns = null,
    IReadOnlyList<CertificateHold>? Holds = null,
    IReadOnlyList<WayFacts>? Ways = null
);

/// <param name="Name">What people call it.</param>
public sealed record AddOnFacts(string Authority, string Name, AddOnNeed Need);

/// <param name="Steps">What is not done before the sign-off, in order; a step that waits for a time says from when.</param>
public sealed record WayFacts(string Authority, IReadOnlyList<WayStep> Steps);

/// <param name="Rulings">Rulings for this material and kind of laser, with the span each holds.</param>
/// <param name="TwinNames">Names of banned or never look-alikes.</param>
/// <param name="Tag">The sheet by the tag given; known null means there is no such tag.</param>
/// <param name="UnderReview">Incidents after which the material’s rulings are looked at again; null in facts of before version
/// 6.</param>
public sealed record SheetFacts(
    string MaterialName,
    bool HeavyResidue,
    decimal CutEnergyJPerMm2,
    Fact<IReadOnlyList<HeldRuling>> Rulings,
    IReadOnlyList<string> TwinNames,
    Fact<TagFacts?> Tag,
    IReadOnlyList<IncidentHold>? UnderReview = null
);

public sealed record HeldRuling(Ruling Ruling, Span Held);

/// <param name="Cleared">Clearances with the machines and operations they serve.</param>
/// <param name="WidthMm">Size on the tag; null in facts of before version 5. So too <paramref name="HeightMm"/>.</param>
/// <param name="IncidentHolds">Those of the quarantines that an incident set; null in facts of before version 6.</param>
public sealed record TagFacts(
    SheetTag Tag,
    MaterialId MaterialId,
    string MaterialName,
    decimal ThicknessMm,
    IReadOnlyList<ClearanceFacts> Cleared,
    IReadOnlyList<Span> Quarantined,
    decimal? WidthMm = null,
    decimal? HeightMm = null,
    IReadOnlyList<IncidentHold>? IncidentHolds = null
);

/// <summary>What an incident keeps shut until somebody has looked.</summary>
/// <param name="Number">Of the incident.</param>
public sealed record IncidentHold(Span Held, int Number);

/// <param name="MachineIds">Empty means every machine.</param>
public sealed record ClearanceFacts(Span Held, IReadOnlyList<Operation> Operations, IReadOnlyList<MachineId> MachineIds);

/// <param name="Drawing">The drawing as read; known null means there is no such drawing, or it belongs to somebody else.</param>
public sealed record DrawingFacts(bool Given, Fact<DrawingSummary?> Drawing);

/// <param name="Stops">Spans in which the machine is stopped; no end until it is returned.</param>
/// <param name="Upkeep">Tasks with the instant each becomes overdue.</param>
/// <param name="FixturesHere">Fixtures this machine takes and the house has.</param>
/// <param name="Readings">Coolant and airflow within range.</param>
/// <param name="Tested">Materials and thicknesses with a test result on this machine.</param>
/// <param name="IncidentStops">Those of the stops that an incident set; null in facts of before version 6.</param>
/// <param name="LookAsked">Somebody told of a flame or smoke here without a name, and nobody has looked since; so too null.</param>
public sealed record MachineFacts(
    MachineSpec Spec,
    Fact<IReadOnlyList<Span>> Stops,
    Fact<IReadOnlyList<UpkeepFacts>> Upkeep,
    IReadOnlyList<string> FixturesHere,
    Fact<bool> Readings,
    IReadOnlyList<TestedFacts> Tested,
    IReadOnlyList<IncidentHold>? IncidentStops = null,
    IReadOnlyList<Span>? LookAsked = null
)
{
    /// <summary>What a controller reads at the machine; null without one, and before somebody is there.</summary>
    public LiveReadings? Live { get; init; }

    /// <summary>Where the fixture asked for is; null where it lies at hand, and in facts of before version 9.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public FixtureFacts? Fixture { get; init; }

    /// <summary>Faults that were told and are open; null in facts of before version 10.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<FaultFacts>? Faults { get; init; }

    /// <summary>What was last read at the machine, by hand or in a run; null where nobody did, and in facts of before version 10.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public MeasuredFacts? Measured { get; init; }

    /// <summary>
    /// Results of before the machine's optics were last touched: they count no more, and say why. Null in facts of before version 10.
    /// </summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<TestedFacts>? TestedBefore { get; init; }

    /// <summary>How it was set up, and its interlocks since; null in facts of before version 11.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public SetUpFacts? SetUp { get; init; }

    /// <summary>When something last ran on it, or it was looked at after a break; null where neither is known.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public Instant? UsedAt { get; init; }

    /// <summary>Why it counts as class 4 whatever its form says; worked out by the gate, and never stored.</summary>
    [JsonIgnore]
    public string? CountsAsFour { get; init; }

    /// <summary>Closures long enough for idle clocks to stand still; null in facts of before version 11.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<Span>? LongClosures { get; init; }
}

/// <summary>A fault that somebody told of.</summary>
/// <param name="Seen">What was seen, in words.</param>
/// <param name="MayDo">What a member may still do.</param>
/// <param name="Held">From when on it stands so; where it stops the machine, as long as that stop.</param>
public sealed record FaultFacts(int Number, string Seen, FaultStanding Standing, IReadOnlyList<string> MayDo, Span Held);

/// <summary>What was last read at a machine, each with when.</summary>
/// <param name="AirflowM3PerHour">With the extraction on: it changes slowly, and counts until the next.</param>
/// <param name="CoolantC">Counts for hours; so too <paramref name="RoomC"/>.</param>
public sealed record MeasuredFacts(
    decimal? AirflowM3PerHour = null,
    Instant? AirflowAt = null,
    decimal? CoolantC = null,
    Instant? CoolantAt = null,
    decimal? RoomC = null,
    Instant? RoomAt = null
)
{
    /// <summary>A temperature says nothing of later than so long after it was read. House practice.</summary>
    public static readonly Duration TemperatureFor = Duration.FromHours(4);

    /// <summary>What of it says something of a run that begins at <paramref name="start"/>.</summary>
    public LiveReadings At(Instant start) =>
        new(
            FanOn: AirflowM3PerHour is not null,
            AirflowM3PerHour: AirflowM3PerHour,
            CoolantC: CoolantAt is { } c && start < c + TemperatureFor ? CoolantC : null,
            RoomC: RoomAt is { } r && start < r + TemperatureFor ? RoomC : null
        );
}

/// <summary>Where a fixture is that does not lie at hand.</summary>
/// <param name="Out">From when it was handed out to when it is due back; null while nobody has it.</param>
/// <param name="Mine">The person who asks has it.</param>
/// <param name="DamagedSince">It came back damaged, and nobody put it right.</param>
public sealed record FixtureFacts(Span? Out, bool Mine, Instant? DamagedSince);

/// <param name="OverdueFrom">Null while it is not, as far as is known.</param>
public sealed record UpkeepFacts(string Task, Instant? OverdueFrom)
{
    /// <summary>Null in facts of before version 10.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public Instant? DueFrom { get; init; }
}

/// <param name="Operation">What was tested; null in facts of before version 5, which then prove nothing.</param>
/// <param name="At">When it came out clean.</param>
public sealed record TestedFacts(MaterialId MaterialId, decimal ThicknessMm, Operation? Operation = null, Instant? At = null);

/// <param name="MachineTaken">Spans for which the machine is held by others.</param>
/// <param name="FixtureTaken">Spans for which the fixture is held.</param>
/// <param name="PersonBooked">The person's bookings from the start of this week, for the house limits.</param>
/// <param name="Closures">When the house, or this machine, is closed.</param>
/// <param name="Classes">Classes that this machine is kept for.</param>
/// <param name="NoShows">When bookings of the person began that nobody came to; null in facts of before version 8.</param>
public sealed record TimeFacts(
    Fact<IReadOnlyList<Span>> MachineTaken,
    Fact<IReadOnlyList<Span>> FixtureTaken,
    Fact<IReadOnlyList<Span>> PersonBooked,
    IReadOnlyList<ClosureFacts>? Closures = null,
    IReadOnlyList<ClassFacts>? Classes = null,
    IReadOnlyList<Instant>? NoShows = null
)
{
    /// <summary>What is held of the finishing benches; null where none is asked for, and in facts of before version 9.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<BenchFacts>? Benches { get; init; }

    /// <summary>Of the person's bookings those in a class they are on the roster of; null in facts of before version 9.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<Span>? InClass { get; init; }
}

/// <param name="Number">Of the bench, from 1.</param>
public sealed record BenchFacts(int Number, Span Held);

/// <param name="Title">What people are told; not kept with a decision.</param>
public sealed record ClosureFacts(Guid Plan, string Title, Span During);

/// <param name="AdultId">Who supervises the class.</param>
/// <param name="OnRoster">True when the person who asks is on its roster.</param>
/// <param name="AtOnce">How many of the class may run a machine at one time.</param>
/// <param name="Running">Spans for which others of the class hold a machine.</param>
public sealed record ClassFacts(
    Guid Plan,
    string Title,
    Span During,
    PersonId AdultId,
    bool OnRoster,
    int AtOnce,
    IReadOnlyList<Span> Running
);

/// <param name="FireKit">Each item with the instant it goes out of date.</param>
/// <param name="OnDuty">Spans with a steward in the building.</param>
/// <param name="RotaUntil">The rota is written up to here; beyond it, duty is foreseeable.</param>
/// <param name="Shut">Spans in which an incident keeps the room shut; null in facts of before version 6.</param>
/// <param name="Air">What the room has against carbon monoxide; unknown where nobody described it, null in facts of before version
/// 5.</param>
/// <param name="Seen">Somebody on duty now has tapped in; null where nobody is, and in facts of before anybody was asked to.</param>
public sealed record RoomFacts(
    Fact<IReadOnlyList<KitFacts>> FireKit,
    Fact<IReadOnlyList<Span>> OnDuty,
    Instant RotaUntil,
    Fact<IReadOnlyList<EyewearFacts>> Eyewear,
    Fact<RoomAirFacts>? Air = null,
    IReadOnlyList<IncidentHold>? Shut = null,
    bool? Seen = null
);

/// <param name="CoAlarm">A carbon-monoxide alarm hangs in the room.</param>
/// <param name="FreshAir">The room gets fresh air by a way that is written down.</param>
public sealed record RoomAirFacts(bool CoAlarm, bool FreshAir)
{
    public static RoomAirFacts Of(RoomSpec room) => new(room.CoAlarm, !string.IsNullOrWhiteSpace(room.FreshAir));
}

/// <param name="Wrong">What the last look found wrong with it, in words; null where nothing, or nobody has looked, and in facts of before
/// version 12.</param>
public sealed record KitFacts(string Name, Instant? InDateUntil, string? Wrong = null, Instant? WrongSince = null);

/// <param name="OpticalDensity">OD over the whole range from <paramref name="MinNm"/> to <paramref name="MaxNm"/>.</param>
public sealed record EyewearFacts(string Name, int MinNm, int MaxNm, decimal OpticalDensity, bool DamageRated, int Count);

/// <summary>One entry of the house's library of settings.</summary>
/// <param name="JPerMm">What each millimetre of line gets, all passes together.</param>
/// <param name="PitchMm">Between two lines of engraving; null for lines.</param>
/// <param name="Held">From its entry to the day it was taken out.</param>
/// <param name="Flames">How often a flame stayed with it, ever.</param>
/// <param name="Clean">What came out clean with it, since the machine's optics were last touched.</param>
public sealed record SettingFacts(
    Guid Id,
    int Number,
    MachineId MachineId,
    MaterialId MaterialId,
    decimal ThicknessMm,
    Operation Operation,
    decimal JPerMm,
    decimal SpeedMmS,
    int Passes,
    decimal? PitchMm,
    Span Held,
    int Flames,
    IReadOnlyList<CleanFacts> Clean
);

/// <param name="ThicknessMm">Measured, of the sheet that came out clean.</param>
/// <param name="Tag">Of that sheet; null where it had none.</param>
public sealed record CleanFacts(decimal ThicknessMm, SheetTag? Tag, Instant At);
