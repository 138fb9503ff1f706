using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating;

/// <summary>What the posts time and room can say.</summary>
public static partial class Codes
{
    public static readonly Rule TimeTaken = Shut(
        "time.taken",
        Post.Time,
        "The machine or the fixture is booked then.",
        "one job at a time"
    ) with
    {
        Remedies = [Remedies.TimeOther],
    };

    public static readonly Rule BenchTaken = Shut(
        "bench.taken",
        Post.Time,
        "No finishing bench is free when it is asked for.",
        "one person at a bench",
        changedIn: 5
    ) with
    {
        Remedies = [Remedies.BenchOther],
        Settings = [nameof(HouseRules.FinishingBenches)],
    };

    public static readonly Rule TimePast = Shut("time.past", Post.Time, "The time is past.", "the clock") with
    {
        Remedies = [Remedies.TimeOther],
    };

    public static readonly Rule TimeClosed = Shut(
        "time.closed",
        Post.Time,
        "The house is not open for the whole time.",
        "opening hours"
    ) with
    {
        Remedies = [Remedies.TimeOther],
        Settings = [nameof(HouseRules.Hours)],
    };

    public static readonly Rule TimeClosure = Shut(
        "time.closure",
        Post.Time,
        "The house is closed that day.",
        "a closure in the house calendar"
    ) with
    {
        Remedies = [Remedies.TimeOther],
    };

    public static readonly Rule TimeClass = Shut(
        "time.class",
        Post.Time,
        "A class has the machine then.",
        "a class in the house calendar"
    ) with
    {
        Remedies = [Remedies.TimeOther],
    };

    public static readonly Rule TimeClassFull = Shut(
        "time.classFull",
        Post.Time,
        "As many of the class run as may at once.",
        "how many of a class may run at once (house rule)",
        changedIn: 2
    ) with
    {
        Remedies = [Remedies.TimeOther],
        Settings = [nameof(HouseRules.MachinesPerAdult), nameof(HouseRules.LearnersPerTrainer)],
    };

    public static readonly Rule TimeLastRun = Shut(
        "time.lastRun",
        Post.Time,
        "The last run would end too near to closing.",
        "embers start fires after closing (common practice)"
    ) with
    {
        Remedies = [Remedies.TimeOther],
        Settings = [nameof(HouseRules.LastRunBeforeCloseMinutes)],
    };

    public static readonly Rule TimeTooShort = Shut(
        "time.tooShort",
        Post.Time,
        "The time is shorter than the job needs.",
        "booking length (common practice)",
        changedIn: 4
    ) with
    {
        Remedies = [Remedies.TimeLonger],
        Settings =
        [
            nameof(HouseRules.ChecksMinutes),
            nameof(HouseRules.TestPieceMinutes),
            nameof(HouseRules.RunFactor),
            nameof(HouseRules.ReloadMinutes),
            nameof(HouseRules.ChangeoverMinutes),
            nameof(HouseRules.AirMixingFactor),
            nameof(HouseRules.AirResidual),
            nameof(HouseRules.AirClearingFloorSeconds),
            nameof(HouseRules.CleanDownMinutes),
            nameof(HouseRules.CleanDownResidueMinutes),
            nameof(HouseRules.SlotMinutes),
        ],
    };

    public static readonly Rule TimeUnknownRun = new Rule(
        Code: "time.unknownRun",
        Post: Post.Time,
        Means: "How long the job runs is not known.",
        AtBooking: Standing.Ask,
        AtMachine: Standing.Shut,
        LiftedBy: LiftedBy.Steward,
        Source: "unknown is never clear: the run decides how long a booking has to be",
        ChangedIn: 2
    ) with
    {
        Remedies = [Remedies.AskRun],
    };

    public static readonly Rule TimeSameDay = Shut(
        "time.sameDay",
        Post.Time,
        "The house takes no bookings for the same day.",
        HouseRule
    ) with
    {
        Remedies = [Remedies.TimeOther],
        Settings = [nameof(HouseRules.SameDayBooking)],
        AtStanding = Standing.Clear,
        AtMachine = Standing.Clear,
    };

