using NodaTime;

namespace VelvetGate.Core.House;

/// <summary>
/// What members do themselves of the upkeep. Schools of practice differ; high voltage is nobody’s but a named repairer’s.
/// </summary>
public enum MemberUpkeep
{
    /// <summary>Users service nothing.</summary>
    Nothing,

    /// <summary>What a task gives to members: nozzle, lens, bed; never mirrors.</summary>
    NozzleAndLens,

    /// <summary>Mirrors too, where the covers over them are marked free of voltage.</summary>
    MarkedMirrors,
}

/// <summary>How much of the machine each person leaves in order.</summary>
public enum ClosingSchool
{
    /// <summary>Each person leaves bed, head and fan as they were found.</summary>
    Each,

    /// <summary>Head and fixture are the last one’s of the day; bed and fan are everybody’s.</summary>
    LastOfDay,
}

/// <summary>Who on the waiting list is offered a freed time first. Houses differ.</summary>
public enum WaitingOrder
{
    /// <summary>Whoever waits the longest.</summary>
    FirstCome,

    /// <summary>Whoever has the fewest hours booked in the week of the time; then whoever waits the longest.</summary>
    FewestHours,
}

/// <summary>Who has to bring a drawing that was checked.</summary>
public enum DrawingWanted
{
    Nobody,

    /// <summary>Whoever has held their certificate for less than a month.</summary>
    Newcomers,
    Everybody,
}

/// <summary>Who has to be there for a run, by pack.</summary>
public enum Supervision
{
    /// <summary>A named adult with a certificate in the room.</summary>
    AdultInRoom,

    /// <summary>A steward on duty in the building.</summary>
    StewardOnDuty,

    /// <summary>A second person within call.</summary>
    SecondPersonInCall,
}

/// <summary>What follows an unattended run, a bypassed interlock or stock that is never allowed.</summary>
public enum Conduct
{
    /// <summary>A warning ladder; an adult decides.</summary>
    WarningLadder,

    /// <summary>A ladder for other things; a pause at once for the three.</summary>
    LadderAndPause,

    /// <summary>A pause at once for the three.</summary>
    PauseAtOnce,
}

/// <summary>Which card hangs at the machines. Houses differ; the spine is common to all (common practice).</summary>
public enum CardVariant
{
    /// <summary>Nobody but a named adult fights a fire: stop, out, call.</summary>
    StopAndLeave,

    /// <summary>A trained person may put a small flame out with the extinguisher of the house.</summary>
    TrainedExtinguisher,

    /// <summary>Embers and small flames are smothered with a spare sheet, the extinguisher after.</summary>
    SmotherFirst,

    /// <summary>The machine's suppression button first, ten seconds, then CO2 through the lid opened a crack.</summary>
    SuppressionThenCo2,
}

/// <summary>
/// Opening hours of one weekday; equal times mean closed all day. Midnight as <paramref name="Closes"/> is the day's end.
/// </summary>
public sealed record OpeningDay(IsoDayOfWeek Day, LocalTime Opens, LocalTime Closes);

/// <summary>One dated version of a house's rules. Minutes unless the name says otherwise.</summary>
public sealed record HouseRules
{
    public required string HouseName { get; init; }

    /// <summary>IANA zone, such as Europe/London.</summary>
    public required string ZoneId { get; init; }
    public required string Pack { get; init; }
    public required IReadOnlyList<OpeningDay> Hours { get; init; }
    public required ColourMap Colours { get; init; }
    public required Supervision Supervision { get; init; }
    public required int AttendFromAge { get; init; }
    public required int AloneFromAge { get; init; }

    /// <summary>Months a certificate runs; 0 means to the end of the school year, 31 July.</summary>
    public required int CertificateMonths { get; init; }
    public required int IdleLapseDays { get; init; }
    public required bool SameDayBooking { get; init; }
    public required decimal HoursPerPersonDay { get; init; }
    public required decimal HoursPerPersonWeek { get; init; }
    public required int OpenBookingsPerPerson { get; init; }
    public required int NoShowGraceMinutes { get; init; }
    public required int AttentionMinutes { get; init; }
    public required int PauseMinutes { get; init; }

    public int SlotMinutes { get; init; } = 15;
    public decimal ChecksMinutes { get; init; } = 10;
    public decimal RunFactor { get; init; } = 2;
    public decimal ReloadMinutes { get; init; } = 3;
    public decimal CleanDownMinutes { get; init; } = 10;
    public decimal CleanDownResidueMinutes { get; init; } = 15;
    public decimal ChangeoverMinutes { get; init; } = 5;
    public decimal TestPieceMinutes { get; init; } = 10;

    /// <summary>The last run ends this long before the room is locked: embers start fires after closing.</summary>
    public int LastRunBeforeCloseMinutes { get; init; } = 30;
    public int BookAheadDays { get; init; } = 21;
    public int LongestBookingMinutes { get; init; } = 480;

