using VelvetGate.Core.House.Forms;

namespace VelvetGate.Core.Machines;

/// <summary>The form of a machine. Limits keep out slips of the pen; sources stand with the rules themselves.</summary>
public static class MachineForm
{
    public static IReadOnlyList<FormField> Fields { get; } =
    [
        FormField.Text("id", "What it is", "Short name for addresses", "Small letters, such as heron. It stays for good."),
        FormField.Text("name", "What it is", "Name"),
        FormField.Day("hereFrom", "What it is", "First day in this house", "Nothing is booked on it before."),
        FormField.Day("hereUntil", "What it is", "Last day in this house", "Sold, scrapped or lent away: nothing is booked on it after."),
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
        FormField.Flag(
            "station.mirrorCoversMarked",
            "What it is",
            "Covers over its mirrors are marked free of voltage",
            "By its maker or a named repairer. Behind any other cover may be about 25 kV."
        ),
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
        FormField.Length(
            "widestLineMm",
            "Bed",
            "Widest line that it still cuts",
            0.001m,
            5,
            "Empty: the width does not matter. Some drivers cut hairlines only, such as 0.001 in."
        ) with
        {
            Optional = true,
        },
        FormField.Number("accelerationMmS2", "Bed", "Acceleration", "mm/s²", 10, 100000, usual: "2000"),
        FormField.Number("topSpeedMmS", "Bed", "Top speed", "mm/s", 1, 20000, usual: "400"),
        FormField.Number(
            "motion.cornerMmS",
            "Bed",
            "Speed at a sharp corner",
            "mm/s",
            0,
            20000,
            "Empty or 0: it stops there.",
            optional: true
        ),
        FormField.Number(
            "motion.rapidMmS",
            "Bed",
            "Speed between lines, beam off",
            "mm/s",
            1,
            20000,
            "Empty: its top speed.",
            optional: true
        ),
        FormField.Number(
            "motion.startUpSeconds",
            "Bed",
            "Start of each layer",
            "s",
            0,
            120,
            "What passes before the head moves.",
            optional: true
        ),
        FormField.Length("motion.overscanMm", "Bed", "Run-out beside engraved rows", 0, 100, "Empty: as far as braking takes.") with
        {
            Optional = true,
        },
        FormField.Text("homeCorner", "Bed", "Home corner", "It differs between machines, and misplaces jobs.") with
        {
            Effect = FieldEffect.Information,
        },
        FormField.Words("fixtures", "Bed", "Fixtures it takes", "Such as rotary, pins: single items that are booked with it."),
        FormField.Length("station.rotaryFromMm", "Bed", "Narrowest thing on its rotary", 1, 1000) with
        {
            Optional = true,
        },
        FormField.Length("station.rotaryToMm", "Bed", "Widest thing on its rotary", 1, 1000) with
        {
            Optional = true,
        },
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
        FormField.Number(
            "station.wallW",
            "Air and cooling",
            "Takes from the wall while it runs",
            "W",
            1,
            20000,
            "With cooling and extraction: what a job uses is worked out from it.",
            optional: true
        ),
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
        ),
        FormField.Number("station.coolantAskC", "Air and cooling", "Coolant: ask above", "°C", 0, 60, "28", usual: "28"),
        FormField.Number("station.coolantShutC", "Air and cooling", "Coolant: shut above", "°C", 0, 60, "32", usual: "32"),
        FormField.Number(
            "station.coolantColdC",
            "Air and cooling",
            "Coolant: shut below",
            "°C",
            -10,
            30,
            "5: freezing cracks a water-cooled tube.",
            usual: "5"
        ),
        FormField.Number("station.roomMinimumC", "Air and cooling", "Room not colder than", "°C", -10, 30, optional: true),
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
        FormField.Whole("station.attentionMinutes", "Stopping", "Its own attention timer", "min", 1, 60, optional: true),
        FormField.Flag(
            "station.attentionFromTapIn",
            "Stopping",
            "Attention counts from tapping in",
            "Else from the beam on. From tapping in, whoever prepares for long says between that they are here."
        ),
        FormField.Flag(
            "station.pauseStopsBeam",
            "Stopping",
            "Pause on its panel takes the beam away at once",
            "And it goes on from the same place. Then a run may be paused, for as long as the house allows."
        ),
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
        Steps("station.switchOn", "Switching it on, in this order", "Extraction first, then cooling, then the machine, as its maker says."),
        Steps("station.switchOff", "Switching it off, in this order", "Extraction last, after its run-on."),
        new FormField(
            "station.signs",
            "Around it",
            "What it shows, and what that means",
            FieldKind.Rows,
            Optional: true,
            Hint: "Icons, lamps, messages, how it connects, keys that are not what they seem, a start that takes two presses.",
            Parts: [FormField.Text("what", "", "It shows"), FormField.Text("means", "", "That means")]
        ) with
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

    private static FormField Steps(string key, string label, string hint) =>
        new FormField(
            key,
            "Around it",
            label,
            FieldKind.Rows,
            Optional: true,
            Hint: hint,
            Parts: [FormField.Text("what", "", "Step"), FormField.Text("where", "", "Where")]
        ) with
        {
            Effect = FieldEffect.Information,
        };
}