    public static readonly Rule TimeWalkUp = Shut(
        "walkup.off",
        Post.Time,
        "The house takes no walk-ups: a booking is made half an hour before it starts, or earlier.",
        HouseRule,
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.TimeOther],
        Settings = [nameof(HouseRules.WalkUp)],
        AtStanding = Standing.Clear,
        AtMachine = Standing.Clear,
    };

    public static readonly Rule TimeLimit = Ask(
        "time.limit",
        Post.Time,
        "A limit of the house for one person’s bookings.",
        HouseRule,
        changedIn: 4
    ) with
    {
        Remedies = [Remedies.TimeOther, Remedies.TimeShorter, Remedies.BookingCancel],
        Settings =
        [
            nameof(HouseRules.LongestBookingMinutes),
            nameof(HouseRules.OpenBookingsPerPerson),
            nameof(HouseRules.HoursPerPersonDay),
            nameof(HouseRules.HoursPerPersonWeek),
            nameof(HouseRules.PeakHoursPerPersonWeek),
            nameof(HouseRules.PeakFromHour),
            nameof(HouseRules.PeakToHour),
        ],
    };

    public static readonly Rule TimeTooFarAhead = Ask(
        "time.tooFarAhead",
        Post.Time,
        "Further ahead than the house takes bookings.",
        HouseRule,
        changedIn: 4
    ) with
    {
        Remedies = [Remedies.TimeOther],
        Settings = [nameof(HouseRules.BookAheadDays)],
        AtStanding = Standing.Clear,
        AtMachine = Standing.Clear,
    };

    public static readonly Rule TimeLead = Shut(
        "time.lead",
        Post.Time,
        "Too near to its start for a booking, and too early for a walk-up.",
        HouseRule,
        changedIn: 4
    ) with
    {
        Remedies = [Remedies.TimeOther],
        Settings = [nameof(HouseRules.BookLeadMinutes)],
        AtStanding = Standing.Clear,
        AtMachine = Standing.Clear,
    };

    public static readonly Rule TimeNoShows = Ask(
        "time.noShows",
        Post.Time,
        "Too many bookings of late went to nobody.",
        "no-shows keep others from the machine (common practice)",
        changedIn: 4
    ) with
    {
        Remedies = [Remedies.TimeOther],
        Settings = [nameof(HouseRules.NoShowsBeforePause), nameof(HouseRules.NoShowPauseDays)],
        AtStanding = Standing.Clear,
        AtMachine = Standing.Clear,
    };

    public static readonly Rule TimeUnknown = Shut(
        "time.unknown",
        Post.Time,
        "The bookings could not be loaded.",
        "unknown is never clear"
    ) with
    {
        Remedies = [Remedies.HouseLook],
    };

    public static readonly Rule RoomKitOut = Shut(
        "room.kitOut",
        Post.Room,
        "Fire kit is missing, out of date or not in order.",
        "fire kit present, in date and whole (common practice)",
        changedIn: 8
    ) with
    {
        Remedies = [Remedies.HouseKit, Remedies.KitLook],
        Assumed = Assumption.KitThere,
    };

    public static readonly Rule RoomIncident = Shut(
        "room.incident",
        Post.Room,
        "An incident keeps the room shut.",
        "after suspected toxic fume everybody is out until the room is aired (common practice)"
    ) with
    {
        Remedies = [Remedies.IncidentEnd],
        Assumed = Assumption.Aired,
    };

    public static readonly Rule RoomNoSupervisor = Shut("room.noSupervisor", Post.Room, "Nobody who has to be there is.", HouseRule) with
    {
        Remedies = [Remedies.TimeOther, Remedies.TrainingSupervisor],
        Settings = [nameof(HouseRules.Supervision)],
    };

    public static readonly Rule RoomRotaOpen = new Rule(
        Code: "room.rotaOpen",
        Post: Post.Room,
        Means: "The rota of stewards does not reach that far.",
        AtBooking: Standing.Caution,
        AtMachine: Standing.Shut,
        LiftedBy: LiftedBy.Nobody,
        Source: HouseRule
    ) with
    {
        Remedies = [Remedies.HouseRota],
        Settings = [nameof(HouseRules.Supervision)],
    };

    public static readonly Rule RoomNotSeen = Caution(
        "room.notSeen",
        Post.Room,
        "The rota names a steward, and nobody on duty has tapped in.",
        "a rota says who should be there, a tap who is (common practice)",
        changedIn: 4
    ) with
    {
        Settings = [nameof(HouseRules.Supervision)],
    };

    public static readonly Rule RoomSecondPerson = Caution(
        "room.secondPerson",
        Post.Room,
        "A second person stays within call.",
        HouseRule
    ) with
    {
        Settings = [nameof(HouseRules.Supervision)],
    };

    public static readonly Rule RoomFreshAir = Shut(
        "room.freshAir",
        Post.Room,
        "Filtered air is blown back, and fresh air or an alarm is missing.",
        "a filter removes no carbon monoxide: fresh air and an alarm (common practice)",
        changedIn: 7
    ) with
    {
        Remedies = [Remedies.HouseRoom],
        Assumed = Assumption.AirThere,
    };

    public static readonly Rule RoomEyewear = Shut(
        "room.eyewear",
        Post.Room,
        "No eyewear of the house covers the beam, or too few pairs for those who come.",
        "optical density for the beam (ANSI Z136.1 / IEC 60825-1, from memory)",
        changedIn: 4
    ) with
    {
        Remedies = [Remedies.HouseEyewear],
    };

    public static readonly Rule EyewearNotCovered = Shut(
        "eyewear.notCovered",
        Post.Room,
        "Which eyewear covers the beam is not worked out here.",
        "exposure limits are known here from 400 to 1400 nm and at 10.6 µm; elsewhere a laser safety officer works it out",
        changedIn: 2
    ) with
    {
        Remedies = [Remedies.MachineClose],
    };

    public static readonly Rule RoomWearEyewear = Caution(
        "room.wearEyewear",
        Post.Room,
        "Eyewear is worn in the room.",
        "an open beam (common practice)",
        changedIn: 2
    ) with
    {
        Settings = [nameof(HouseRules.EyewearAlways)],
    };

    public static readonly Rule RoomUnknown = Shut(
        "room.unknown",
        Post.Room,
        "The state of the room could not be loaded.",
        "unknown is never clear"
    ) with
    {
        Remedies = [Remedies.HouseLook],
    };
}