    /// <summary>A booking is made so long before it starts; 0 for no notice. Walk-ups are a rule of their own.</summary>
    public int BookLeadMinutes { get; init; }

    /// <summary>
    /// Hours a week that one person may have between <see cref="PeakFromHour"/> and <see cref="PeakToHour"/>; 0 for no limit.
    /// </summary>
    public decimal PeakHoursPerPersonWeek { get; init; }
    public int PeakFromHour { get; init; } = 17;

    /// <summary>24 for midnight.</summary>
    public int PeakToHour { get; init; } = 21;

    /// <summary>So many no-shows within <see cref="NoShowsCountDays"/> days, and no booking is taken for a while; 0 for never.</summary>
    public int NoShowsBeforePause { get; init; }
    public int NoShowPauseDays { get; init; } = 7;
    public const int NoShowsCountDays = 30;

    /// <summary>Who on the waiting list is asked first.</summary>
    public WaitingOrder WaitingOrder { get; init; }

    /// <summary>Who has to bring a drawing that was checked. Houses differ.</summary>
    public DrawingWanted DrawingWanted { get; init; } = DrawingWanted.Nobody;

    /// <summary>Somebody is new to a machine for so long after their certificate for it begins. House practice.</summary>
    public const int NewcomerDays = 30;

    /// <summary>
    /// A tested setting, plain stock and ten minutes of runs at most: checks and clean-down are shorter. Houses differ.
    /// </summary>
    public bool ShortJobs { get; init; }

    /// <summary>Benches for finishing that are booked like machines; 0 where nobody books them.</summary>
    public int FinishingBenches { get; init; }

    public const decimal UsualResidueWeight = 2;

    /// <summary>How often an hour counts for upkeep that is run on stock of heavy residue. House practice.</summary>
    public decimal ResidueWeight { get; init; } = UsualResidueWeight;

    /// <summary>A machine is gone through anew after so many months at the latest. House practice; local rules may ask for less.</summary>
    public int CommissioningMonths { get; init; } = 36;

    /// <summary>
    /// Interlocks that nobody has tried for so many days show nothing: the machine counts as class 4. House practice: two rounds missed.
    /// </summary>
    public int InterlockDays { get; init; } = 183;

    /// <summary>Nothing ran for so many days: a break, after which a machine is looked at first. House practice.</summary>
    public int BreakDays { get; init; } = 21;

    /// <summary>A closure of so many days or more: idle clocks stand still over it. House practice.</summary>
    public const int LongClosureDays = 7;

    /// <summary>What members do themselves of the upkeep.</summary>
    public MemberUpkeep MemberUpkeep { get; init; } = MemberUpkeep.NozzleAndLens;

    /// <summary>How long a finishing bench is taken where nobody says.</summary>
    public int BenchMinutes { get; init; } = 30;

    /// <summary>Classes and inductions come first: what somebody runs in one does not count against their own hours.</summary>
    public bool ClassesOutsideLimits { get; init; }
    public decimal AirMixingFactor { get; init; } = 3;
    public decimal AirResidual { get; init; } = 0.01m;
    public int AirClearingFloorSeconds { get; init; } = 30;

    /// <summary>Under 18, a guardian's dated consent has to cover machine and time.</summary>
    public bool GuardianConsent { get; init; }

    /// <summary>Somebody may run without having booked before.</summary>
    public bool WalkUp { get; init; } = true;

    /// <summary>Booked so shortly before it starts, somebody walked up.</summary>
    public static readonly Duration WalkUpWithin = Duration.FromMinutes(30);

    /// <summary>Each piece on the same clamped sheet is focused anew. Some houses leave it out for identical pieces.</summary>
    public bool RefocusPieces { get; init; } = true;
    public ClosingSchool Closing { get; init; } = ClosingSchool.Each;

    /// <summary>Whoever begins with a fob types a PIN too: a fob is lent and lost, a PIN less so. Houses differ.</summary>
    public bool PinWithFob { get; init; }
    public int LearnersPerTrainer { get; init; } = 4;

    /// <summary>Runs with a supervisor before a trainer signs a newcomer off. House practice.</summary>
    public int SupervisedRuns { get; init; } = 1;

    /// <summary>
    /// A trainer signs only when every step of the path before is done; otherwise they answer for what is open, and reading may follow
    /// within <see cref="TheoryDays"/>.
    /// </summary>
    public bool CourseBeforeSignOff { get; init; }

    /// <summary>Days in which a new certificate counts without the reading and the quiz of its path. House practice.</summary>
    public int TheoryDays { get; init; } = 14;

    /// <summary>Days before a certificate lapses in which its holder is told. House practice.</summary>
    public int RemindDays { get; init; } = 14;

    /// <summary>Steps of a practical that may need a word before it has to be repeated. House practice.</summary>
    public int PromptsAllowed { get; init; } = 3;

