using System.Text.Json.Serialization;
using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Run;

namespace VelvetGate.Core.Station;

/// <summary>Where a session stands: one thing at a time.</summary>
public enum StationStep
{
    Checks,
    Sheet,
    Focus,
    Settings,
    Frame,
    Air,
    Confirm,
    Running,
    Wait,
    Unload,
    Next,
    Close,
}

/// <summary>A place that was looked at.</summary>
/// <param name="Wrong">What was wrong; null where it was good.</param>
public sealed record PlaceLooked(string Id, Instant At, string? Wrong = null);

/// <param name="Mm">As it was measured, each place.</param>
public sealed record SheetSeen(SheetTag? Tag, IReadOnlyList<decimal> Mm)
{
    /// <summary>Stock brought in, and plywood, is measured at three places. Common practice.</summary>
    /// <param name="material">Its name; null where nobody knows it.</param>
    public static bool IsUneven(bool broughtIn, string? material) =>
        broughtIn || material is null || material.Contains("plywood", StringComparison.OrdinalIgnoreCase);

    /// <summary>Against the ruling and the machine’s limit.</summary>
    [JsonIgnore]
    public decimal Thickest => Mm.Max();

    /// <summary>Against the settings: what is set for more than that burns.</summary>
    [JsonIgnore]
    public decimal Thinnest => Mm.Min();
}

/// <summary>What the machine is set to.</summary>
/// <param name="Id">The entry of the library; null for values of one’s own.</param>
public sealed record SetTo(Guid? Id, decimal PowerPercent, decimal SpeedMmPerS, int Passes)
{
    /// <summary>Energy on a line, in per cent of full power times seconds for a millimetre: compares settings of one machine.</summary>
    [JsonIgnore]
    public decimal Dose => PowerPercent * Passes / SpeedMmPerS;

    [JsonIgnore]
    public string Says =>
        string.Create(
            System.Globalization.CultureInfo.InvariantCulture,
            $"{PowerPercent:0.##} %, {SpeedMmPerS:0.##} mm/s, {(Passes == 1 ? "1 pass" : $"{Passes} passes")}"
        );
}

/// <summary>A beam that was let on, from the start to the word that it is off.</summary>
/// <param name="HighSeconds">How long it takes at most, as estimated.</param>
/// <param name="Deadline">Nobody pressed by then: attention has lapsed.</param>
/// <param name="Extra">The one extra pass over the lines that are not through.</param>
/// <param name="BrokenOff">It was stopped before its end.</param>
public sealed record BeamRun(
    Instant Start,
    double LowSeconds,
    double HighSeconds,
    Instant Deadline,
    bool Extra = false,
    int Lapses = 0,
    Instant? End = null,
    bool BrokenOff = false
)
{
    /// <summary>No press goes beyond it: closing time, a certificate, duty.</summary>
    public Instant FixedEnd { get; init; } = Instant.MaxValue;

    /// <summary>The controller let the beam on; null before, and without a controller.</summary>
    public Instant? OnAt { get; init; }

    /// <summary>The controller took it away, and it may come back; null while it is on.</summary>
    public Instant? OffAt { get; init; }

    /// <summary>Paused since; null while it is not.</summary>
    public Instant? PausedAt { get; init; }

    /// <summary>After a stop: the controller’s own word that the beam is off.</summary>
    public Instant? SeenOffAt { get; init; }

    /// <summary>Somebody pressed the machine’s own stop, since the controller did not answer.</summary>
    public Instant? SaidOffAt { get; init; }

    /// <summary>Stopped, and nobody has said why yet.</summary>
    public bool AsksWhy { get; init; }
}

/// <param name="Until">When the lid may be opened at the earliest; null where a steward says.</param>
public sealed record LidShut(Instant From, Instant? Until, string Why)
{
    /// <summary>How long, each time that it is shut again; null where a steward says.</summary>
    public int? Seconds { get; init; }

    /// <summary>After what.</summary>
    public BeamLeft Left { get; init; }

    /// <summary>It is open now, as its contact says.</summary>
    public bool Open { get; init; }

    /// <summary>It was opened before its time.</summary>
    public bool Early { get; init; }
}

/// <summary>A run that is over and was told.</summary>
public sealed record RunTold(Guid Id, int Item, Instant Start, Instant End, Outcome Outcome, bool Moved, bool Extra);

/// <summary>One person at one machine, from tapping in to tapping out. Held as data: the same acts give the same session.</summary>
public sealed record StationSession
{
    public required Guid Id { get; init; }
    public required MachineId MachineId { get; init; }
    public required PersonId Person { get; init; }
    public PersonId? Supervisor { get; init; }
    public required Guid Booking { get; init; }
    public string? Fixture { get; init; }
    public required Instant TappedIn { get; init; }

    /// <summary>End of the booking.</summary>
    public required Instant Until { get; init; }
    public required IReadOnlyList<GateItem> Items { get; init; }

    /// <summary>Raised by every act: what was decided on an older one is refused.</summary>
    public int Version { get; init; }
    public StationStep Step { get; init; }
    public required IReadOnlyList<PlaceCheck> Places { get; init; }
    public IReadOnlyList<PlaceLooked> Looked { get; init; } = [];
    public Instant? FanOn { get; init; }

