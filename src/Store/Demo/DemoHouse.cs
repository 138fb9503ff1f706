using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Store.Demo;

/// <summary>The Old Ropewalk, an invented workshop: its machines and people. Nothing in it comes from a real place or person.</summary>
public static class DemoHouse
{
    public const string Name = "The Old Ropewalk";
    public const string ZoneId = "Europe/London";
    public const string Password = "ropewalk";

    /// <summary>The staffed workshop pack as it starts, with the house's own colours.</summary>
    public static HouseRules Rules => Packs.Start(Packs.StaffedWorkshop, Name, ZoneId) with { Colours = Colours, FinishingBenches = 1 };

    /// <summary>Rope dyes, invented: madder cuts, woad scores, walnut engraves, undyed hemp is a note to people.</summary>
    public static ColourMap Colours { get; } =
        new(
            new Dictionary<string, StrokeMeaning>
            {
                ["#9c2f4f"] = StrokeMeaning.Cut,
                ["#2e6e8e"] = StrokeMeaning.Score,
                ["#5a4632"] = StrokeMeaning.Engrave,
                ["#c9b78e"] = StrokeMeaning.Ignore,
            }
        );

    /// <summary>Of the first people, in their order, and of the trustee.</summary>
    public static readonly IReadOnlyList<string> SignIns = ["keeper", "steward", "trainer", "member", "newcomer", TrusteeSignIn];

    /// <summary>Reads the year and countersigns; runs no machine.</summary>
    public static readonly (string Given, string Family, int Age) Trustee = ("Honor", "Lockgate", 61);
    public const string TrusteeSignIn = "trustee";

