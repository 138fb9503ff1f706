using VelvetGate.Core.Forms;

namespace VelvetGate.Core.House;

/// <summary>
/// The sheets a keeper fills in: machine, room and rules. Limits keep out slips of the pen; sources stand with the rules themselves.
/// </summary>
public static class HouseSheets
{
    public static IReadOnlyList<FormField> Machine { get; } =
    [
        FormField.Text("id", "What it is", "Short name for addresses", "Small letters, such as heron. It stays for good."),
        FormField.Text("name", "What it is", "Name"),
        FormField.Choice(
            "kind",
            "What it is",
            "Kind of laser",
            "",
            ("co2", "CO₂ gas, about 10.6 µm"),
            ("diode", "blue diode, about 450 nm"),
            ("fibre", "fibre, about 1064 nm")
        ),
        FormField.Whole(
            "wavelengthNm",
            "What it is",
            "Wavelength",
            "nm",
            180,
            12000,
            "10600 for CO₂, 450 for a blue diode, 1064 for fibre."
        ),
        FormField.Number("powerW", "What it is", "Rated optical power", "W", 0.1m, 2000),
        FormField.Choice(
            "laserClass",
            "What it is",
            "Laser class in use",
            "Read from label and manual. An open frame, a removed panel or an unverified interlock is 4.",
            ("1", "1, closed and interlocked"),
            ("2", "2"),
            ("3R", "3R"),
            ("3B", "3B"),
            ("4", "4, open or unverified")
        ) with
        {
            Usual = "4",
        },
        FormField.Text(
            "station.classEvidence",
            "What it is",
            "How the class is known",
            "Label, page of the manual, interlock tested on …"
        ) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Choice(
            "station.enclosureKind",
            "What it is",
            "Enclosure",
            "Everything but a closed machine with tested cover switches is class 4 in use.",
            ("closed", "closed on all sides, cover switches tested"),
            ("passThrough", "a slot that long stock passes through"),
            ("unverified", "a panel off, or a cover switch not tested"),
            ("openFrame", "open frame without a cover")
        ),
        FormField.Text(
            "station.enclosure",
            "What it is",
            "A word on the enclosure",
            "Which window, where the slot is.",
            optional: true
        ) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Text("station.place", "What it is", "Where it stands", optional: true) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Length("bedWidthMm", "Bed", "Bed width", 10, 4000),
        FormField.Length("bedHeightMm", "Bed", "Bed depth", 10, 4000),
        FormField.Length(
            "marginMm",
            "Bed",
            "Margin that cannot be used, each side",
            0,
            200,
            "12.7 mm or 1/2 in is usual on gantry beds; 0 where all of it can be used.",
            usual: "12.7"
        ),
        FormField.Length(
            "maxCutMm",
            "Bed",
            "Greatest thickness it cuts",
            0,
            60,
            "About 6.35 mm for 40 to 60 W CO₂; 0 for a machine that never cuts."
        ),
        FormField.Length("maxHeightMm", "Bed", "Greatest height it engraves", 0, 1000),
        FormField.Length("kerfMm", "Bed", "Kerf", 0.01m, 3, "0.2 to 0.3 mm is typical for CO₂; never zero.", usual: "0.2"),
        FormField.Number("accelerationMmS2", "Bed", "Acceleration", "mm/s²", 10, 100000, usual: "2000"),
        FormField.Number("topSpeedMmS", "Bed", "Top speed", "mm/s", 1, 20000, usual: "400"),
        FormField.Text("homeCorner", "Bed", "Home corner", "It differs between machines, and misplaces jobs.") with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Words("fixtures", "Bed", "Fixtures it takes", "Such as rotary, pins: single items that are booked with it."),
        FormField.Text("station.beds", "Bed", "Beds", "Cutting grid, flat bed, pin table …", optional: true) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Choice(
            "station.framing",
            "Bed",
            "How a job is framed",
            "Where framing shows the outline before the run.",
            ("pointerLidOpen", "lid open, pointer only"),
            ("pointerLidShut", "lid shut, pointer only"),
            ("beamOffLidShut", "lid shut, high voltage off"),
            ("byHand", "by hand, without a pointer")
        ),
        FormField.Words(
            "station.focusMethods",
            "Bed",
            "Ways to focus",
            "Gauge, automatic. Automatic serves a flat sheet cut at its own thickness only."
        ) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Choice(
            "extraction",
            "Air and cooling",
            "Extraction",
            "A filter removes no carbon monoxide.",
            ("ducted", "ducted outside"),
            ("filtered", "filtered back into the room"),
            ("both", "filtered and ducted")
        ),
        FormField.Choice(
            "station.extractionPower",
            "Air and cooling",
            "Extraction gets its power",
            "Where it dies with the machine, switching off in a fire also stops the smoke being carried away.",
            ("ownSwitch", "from a switch of its own"),
            ("withMachine", "with the machine"),
            ("alwaysOn", "always, with the building")
        ),
        FormField.Text("station.extractionSwitch", "Air and cooling", "Where the extraction is switched", optional: true),
        FormField.Whole(
            "extractionLeadSeconds",
            "Air and cooling",
            "Extraction runs before cutting",
            "s",
            0,
            600,
            "Site-specific: a few seconds to 90.",
            usual: "90"
        ),
        FormField.Number("enclosureM3", "Air and cooling", "Enclosure volume", "m³", 0.001m, 50),
        FormField.Number(
            "airflowM3PerHour",
            "Air and cooling",
            "Commissioning airflow",
            "m³/h",
            0,
            20000,
            "0 when it was never measured: then no clearing time is counted and the lid stays shut."
        ),
        FormField.Choice(
            "station.airAssist",
            "Air and cooling",
            "Air assist",
            "",
            ("automatic", "automatic"),
            ("pumpSwitch", "pump with its own switch"),
            ("handValve", "valve opened by hand"),
            ("none", "none")
        ),
        FormField.Flag("waterCooled", "Air and cooling", "Water-cooled"),
        FormField.Choice(
            "station.cooling",
            "Air and cooling",
            "Cooling",
            "",
            ("automatic", "automatic unit"),
            ("chiller", "chiller with lines"),
            ("bucket", "bucket and pump"),
            ("none", "none")
        ) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Number(
            "station.coolantCautionC",
            "Air and cooling",
            "Coolant: caution above",
            "°C",
            0,
            60,
            "25 where the manual does not say.",
            usual: "25"
        ) with
        {
            Effect = FieldEffect.ComesWithStation,
        },
        FormField.Number("station.coolantAskC", "Air and cooling", "Coolant: ask above", "°C", 0, 60, "28", usual: "28") with
        {
            Effect = FieldEffect.ComesWithStation,
        },
        FormField.Number("station.coolantShutC", "Air and cooling", "Coolant: shut above", "°C", 0, 60, "32", usual: "32") with
        {
            Effect = FieldEffect.ComesWithStation,
        },
        FormField.Number(
            "station.coolantColdC",
            "Air and cooling",
            "Coolant: shut below",
            "°C",
            -10,
            30,
            "5: freezing cracks a water-cooled tube.",
            usual: "5"
        ) with
        {
            Effect = FieldEffect.ComesWithStation,
        },
        FormField.Number("station.roomMinimumC", "Air and cooling", "Room not colder than", "°C", -10, 30, optional: true) with
        {
            Effect = FieldEffect.ComesWithStation,
        },
        new(
            "station.stopDevices",
            "Stopping",
            "Stop devices",
            FieldKind.Rows,
            Hint: "Each, with what it really cuts. The emergency card is worded from this.",
            Parts:
            [
                FormField.Text("name", "", "Device"),
                FormField.Text("where", "", "Where"),
                FormField.Flag("cutsTube", "", "Cuts the beam’s power"),
                FormField.Flag("cutsExtraction", "", "Stops extraction too"),
                FormField.Flag("finishesStroke", "", "Finishes the stroke first"),
                FormField.Flag("losesJob", "", "Loses the job") with
                {
                    Usual = "true",
                },
                FormField.Flag("opensLid", "", "Works by opening the lid"),
            ]
        ),
        FormField.Text(
            "station.suppression",
            "Stopping",
            "Built-in fire suppression",
            "What it is and where; empty for none.",
            optional: true
        ),
        FormField.Choice(
            "station.suppressionKind",
            "Stopping",
            "How the suppression is set off",
            "The emergency card is worded from it.",
            ("button", "by a button"),
            ("heatTriggered", "by itself, in heat")
        ) with
        {
            Optional = true,
        },
        FormField.Whole("station.attentionMinutes", "Stopping", "Its own attention timer", "min", 1, 60, optional: true) with
        {
            Effect = FieldEffect.ComesWithStation,
        },
        FormField.Flag("station.pulsed", "Stopping", "Pulsed beam", "Without pulse data eyewear is checked for average power only."),
        FormField.Text("station.access", "Around it", "How it is unlocked", "Fob, key, password; empty for open.", optional: true) with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Words("station.servicedBy", "Around it", "Who may service it") with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Words("station.documents", "Around it", "Papers at the machine", "Manual, quick guide, operating procedure.") with
        {
            Effect = FieldEffect.Information,
        },
        new FormField(
            "station.keptAt",
            "Around it",
            "Where things are",
            FieldKind.Rows,
            Hint: "Switches, focus gauge, light, cleaning kit.",
            Parts: [FormField.Text("what", "", "What"), FormField.Text("where", "", "Where")]
        ) with
        {
            Effect = FieldEffect.Information,
        },
    ];

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
        FormField.Whole(
            "minorInjuryUntilAge",
            "People",
            "A minor’s injury records kept until age",
            "years",
            18,
            99,
            "Local law decides."
        ) with
        {
            Effect = FieldEffect.ComesWithIncidents,
        },
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
        FormField.Flag("walkUp", "Time", "Walk-up without a booking") with
        {
            Effect = FieldEffect.ComesWithStation,
        },
        FormField.Number("hoursPerPersonDay", "Time", "Hours a person a day", "h", 0.25m, 24),
        FormField.Number("hoursPerPersonWeek", "Time", "Hours a person a week", "h", 0.25m, 168),
        FormField.Whole("openBookingsPerPerson", "Time", "Open bookings a person", "", 1, 100),
        FormField.Whole("noShowGraceMinutes", "Time", "Grace before a no-show’s time is released", "min", 0, 240),
        FormField.Flag("releaseNoShows", "Time", "Release it without asking a steward"),
        FormField.Whole("slotMinutes", "Time", "Bookings are rounded up to", "min", 5, 60),
        FormField.Whole("bookAheadDays", "Time", "Book at most ahead", "days", 1, 365),
        FormField.Whole("longestBookingMinutes", "Time", "Longest booking", "min", 15, 1440),
        FormField.Whole(
            "lastRunBeforeCloseMinutes",
            "Time",
            "Last run ends before closing",
            "min",
            0,
            240,
            "60, as long as the watch after a fire: embers in bins and filters start fires after closing."
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
        FormField.Whole("attentionMinutes", "At the machine", "Attention timer", "min", 1, 30) with
        {
            Effect = FieldEffect.ComesWithStation,
        },
        FormField.Whole("pauseMinutes", "At the machine", "Pause allowed, machine stopped", "min", 0, 10, "2 at most; never after a glow."),
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
        FormField.Number(
            "crowdedCutsPercent",
            "Drawings",
            "Cuts closer than the sheet is thick ask a steward above",
            "%",
            0,
            100,
            "Of the cut length. Hinges do this by design."
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
            "A drawing stays on the bench",
            "months",
            1,
            120,
            "Longer while a booking or a waiting question stands on it. Anybody may delete their own before."
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
