using VelvetGate.Core.House;

namespace VelvetGate.Store.Demo;

/// <summary>The Old Ropewalk, an invented workshop: its machines and people. Nothing in it comes from a real place or person.</summary>
public static class DemoHouse
{
    public const string Name = "The Old Ropewalk";
    public const string ZoneId = "Europe/London";
    public const string Password = "ropewalk";

    /// <summary>The staffed workshop pack as it starts, with the house's own colours.</summary>
    public static HouseRules Rules => Packs.Start(Packs.StaffedWorkshop, Name, ZoneId) with { Colours = Colours };

    /// <summary>Rope dyes, invented: madder cuts, woad scores, walnut engraves, undyed hemp is a note to people.</summary>
    public static ColourMap Colours { get; } = new(new Dictionary<string, StrokeMeaning>
    {
        ["#9c2f4f"] = StrokeMeaning.Cut,
        ["#2e6e8e"] = StrokeMeaning.Score,
        ["#5a4632"] = StrokeMeaning.Engrave,
        ["#c9b78e"] = StrokeMeaning.Ignore,
    });

    public static readonly IReadOnlyList<string> SignIns = ["keeper", "steward", "trainer", "member", "newcomer"];

    public static readonly IReadOnlyList<MachineSpec> Machines =
    [
        new(
            "heron", "Heron", LaserKind.Co2, 10600, 80, 900, 600, 10, 8, 180, 0.2m, 3000, 500, Extraction.Ducted, 90, 0.45m, 650, true, "1", "far right",
            "own switch on the wall", "the red button cuts tube and motors; extraction stays on", ["rotary", "pins"], Station: new(
                "north bay, under the skylight", "label on the back, interlock tested at commissioning", "closed, window for 10.6 µm", ExtractionPower.OwnSwitch, "grey switch left of the bay", AirAssist.PumpSwitch,
                Cooling.Chiller, 25, 28, 32, 5, 10, 3, false, "", "member fob", "cutting grid, pin bed", ["gauge", "automatic"], ["service firm", "house team"], ["manual", "one-page guide"],
                [new("red button", "right of the lid", true, false), new("lid", "opening it", true, false, false, true, true), new("pause key", "on the panel", false, false, true, false)],
                [new("focus gauge", "magnet on the left rail"), new("cleaning kit", "drawer under the panel"), new("light switch", "behind the right foot")]) { EnclosureKind = EnclosureKind.Closed, Framing = Framing.PointerLidOpen }),
        new(
            "wren", "Wren", LaserKind.Co2, 10600, 40, 500, 300, 10, 6.35m, 60, 0.2m, 2000, 400, Extraction.Filtered, 15, 0.12m, 180, true, "1", "upper left",
            "with the machine", "the main switch cuts everything, extraction too", ["rotary"], Station: new(
                "south bay", "label, interlock tested each quarter", "closed, window for 10.6 µm", ExtractionPower.WithMachine, "comes on with the machine", AirAssist.Automatic,
                Cooling.Automatic, 25, 28, 32, 5, 10, 3, false, "", "member fob", "cutting grid", ["gauge"], ["service firm"], ["manual", "one-page guide"],
                [new("pause key", "on the panel", false, false, true, false), new("lid", "opening it", true, false, false, true, true), new("main switch", "rear corner, right", true, true)],
                [new("focus gauge", "hook on the left wall"), new("lens cloths", "tin on the shelf")]) { EnclosureKind = EnclosureKind.Closed, Framing = Framing.PointerLidOpen }),
        new(
            "swift", "Swift", LaserKind.Diode, 450, 10, 400, 400, 5, 4, 50, 0.15m, 1500, 300, Extraction.Filtered, 10, 0.09m, 120, false, "1", "lower left",
            "with the machine", "the lid or the button cuts the beam; the fan runs on", [], Station: new(
                "bench by the window", "label, cover switch tested", "closed, orange window for 450 nm", ExtractionPower.WithMachine, "comes on with the machine", AirAssist.HandValve,
                Cooling.None, 25, 28, 32, 5, null, null, false, "", "key at the desk", "flat bed", ["gauge"], ["house team"], ["manual"],
                [new("red button", "front edge", true, false), new("lid", "opening it", true, false, false, true, true), new("mains plug", "wall, knee height", true, true)],
                [new("focus gauge", "in the lid")]) { EnclosureKind = EnclosureKind.Closed, Framing = Framing.PointerLidShut }),
        new(
            "kestrel", "Kestrel", LaserKind.Fibre, 1064, 30, 110, 110, 0, 0, 80, 0.05m, 8000, 4000, Extraction.Filtered, 5, 0.05m, 90, false, "1", "centre",
            "own switch on the filter", "the button cuts the beam and the scan head", [], Station: new(
                "metal corner", "label, door switch tested", "closed cabinet", ExtractionPower.OwnSwitch, "switch on the filter", AirAssist.None,
                Cooling.None, 25, 28, 32, 5, null, null, true, "", "key at the desk", "marking table", ["two pointer dots"], ["service firm"], ["manual", "pulse data sheet"],
                [new("red button", "cabinet front", true, false), new("door", "opening it", true, false, false, true, true)], []) { EnclosureKind = EnclosureKind.Closed, Framing = Framing.PointerLidShut }),
    ];