    public static readonly IReadOnlyList<MachineSpec> Machines =
    [
        new(
            Id: "heron",
            Name: "Heron",
            Kind: LaserKind.Co2,
            WavelengthNm: 10600,
            PowerW: 80,
            BedWidthMm: 900,
            BedHeightMm: 600,
            MarginMm: 10,
            MaxCutMm: 8,
            MaxHeightMm: 180,
            KerfMm: 0.2m,
            AccelerationMmS2: 3000,
            TopSpeedMmS: 500,
            Extraction: Extraction.Ducted,
            ExtractionLeadSeconds: 90,
            EnclosureM3: 0.45m,
            AirflowM3PerHour: 650,
            WaterCooled: true,
            LaserClass: "1",
            HomeCorner: "far right",
            ExtractionPower: "own switch on the wall",
            StopCuts: "the red button cuts tube and motors; extraction stays on",
            Fixtures: ["rotary", "pins", "cutting grid"],
            Station: new(
                Place: "north bay, under the skylight",
                ClassEvidence: "label on the back, interlock tested at commissioning",
                Enclosure: "closed, window for 10.6 µm",
                ExtractionPower: ExtractionPower.OwnSwitch,
                ExtractionSwitch: "grey switch left of the bay",
                AirAssist: AirAssist.PumpSwitch,
                Cooling: Cooling.Chiller,
                CoolantCautionC: 25,
                CoolantAskC: 28,
                CoolantShutC: 32,
                CoolantColdC: 5,
                RoomMinimumC: 10,
                AttentionMinutes: 3,
                Pulsed: false,
                Suppression: "",
                Access: "member fob",
                Beds: "cutting grid, pin bed",
                FocusMethods: ["gauge", "automatic"],
                ServicedBy: ["service firm", "house team"],
                Documents: ["manual", "one-page guide"],
                StopDevices:
                [
                    new("red button", "right of the lid", true, false),
                    new(
                        Name: "lid",
                        Where: "opening it",
                        CutsTube: true,
                        CutsExtraction: false,
                        FinishesStroke: false,
                        LosesJob: true,
                        OpensLid: true
                    ),
                    new("pause key", "on the panel", false, false, true, false),
                ],
                KeptAt:
                [
                    new("focus gauge", "magnet on the left rail"),
                    new("cleaning kit", "drawer under the panel"),
                    new("light switch", "behind the right foot"),
                ]
            )
            {
                EnclosureKind = EnclosureKind.Closed,
                RotaryFromMm = 20,
                RotaryToMm = 140,
                WallW = 1450,
                SwitchOn =
                [
                    new("Extraction", "grey switch left of the bay"),
                    new("Chiller", "under the bench, left; see its pump light"),
                    new("Key, then the green button", "right of the lid"),
                    new("Table down, then home", "panel; the head goes to the far right"),
                    new("Air assist pump", "its switch, behind the chiller"),
                ],
                SwitchOff =
                [
                    new("Lid shut, laser off", "key on the panel"),
                    new("Chiller", "under the bench, left"),
                    new("Extraction, after five minutes", "grey switch left of the bay"),
                ],
                Signs =
                [
                    new("Red fan icon", "the fan is off, or broken: listen for it"),
                    new("No address on the panel", "not connected: wait two minutes, then switch it off and on"),
                    new("Data lamp goes out", "the file has arrived"),
                    new("Stop on the panel", "it ends the line it is on, then stops"),
                ],
                Framing = Framing.PointerLidOpen,
                PauseStopsBeam = true,
            }
        ),
        new(
            Id: "wren",
            Name: "Wren",
            Kind: LaserKind.Co2,
            WavelengthNm: 10600,
            PowerW: 40,
            BedWidthMm: 500,
            BedHeightMm: 300,
            MarginMm: 10,
            MaxCutMm: 6.35m,
            MaxHeightMm: 60,
            KerfMm: 0.2m,
            AccelerationMmS2: 2000,
            TopSpeedMmS: 400,
            Extraction: Extraction.Filtered,
            ExtractionLeadSeconds: 15,
            EnclosureM3: 0.12m,
            AirflowM3PerHour: 180,
            WaterCooled: true,
            LaserClass: "1",
            HomeCorner: "upper left",
            ExtractionPower: "with the machine",
            StopCuts: "the main switch cuts everything, extraction too",
            Fixtures: ["rotary"],
            Station: new(
                Place: "south bay",
                ClassEvidence: "label, interlock tested each quarter",
                Enclosure: "closed, window for 10.6 µm",
                ExtractionPower: ExtractionPower.WithMachine,
                ExtractionSwitch: "comes on with the machine",
                AirAssist: AirAssist.Automatic,
                Cooling: Cooling.Automatic,
                CoolantCautionC: 25,
                CoolantAskC: 28,
                CoolantShutC: 32,
                CoolantColdC: 5,
                RoomMinimumC: 10,
                AttentionMinutes: 3,
                Pulsed: false,
                Suppression: "",
                Access: "member fob",
                Beds: "cutting grid",
                FocusMethods: ["gauge"],
                ServicedBy: ["service firm"],
                Documents: ["manual", "one-page guide"],
                StopDevices:
                [
                    new("pause key", "on the panel", false, false, true, false),
                    new(
                        Name: "lid",
                        Where: "opening it",
                        CutsTube: true,
                        CutsExtraction: false,
                        FinishesStroke: false,
                        LosesJob: true,
                        OpensLid: true
                    ),
                    new("main switch", "rear corner, right", true, true),
                ],
                KeptAt: [new("focus gauge", "hook on the left wall"), new("lens cloths", "tin on the shelf")]
            )
            {
                EnclosureKind = EnclosureKind.Closed,
                RotaryFromMm = 15,
                RotaryToMm = 120,
                WallW = 900,
                SwitchOn = [new("Main switch", "back, right; fan and cooling come on with it"), new("Key", "front")],
                SwitchOff = [new("Key", "front"), new("Main switch, after five minutes", "back, right")],
                Framing = Framing.PointerLidOpen,
            }
        ),
        new(
            Id: "swift",
            Name: "Swift",
            Kind: LaserKind.Diode,
            WavelengthNm: 450,
            PowerW: 10,
            BedWidthMm: 400,
            BedHeightMm: 400,
            MarginMm: 5,
            MaxCutMm: 4,
            MaxHeightMm: 50,
            KerfMm: 0.15m,
            AccelerationMmS2: 1500,
            TopSpeedMmS: 300,
            Extraction: Extraction.Filtered,
            ExtractionLeadSeconds: 10,
            EnclosureM3: 0.09m,
            AirflowM3PerHour: 120,
            WaterCooled: false,
            LaserClass: "1",
            HomeCorner: "lower left",
            ExtractionPower: "with the machine",
            StopCuts: "the lid or the button cuts the beam; the fan runs on",
            Fixtures: [],
            Station: new(
                Place: "bench by the window",
                ClassEvidence: "label, cover switch tested",
                Enclosure: "closed, orange window for 450 nm",
                ExtractionPower: ExtractionPower.WithMachine,
                ExtractionSwitch: "comes on with the machine",
                AirAssist: AirAssist.HandValve,
                Cooling: Cooling.None,
                CoolantCautionC: 25,
                CoolantAskC: 28,
                CoolantShutC: 32,
                CoolantColdC: 5,
                RoomMinimumC: null,
                AttentionMinutes: null,
                Pulsed: false,
                Suppression: "",
                Access: "key at the desk",
                Beds: "flat bed",
                FocusMethods: ["gauge"],
                ServicedBy: ["house team"],
                Documents: ["manual"],
                StopDevices:
                [
                    new("red button", "front edge", true, false),
                    new(
                        Name: "lid",
                        Where: "opening it",
                        CutsTube: true,
                        CutsExtraction: false,
                        FinishesStroke: false,
                        LosesJob: true,
                        OpensLid: true
                    ),
                    new("mains plug", "wall, knee height", true, true),
                ],
                KeptAt: [new("focus gauge", "in the lid")]
            )
            {
                EnclosureKind = EnclosureKind.Closed,
                SwitchOn =
                [
                    new("Plug, then the switch on the frame", "back left; the fan comes on with it"),
                    new("Air valve open", "on the hose, a quarter turn"),
                ],
                SwitchOff = [new("Air valve shut", "on the hose"), new("Switch on the frame, after five minutes", "back left")],
                Framing = Framing.PointerLidShut,
            }
        ),
        new(
            Id: "kestrel",
            Name: "Kestrel",
            Kind: LaserKind.Fibre,
            WavelengthNm: 1064,
            PowerW: 30,
            BedWidthMm: 110,
            BedHeightMm: 110,
            MarginMm: 0,
            MaxCutMm: 0,
            MaxHeightMm: 80,
            KerfMm: 0.05m,
            AccelerationMmS2: 8000,
            TopSpeedMmS: 4000,
            Extraction: Extraction.Filtered,
            ExtractionLeadSeconds: 5,
            EnclosureM3: 0.05m,
            AirflowM3PerHour: 90,
            WaterCooled: false,
            LaserClass: "1",
            HomeCorner: "centre",
            ExtractionPower: "own switch on the filter",
            StopCuts: "the button cuts the beam and the scan head",
            Fixtures: [],
            Station: new(
                Place: "metal corner",
                ClassEvidence: "label, door switch tested",
                Enclosure: "closed cabinet",
                ExtractionPower: ExtractionPower.OwnSwitch,
                ExtractionSwitch: "switch on the filter",
                AirAssist: AirAssist.None,
                Cooling: Cooling.None,
                CoolantCautionC: 25,
                CoolantAskC: 28,
                CoolantShutC: 32,
                CoolantColdC: 5,
                RoomMinimumC: null,
                AttentionMinutes: null,
                Pulsed: true,
                Suppression: "",
                Access: "key at the desk",
                Beds: "marking table",
                FocusMethods: ["two pointer dots"],
                ServicedBy: ["service firm"],
                Documents: ["manual", "pulse data sheet"],
                StopDevices:
                [
                    new("red button", "cabinet front", true, false),
                    new(
                        Name: "door",
                        Where: "opening it",
                        CutsTube: true,
                        CutsExtraction: false,
                        FinishesStroke: false,
                        LosesJob: true,
                        OpensLid: true
                    ),
                ],
                KeptAt: []
            )
            {
                EnclosureKind = EnclosureKind.Closed,
                SwitchOn = [new("Filter", "switch on the filter"), new("Key, then source on", "front of the cabinet")],
                SwitchOff =
                [
                    new("Source off, then the key", "front of the cabinet"),
                    new("Filter, after five minutes", "switch on the filter"),
                ],
                Framing = Framing.PointerLidShut,
            }
        ),
    ];