    /// <summary>Machines one supervising adult may have at once, all in one room.</summary>
    public int MachinesPerAdult { get; init; } = 1;
    public int QuizPassPercent { get; init; } = 80;

    /// <summary>Hours before a failed quiz may be tried again; 0 means the next day.</summary>
    public int QuizCoolDownHours { get; init; } = 24;
    public int HouseStockMonths { get; init; } = 12;

    /// <summary>Months a drawing stays on the bench; those that a booking or a waiting question stands on stay longer.</summary>
    public int DrawingMonths { get; init; } = 24;

    /// <summary>Months a brought-in sheet stays cleared; 0 means for one project.</summary>
    public int BroughtInMonths { get; init; } = 3;
    public Conduct Conduct { get; init; } = Conduct.LadderAndPause;

    /// <summary>Polycarbonate may be offered by arrangement, with a written reason.</summary>
    public bool PolycarbonateOffered { get; init; }

    /// <summary>A trained steward may record a copper-wire flame test. It excludes; it never permits, and it is never asked for.</summary>
    public bool FlameTestOffered { get; init; }

    /// <summary>Only closed, interlocked machines run here: schools must, others accept open ones with eyewear and controls.</summary>
    public bool ClosedMachinesOnly { get; init; }

    /// <summary>Eyewear at every running machine, closed ones too: some houses ask for it anyway.</summary>
    public bool EyewearAlways { get; init; }

    /// <summary>
    /// A drawing’s page has to be the sheet it runs on, so that nobody places it by eye. Houses differ; most do not ask it.
    /// </summary>
    public bool PageIsSheet { get; init; }
    public CardVariant Card { get; init; } = CardVariant.TrainedExtinguisher;

    /// <summary>Bookings nobody came to are given back by themselves after the grace.</summary>
    public bool ReleaseNoShows { get; init; }

    /// <summary>Keepers, stewards, trainers and countersigners sign in with a code from a phone beside the password.</summary>
    public bool SecondFactor { get; init; }

    /// <summary>Months a closed account's details stay before they may be erased.</summary>
    public int RetentionMonths { get; init; } = 24;

    /// <summary>
    /// Injury records of a minor stay until this age: three years after 18 is a usual limitation period; local law decides.
    /// </summary>
    public int MinorInjuryUntilAge { get; init; } = 21;

    /// <summary>Minutes that a named person watches after a flame; shorter than usual only with the insurer's paper.</summary>
    public int FireWatchMinutes { get; init; } = FireWatch.Minutes;

    /// <summary>Which paper of the insurer lets the house watch for less.</summary>
    public string FireWatchPaper { get; init; } = "";

    /// <summary>So many times the usual energy of a material in one pass is thick stock in one slow pass. House practice.</summary>
    public decimal HotPassFactor { get; init; } = 1.5m;

    /// <summary>Any member may add to the library of settings; else staff alone. Houses differ: many entries, or few by staff.</summary>
    public bool MembersAddSettings { get; init; } = true;

    /// <summary>What a minute of a run costs; 0 for nothing.</summary>
    public decimal RunMinutePrice { get; init; }

    /// <summary>As the house writes it: €, £, tokens.</summary>
    public string Currency { get; init; } = "";

    /// <summary>What is let pass in a drawing: see <see cref="DrawingTolerances"/>.</summary>
    public decimal NearLinesStopMm { get; init; } = DrawingTolerances.Usual.NearStopMm;
    public decimal CrowdedCutsPercent { get; init; } = DrawingTolerances.Usual.CrowdedPercent;
    public int PicturePpi { get; init; } = DrawingTolerances.Usual.LowestPpi;
    public decimal PictureGreyPercent { get; init; } = DrawingTolerances.Usual.GreyPercent;

    [System.Text.Json.Serialization.JsonIgnore]
    public DrawingTolerances DrawingTolerances => new(NearLinesStopMm, CrowdedCutsPercent, PicturePpi, PictureGreyPercent);

    /// <summary>What a member signs before using a machine.</summary>
    public string Agreement { get; init; } = HouseAgreement.Starting;

    /// <summary>The open hours of one local date as instants; null when closed.</summary>
    public Interval? OpenOn(LocalDate date)
    {
        var hours = Hours.FirstOrDefault(h => h.Day == date.DayOfWeek);
        if (hours is null || hours.Opens == hours.Closes)
            return null;
        return Clock.Between(date, hours.Opens, hours.Closes);
    }

    [System.Text.Json.Serialization.JsonIgnore]
    public HouseClock Clock => HouseClock.For(ZoneId);
}

/// <summary>The words members sign; each house writes its own over them.</summary>
public static class HouseAgreement
{
    public const string Starting =
        "I stay with a running laser, not for a moment leave it. I cut only what the list permits and what I know it to be. "
        + "I never bypass an interlock and never open a panel. I keep the extraction on and wait for the air to clear. "
        + "I know the stop, the alarm and the way out. I say at once when something goes wrong, however small.";
}
