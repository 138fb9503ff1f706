using VelvetGate.Core.House.Forms;

namespace VelvetGate.Core.House;

/// <summary>
/// The forms a keeper fills in for the house: workshop room and rules; that of a machine stands with the machines. Limits keep out
/// slips of the pen; sources stand with the rules themselves.
/// </summary>
public static class HouseSheets
{
    public static IReadOnlyList<FormField> Room { get; } =
    [
        FormField.Text("name", "Room", "Name of the room"),
        FormField.Text("address", "Room", "Address for the fire service", optional: true),
        FormField.Number("volumeM3", "Room", "Volume", "m³", 1, 100000, optional: true) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Text(
            "discharge",
            "Room",
            "Discharge outdoors",
            "Whether it is permitted, and by whom; no nuisance to people outside.",
            optional: true
        ) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Text("freshAir", "Room", "Fresh air", "Filters that blow back want fresh air.", optional: true),
        FormField.Flag("coAlarm", "Room", "A carbon-monoxide alarm hangs here"),
        FormField.Text("keyTimes", "Room", "When key or fob opens it", optional: true) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Choice(
            "extinguisher",
            "Fire",
            "Extinguisher chosen near the machines",
            "Dry powder ruins optics; CO₂ in a small room displaces air. Ask your fire officer.",
            ("co2", "CO₂"),
            ("cleanAgent", "clean agent"),
            ("dryPowder", "dry powder"),
            ("water", "water"),
            ("foam", "foam"),
            ("other", "other")
        ),
        FormField.Text("extinguisherWhere", "Fire", "Where it hangs"),
        FormField.Flag(
            "waterAllowed",
            "Fire",
            "A water spray is in this house’s kit",
            "For embers only, kept away from high voltage. Off where nobody decided it."
        ),
        FormField.Text("alarmPoint", "Fire", "Nearest alarm point"),
        FormField.Text("wayOut", "Fire", "Way out"),
        FormField.Text("meetingPoint", "Fire", "Meeting point"),
        FormField.Text("emergencyCall", "Fire", "Number of the fire service"),
        FormField.Text("whoToTell", "Fire", "Who is told, however small the fire"),
        FormField.Text("firstAid", "Fire", "First aid kit and burns", optional: true),
        FormField.Text("computers", "Things", "Computers that drive the lasers", "The others are for drawing.", optional: true) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Text("cleaningKit", "Things", "Cleaning kit", optional: true) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Text("toolbox", "Things", "Toolbox with measuring tools", optional: true) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Text("stock", "Things", "House stock of tested sheets", optional: true) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Whole(
            "labelColumns",
            "Labels",
            "Labels across a page of A4",
            "",
            1,
            6,
            $"As on the label paper the house buys; {RoomSpec.UsualLabelColumns} where nothing is given.",
            optional: true
        ),
        FormField.Whole(
            "labelRows",
            "Labels",
            "Labels down a page of A4",
            "",
            1,
            16,
            $"{RoomSpec.UsualLabelRows} where nothing is given.",
            optional: true
        ),
    ];