    internal static readonly RoomSpec Room = new(
        Name: "Laser bay",
        Address: "The Old Ropewalk, basin side, third door",
        VolumeM3: 310,
        Discharge: "permitted above the roof ridge, letter in the office",
        FreshAir: "two roof vents, open while filters run",
        CoAlarm: true,
        ExtinguisherWhere: "by the door, chest height",
        Extinguisher: FireAgent.Co2,
        WaterAllowed: false,
        AlarmPoint: "red box beside the door",
        WayOut: "through the tarring shed to the towpath",
        MeetingPoint: "iron bollard on the towpath",
        EmergencyCall: "999",
        WhoToTell: "the steward on duty",
        FirstAid: "green box by the sink, cool water there",
        KeyTimes: "fobs open it from 10:00 to 21:00",
        Computers: "two, at the bays; the others are for drawing",
        CleaningKit: "drawer under Heron",
        Toolbox: "blue chest by the bench",
        Stock: "rack behind the desk, paid by scanning"
    );

    /// <summary>Given name, family name, age in years. The first five sign in; four stewards and six trainers lead the list.</summary>
    internal static readonly (string Given, string Family, int Age)[] People =
    [
        ("Philippa", "Wherry", 58),
        ("Tamsin", "Okoro", 41),
        ("Bartek", "Quill", 37),
        ("Ines", "Calloway", 29),
        ("Rowan", "Teasel", 22),
        ("Yusra", "Haddad", 46),
        ("Gethin", "Marlowe", 52),
        ("Solveig", "Adeyemi", 35),
        ("Anneliese", "Mbeki", 33),
        ("Henrik", "Saltmarsh", 44),
        ("Odalys", "Brandt", 39),
        ("Dafydd", "Roe", 50),
        ("Nkechi", "Farrow", 31),
        ("Ravi", "Pell", 27),
        ("Mei", "Ashdown", 25),
        ("Oisín", "Varga", 48),
        ("Leilani", "Thorne", 30),
        ("Zofia", "Brackwater", 36),
        ("Kwabena", "Lisle", 42),
        ("Marguerite", "Fennimore-Adebayo-Castellanos", 63),
        ("Ilse", "Tarn", 21),
        ("Tomasz", "Hallow", 34),
        ("Amara", "Winch", 28),
        ("Jorge", "Pellerin", 45),
        ("Freya", "Duskin", 19),
        ("Hamid", "Corbel", 38),
        ("Saoirse", "Venn", 24),
        ("Luka", "Ostrander", 32),
        ("Priya", "Cawdrey", 40),
        ("Emrys", "Jolliffe", 55),
        ("Chidi", "Lacemaker", 26),
        ("Wren", "Abernathy", 20),
        ("Noor", "Pinkett", 43),
        ("Casimir", "Bell", 60),
        ("Thandiwe", "Ropeley", 29),
        ("Bjorn", "Fallowfield", 35),
        ("Aoife", "Merrit", 23),
        ("Dmitri", "Sallow", 47),
        ("Eun-ji", "Harker", 31),
        ("Matteo", "Quayle", 27),
        ("Blessing", "Udall", 37),
        ("Gwenllian", "Pask", 66),
        ("Rashid", "Tolliver", 33),
        ("Helga", "Mayhew", 51),
        ("Kofi", "Strand", 22),
        ("Lucía", "Penhale", 41),
        ("Ansel", "Wick", 30),
        ("Mirela", "Groat", 28),
        ("Tobias", "Nightingale-Osei", 36),
        ("Fatou", "Lanyard", 25),
        ("Petra", "Swindlehurst", 49),
        ("Caoimhe", "Reeve", 18),
        ("Vikram", "Stour", 39),
        ("Isolde", "Barrow", 57),
        ("Juno", "Applegarth", 16),
        ("Elias", "Cobb", 15),
        ("Maya", "Rigger", 17),
        ("Samir", "Daunt", 14),
        ("Greta", "Hemp", 16),
        ("Otis", "Bellweather", 15),
    ];
}
