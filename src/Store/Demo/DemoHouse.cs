using VelvetGate.Core.House;

namespace VelvetGate.Store.Demo;

/// <summary>The Old Ropewalk, an invented workshop: its machines and people. Nothing in it comes from a real place or person.</summary>
public static class DemoHouse
{
    public const string Name = "The Old Ropewalk";
    public const string ZoneId = "Europe/London";
    public const string Password = "ropewalk";

    public static readonly IReadOnlyList<string> SignIns = ["keeper", "steward", "trainer", "member", "newcomer"];

    public static readonly IReadOnlyList<MachineSpec> Machines =
    [
        new(
            "heron", "Heron", LaserKind.Co2, 10600, 80, 900, 600, 10, 8, 180, 0.2m, 3000, 500, Extraction.Ducted, 90, 0.45m, 650, true, "1", "far right",
            "own switch on the wall", "the red button cuts tube and motors; extraction stays on", ["rotary", "pins"]),
        new(
            "wren", "Wren", LaserKind.Co2, 10600, 40, 500, 300, 10, 6.35m, 60, 0.2m, 2000, 400, Extraction.Filtered, 15, 0.12m, 180, true, "1", "upper left",
            "with the machine", "the main switch cuts everything, extraction too", ["rotary"]),
        new(
            "swift", "Swift", LaserKind.Diode, 450, 10, 400, 400, 5, 4, 50, 0.15m, 1500, 300, Extraction.Filtered, 10, 0.09m, 120, false, "1", "lower left",
            "with the machine", "the lid or the button cuts the beam; the fan runs on", []),
        new(
            "kestrel", "Kestrel", LaserKind.Fibre, 1064, 30, 110, 110, 0, 0, 80, 0.05m, 8000, 4000, Extraction.Filtered, 5, 0.05m, 90, false, "1", "centre",
            "own switch on the filter", "the button cuts the beam and the scan head", []),
    ];

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