    public static IReadOnlyList<FormField> Rules { get; } =
    [
        FormField.Text("houseName", "House", "Name of the house"),
        FormField.Text("zoneId", "House", "Time zone", "IANA name, such as Europe/London."),
        FormField.Choice(
            "pack",
            "House",
            "Pack it started from",
            "",
            ("school", "school"),
            ("staffedWorkshop", "staffed workshop"),
            ("memberRun", "member-run")
        ),
        new("hours", "House", "Opening hours", FieldKind.Hours),
        new(
            "agreement",
            "House",
            "House agreement",
            FieldKind.LongText,
            Hint: "What every member signs. A new wording holds from its date; people keep what they signed."
        ),
        FormField.Whole("attendFromAge", "People", "Attend from age", "years", 0, 99),
        FormField.Whole("aloneFromAge", "People", "Alone from age", "years", 0, 99),
        FormField.Flag("guardianConsent", "People", "Guardian’s consent under 18"),
        FormField.Choice(
            "supervision",
            "People",
            "Supervision",
            "",
            ("adultInRoom", "a named adult with a certificate in the room"),
            ("stewardOnDuty", "a steward on duty in the building"),
            ("secondPersonInCall", "a second person within call")
        ),
        FormField.Whole("machinesPerAdult", "People", "Machines one adult may supervise at once", "", 1, 10),
        FormField.Choice(
            "conduct",
            "People",
            "Leaving a running laser, a bypassed interlock, stock that is never allowed",
            "",
            ("warningLadder", "warning ladder, an adult decides"),
            ("ladderAndPause", "ladder; pause at once for the three"),
            ("pauseAtOnce", "pause at once for the three")
        ),
        FormField.Flag(
            "secondFactor",
            "People",
            "A code from a phone at sign-in, for keepers, stewards, trainers and countersigners",
            "Each sets it up at their next sign-in. Others may use one too."
        ),
        FormField.Whole("retentionMonths", "People", "Details kept after an account closes", "months", 0, 240),
        FormField.Whole("minorInjuryUntilAge", "People", "A minor’s injury records kept until age", "years", 18, 99, "Local law decides."),
        FormField.Whole(
            "certificateMonths",
            "Training",
            "Certificate valid",
            "months",
            0,
            120,
            "0: to the end of the school year, 31 July."
        ),
        FormField.Whole("idleLapseDays", "Training", "Idle before one supervised run", "days", 1, 1000),
        FormField.Whole("learnersPerTrainer", "Training", "Learners per trainer, hands on", "", 1, 50),
        FormField.Whole("supervisedRuns", "Training", "Supervised runs before a sign-off", "", 0, 50),
        FormField.Flag("courseBeforeSignOff", "Training", "A trainer signs only when every step before is done"),
        FormField.Whole("theoryDays", "Training", "A new certificate counts without its reading and quiz for", "days", 0, 365),
        FormField.Whole("remindDays", "Training", "Told before a certificate lapses", "days", 0, 120),
        FormField.Whole("promptsAllowed", "Training", "Steps of a practical that may need a word", "", 0, 20),
        FormField.Whole("quizPassPercent", "Training", "Quiz pass mark", "%", 1, 100),
        FormField.Whole("quizCoolDownHours", "Training", "Cool-down after a failed quiz", "h", 0, 720, "0: the next day."),
        FormField.Flag("sameDayBooking", "Time", "Bookings for the same day"),
        FormField.Flag(
            "walkUp",
            "Time",
            "Walk-up: booked at the machine, to begin at once",
            "A booking made less than 30 minutes before it starts is a walk-up."
        ),
        FormField.Number("hoursPerPersonDay", "Time", "Hours a person a day", "h", 0.25m, 24),
        FormField.Number("hoursPerPersonWeek", "Time", "Hours a person a week", "h", 0.25m, 168),
        FormField.Whole("openBookingsPerPerson", "Time", "Open bookings a person", "", 1, 100),
        FormField.Whole("noShowGraceMinutes", "Time", "Grace before a no-show’s time is released", "min", 0, 240),
        FormField.Flag("releaseNoShows", "Time", "Release it without asking a steward"),
        FormField.Whole("slotMinutes", "Time", "Bookings are rounded up to", "min", 5, 60),
        FormField.Whole("bookAheadDays", "Time", "Book at most ahead", "days", 1, 365),
        FormField.Whole("longestBookingMinutes", "Time", "Longest booking", "min", 15, 1440),
        FormField.Flag(
            "shortJobs",
            "Time",
            "Short jobs take less time",
            "Tested settings, plain stock, ten minutes of runs at most: 5 min of checks, 5 of clean-down."
        ),
        FormField.Whole("finishingBenches", "Time", "Benches for finishing that are booked", "", 0, 20, "0: nobody books one."),
        FormField.Whole("benchMinutes", "Time", "A finishing bench is taken for", "min", 5, 480, "Where nobody says how long."),
        FormField.Flag(
            "classesOutsideLimits",
            "Time",
            "Classes do not count",
            "What somebody runs in a class does not count against their own hours and bookings."
        ),
        FormField.Whole("bookLeadMinutes", "Time", "Booked at least before its start", "min", 0, 20160, "0: no notice is asked."),
        FormField.Number("peakHoursPerPersonWeek", "Time", "Peak hours a person a week", "h", 0, 168, "0: no limit."),
        FormField.Whole("peakFromHour", "Time", "Peak hours begin at", "o’clock", 0, 23),
        FormField.Whole("peakToHour", "Time", "Peak hours end at", "o’clock", 1, 24),
        FormField.Whole(
            "noShowsBeforePause",
            "Time",
            "No new booking after so many no-shows",
            "",
            0,
            20,
            $"Within {HouseRules.NoShowsCountDays} days; 0: never."
        ),
        FormField.Whole("noShowPauseDays", "Time", "Then no new booking for", "days", 1, 90),
        FormField.Choice(
            "waitingOrder",
            "Time",
            "A freed time is offered first to",
            "",
            ("firstCome", "whoever waits the longest"),
            ("fewestHours", "whoever has the fewest hours that week")
        ),
        FormField.Choice(
            "drawingWanted",
            "Time",
            "A checked drawing is asked of",
            $"New is whoever has held their certificate for less than {HouseRules.NewcomerDays} days.",
            ("nobody", "nobody"),
            ("newcomers", "whoever is new to the machine"),
            ("everybody", "everybody")
        ),
        FormField.Whole(
            "lastRunBeforeCloseMinutes",
            "Time",
            "Last run ends before closing",
            "min",
            0,
            240,
            "60, as long as the watch after a fire: embers in bins and filters start fires after closing."
        ),
        FormField.Whole(
            "fireWatchMinutes",
            "Incidents",
            "A named person watches after a flame for",
            "min",
            30,
            240,
            "60, as hot-work codes and insurers ask; shorter only with the insurer’s paper."
        ),
        FormField.Text("fireWatchPaper", "Incidents", "The insurer’s paper for a shorter watch", optional: true),
        FormField.Number(
            "hotPassFactor",
            "Incidents",
            "Thick stock in one slow pass, from",
            "times the usual energy",
            1,
            10,
            "1.5: proposed as a cause after a fire."
        ),
        FormField.Flag(
            "membersAddSettings",
            "Settings",
            "Any member may add settings",
            "Houses differ: many entries that are compared, or few by staff. A technician’s entry is believed first either way."
        ),
        FormField.Number("checksMinutes", "Length of a booking", "Opening checks", "min", 0, 120),
        FormField.Number(
            "runFactor",
            "Length of a booking",
            "Times the estimated run",
            "×",
            1,
            5,
            "2, so that a failed piece can be made again."
        ),
        FormField.Number("reloadMinutes", "Length of a booking", "Reload", "min", 0, 120),
        FormField.Number("cleanDownMinutes", "Length of a booking", "Clean-down", "min", 0, 120),
        FormField.Number("cleanDownResidueMinutes", "Length of a booking", "Clean-down after stock that leaves residue", "min", 0, 120),
        FormField.Number("changeoverMinutes", "Length of a booking", "Changeover to another material", "min", 0, 120),
        FormField.Number("testPieceMinutes", "Length of a booking", "Test piece", "min", 0, 120),
        FormField.Whole("attentionMinutes", "At the machine", "Attention timer", "min", 1, 30),
        FormField.Whole("pauseMinutes", "At the machine", "Pause allowed, machine stopped", "min", 0, 10, "2 at most; never after a glow."),
        FormField.Flag(
            "refocusPieces",
            "At the machine",
            "Focus again for each piece on the same sheet",
            "Some leave it out for identical pieces."
        ),
        FormField.Flag(
            "pinWithFob",
            "At the machine",
            "A PIN beside the fob",
            "Asked when somebody begins or takes over. Each sets theirs on their own page."
        ),
        FormField.Choice(
            "memberUpkeep",
            "At the machine",
            "Upkeep by members",
            "What a task gives to members, in bounds. High voltage is never theirs.",
            ("nothing", "none: users service nothing"),
            ("nozzleAndLens", "nozzle, lens and bed; no mirrors"),
            ("markedMirrors", "mirrors too, where their covers are marked free of voltage")
        ),
        FormField.Choice(
            "closing",
            "At the machine",
            "Leaving the machine",
            "",
            ("each", "everybody: bed, head and fan"),
            ("lastOfDay", "the last of the day all of it; the others bed and fan")
        ),
        FormField.Number("airMixingFactor", "At the machine", "Mixing factor of the air", "K", 1, 10),
        FormField.Number("airResidual", "At the machine", "Fume left when the lid may open", "share", 0.0001m, 0.5m),
        FormField.Whole("airClearingFloorSeconds", "At the machine", "Air clearing at least", "s", 0, 600),
        FormField.Flag(
            "closedMachinesOnly",
            "At the machine",
            "Closed, interlocked machines only",
            "Schools must; others accept open ones with eyewear and controls."
        ),
        FormField.Flag("eyewearAlways", "At the machine", "Eyewear at closed machines too"),
        FormField.Choice(
            "card",
            "At the machine",
            "Emergency card",
            "Agree it with your fire officer.",
            ("stopAndLeave", "stop, everybody out, call: nobody fights it"),
            ("trainedExtinguisher", "a trained person may use the extinguisher"),
            ("smotherFirst", "smother with a spare sheet, then the extinguisher"),
            ("suppressionThenCo2", "suppression button, then CO₂ through a crack")
        ),
        new(
            "colours",
            "At the machine",
            "Colours of drawings",
            FieldKind.Colours,
            Hint: "A colour not named here is refused, never guessed. Fills engrave."
        ),
        FormField.Number(
            "nearLinesStopMm",
            "Drawings",
            "Nearly doubled cuts shut the gate above",
            "mm",
            0,
            1000,
            "Less is for the person to weigh up."
        ),
        FormField.Number("runMinutePrice", "Drawings", "A minute of a run costs", "", 0, 1000, "0: nothing."),
        FormField.Text("currency", "Drawings", "Written as", "€, £, tokens.", optional: true),
        FormField.Number(
            "crowdedCutsPercent",
            "Drawings",
            "Cuts closer than the sheet is thick ask a steward above",
            "%",
            0,
            100,
            "Of the cut length. Hinges do this by design."
        ),
        FormField.Flag(
            "pageIsSheet",
            "Drawings",
            "The page of a drawing has to be the sheet it runs on",
            "Then nobody places a job by eye; the page of a drawing lays it on a sheet."
        ),
        FormField.Whole("picturePpi", "Drawings", "Pictures want at least", "pixels to the inch", 50, 2400),
        FormField.Number(
            "pictureGreyPercent",
            "Drawings",
            "Pixels of a picture that may be neither black nor white",
            "%",
            0,
            100,
            "5 for soft edges; 100 where machines engrave grey levels."
        ),
        FormField.Whole(
            "drawingMonths",
            "Drawings",
            "A drawing is kept for",
            "months",
            1,
            120,
            "Longer while a booking or a waiting question stands on it. Anybody may delete their own before."
        ),
        FormField.Number(
            "residueWeight",
            "Upkeep",
            "An hour on stock that leaves heavy residue counts",
            "times",
            1,
            10,
            "Filters and carbon are counted so; 2 where nobody knows better."
        ),
        FormField.Whole(
            "commissioningMonths",
            "Upkeep",
            "A machine is gone through anew after",
            "months",
            1,
            120,
            "Then a steward decides until its commissioning sheet is written anew."
        ),
        FormField.Whole(
            "interlockDays",
            "Upkeep",
            "Interlocks count as tried for",
            "days",
            7,
            730,
            "Then the machine counts as class 4 until they are tried again."
        ),
        FormField.Whole(
            "breakDays",
            "Upkeep",
            "A break is, when nothing ran for",
            "days",
            7,
            180,
            "Then a machine is looked at before its first run."
        ),
        FormField.Whole("houseStockMonths", "Sheets", "House stock stays cleared", "months", 1, 60),
        FormField.Whole(
            "broughtInMonths",
            "Sheets",
            "A brought-in sheet stays cleared",
            "months",
            0,
            60,
            "0: for one project, as long as its time may be booked ahead."
        ),
        FormField.Flag("polycarbonateOffered", "Sheets", "Polycarbonate by arrangement, with a written reason"),
        FormField.Flag(
            "flameTestOffered",
            "Sheets",
            "Flame test by a trained steward",
            "It excludes; it never permits. In a fume cupboard or outdoors, never under the laser’s extraction."
        ),
    ];
}