    internal static readonly RoomSpec Room = new(
        "Laser bay", "The Old Ropewalk, basin side, third door", 310, "permitted above the roof ridge, letter in the office", "two roof vents, open while filters run", true,
        "by the door, chest height", FireAgent.Co2, false, "red box beside the door", "through the tarring shed to the towpath", "iron bollard on the towpath", "999", "the steward on duty",
        "green box by the sink, cool water there", "fobs open it from 10:00 to 21:00", "two, at the bays; the others are for drawing", "drawer under Heron", "blue chest by the bench", "rack behind the desk, paid by scanning");

    /// <summary>Given name, family name, age in years. The first five sign in; four stewards and six trainers lead the list.</summary>
    internal static readonly (string Given, string Family, int Age)[] People =
    [
        ("Philippa", "Wherry", 58), ("Tamsin", "Okoro", 41), ("Bartek", "Quill", 37), ("Ines", "Calloway", 29), ("Rowan", "Teasel", 22),
        ("Yusra", "Haddad", 46), ("Gethin", "Marlowe", 52), ("Solveig", "Adeyemi", 35),
        ("Anneliese", "Mbeki", 33), ("Henrik", "Saltmarsh", 44), ("Odalys", "Brandt", 39), ("Dafydd", "Roe", 50), ("Nkechi", "Farrow", 31),
        ("Ravi", "Pell", 27), ("Mei", "Ashdown", 25), ("Oisín", "Varga", 48), ("Leilani", "Thorne", 30), ("Zofia", "Brackwater", 36),
        ("Kwabena", "Lisle", 42), ("Marguerite", "Fennimore-Adebayo-Castellanos", 63), ("Ilse", "Tarn", 21), ("Tomasz", "Hallow", 34), ("Amara", "Winch", 28),
        ("Jorge", "Pellerin", 45), ("Freya", "Duskin", 19), ("Hamid", "Corbel", 38), ("Saoirse", "Venn", 24), ("Luka", "Ostrander", 32),
        ("Priya", "Cawdrey", 40), ("Emrys", "Jolliffe", 55), ("Chidi", "Lacemaker", 26), ("Wren", "Abernathy", 20), ("Noor", "Pinkett", 43),
        ("Casimir", "Bell", 60), ("Thandiwe", "Ropeley", 29), ("Bjorn", "Fallowfield", 35), ("Aoife", "Merrit", 23), ("Dmitri", "Sallow", 47),
        ("Eun-ji", "Harker", 31), ("Matteo", "Quayle", 27), ("Blessing", "Udall", 37), ("Gwenllian", "Pask", 66), ("Rashid", "Tolliver", 33),
        ("Helga", "Mayhew", 51), ("Kofi", "Strand", 22), ("Lucía", "Penhale", 41), ("Ansel", "Wick", 30), ("Mirela", "Groat", 28),
        ("Tobias", "Nightingale-Osei", 36), ("Fatou", "Lanyard", 25), ("Petra", "Swindlehurst", 49), ("Caoimhe", "Reeve", 18), ("Vikram", "Stour", 39),
        ("Isolde", "Barrow", 57), ("Juno", "Applegarth", 16), ("Elias", "Cobb", 15), ("Maya", "Rigger", 17), ("Samir", "Daunt", 14),
        ("Greta", "Hemp", 16), ("Otis", "Bellweather", 15),
    ];
}