    /// <summary>Which of the items is on the bed, from 0.</summary>
    public int Item { get; init; }
    public SheetSeen? Sheet { get; init; }
    public string? Focus { get; init; }
    public SetTo? Set { get; init; }
    public bool Framed { get; init; }

    /// <summary>When somebody last saw the extraction draw.</summary>
    public Instant? AirSeen { get; init; }
    public bool Assist { get; init; }

    /// <summary>The three sentences were said of this sheet.</summary>
    public bool Confirmed { get; init; }

    /// <summary>The next start is the one extra pass.</summary>
    public bool Extra { get; init; }
    public BeamRun? Run { get; init; }
    public LidShut? Lid { get; init; }
    public IReadOnlyList<RunTold> Runs { get; init; } = [];
    public int Lapses { get; init; }
    public IReadOnlyList<string> Closed { get; init; } = [];
    public Instant? TappedOut { get; init; }

    /// <summary>The machine was left alone with hot work: the looks come again before anything else.</summary>
    public bool LooksAgain { get; init; }

    /// <summary>Somebody else comes after, and leaves head and fixture for the night.</summary>
    public bool ShortClosing { get; init; }

    /// <summary>What is left in order, by place.</summary>
    [JsonIgnore]
    public IReadOnlyList<(string Id, string Title)> ToClose =>
        ShortClosing ? [.. SessionActs.Closing.Where(c => c.Id != SessionActs.Overnight)] : SessionActs.Closing;

    /// <summary>What the session before left undone, told to this one.</summary>
    public IReadOnlyList<string> Found { get; init; } = [];

    /// <summary>What this one leaves undone: nothing where no beam was on.</summary>
    [JsonIgnore]
    public IReadOnlyList<string> LeftOpen =>
        Runs.Count == 0 && Run is null
            ? []
            :
            [
                .. Run is null ? [] : (string[])["a run that nobody told"],
                .. ToClose.Where(c => !Closed.Contains(c.Id)).Select(c => c.Title),
            ];

    /// <summary>Whose booking it is, where it was handed over; null where it is the person’s own.</summary>
    public PersonId? BookedBy { get; init; }

    /// <summary>When the supervisor last tapped here; null before the first time.</summary>
    public Instant? SupervisorAt { get; init; }

    /// <summary>Whoever tapped to stand by.</summary>
    public StandsBy? Beside { get; init; }

    /// <summary>When somebody last did something in it; null before the first time.</summary>
    public Instant? SeenAt { get; init; }

    /// <summary>Nobody said for too long, while preparing, that they were here; until the looks are done anew.</summary>
    public bool Unattended { get; init; }

    /// <summary>How many came along.</summary>
    public int Companions { get; init; }

    /// <summary>The code at the machine was scanned then, for the next start; null since the last.</summary>
    public Instant? HereAt { get; init; }

    /// <summary>One of two taps of a hand-over.</summary>
    public HandOver? Over { get; init; }

    /// <summary>Something waits for a steward, or for another certified person.</summary>
    [JsonIgnore]
    public bool AsksSomebody => Held is not null || Lapses > 0 || Run is { Lapses: > 0 };

    /// <summary>The one who tapped to stand by is still taken to be there.</summary>
    public StandsBy? BesideAt(Instant now) => Beside is { } by && now - by.At <= Taps.StandsByFor ? by : null;

    /// <summary>A controller is bound to the machine: without its word no beam starts.</summary>
    public bool Controlled { get; init; }

    /// <summary>Somebody who may has to come before anything goes on.</summary>
    public string? Held { get; init; }

    /// <summary>The last run left lines that are not through, nothing moved, and it was not an extra pass itself.</summary>
    [JsonIgnore]
    public bool MayExtra => Held is null && Runs is [.., { Outcome: Outcome.NotThrough, Moved: false, Extra: false }];

    [JsonIgnore]
    public GateItem On => Items[Item];

    /// <summary>Stopped, and neither the controller nor anybody at the machine has said that the beam is off.</summary>
    [JsonIgnore]
    public bool BeamUnknown => Controlled && Step == StationStep.Wait && Run is { SeenOffAt: null, SaidOffAt: null };

    /// <summary>The wait is counted from here: the beam was on until now.</summary>
    public StationSession OffFrom(Instant at) =>
        Lid is not { } lid || at <= lid.From
            ? this
            : this with
            {
                Lid = lid with { From = at, Until = lid.Seconds is { } seconds ? at + Duration.FromSeconds(seconds) : null },
            };

    /// <summary>The extraction is meant to run.</summary>
    [JsonIgnore]
    public bool FanMeant => Step >= StationStep.Air;

    [JsonIgnore]
    public bool Beam => Step == StationStep.Running && Run is { End: null };

    /// <summary>The sheet on the bed as it is judged: as measured, with what the machine is set to.</summary>
    [JsonIgnore]
    public GateItem Measured =>
        On with
        {
            ThicknessMm = Sheet?.Thickest ?? On.ThicknessMm,
            SheetTag = Sheet?.Tag ?? On.SheetTag,
            SettingIds =
                Set?.Id is { } id ? [id]
                : Set is null ? On.SettingIds
                : null,
        };
}
