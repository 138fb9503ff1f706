namespace VelvetGate.Core.Materials;

/// <summary>A rule people go by, and what is to be said of it.</summary>
/// <param name="Claim">As it is told.</param>
/// <param name="Answer">What it is worth. It never permits.</param>
public sealed record RuleOfThumb(string Claim, string Answer);

public static partial class MaterialTable
{
    /// <summary>
    /// Where houses that work well differ about a material, and which side the starting list takes. Source: common practice, as told by
    /// practitioners.
    /// </summary>
    public static IReadOnlyDictionary<MaterialId, string> Practice { get; } =
        new Dictionary<MaterialId, string>
        {
            ["polycarbonate"] =
                "Some houses cut it and find it only smoky; others see charring, yellow edges and bad fumes; many ban it outright. "
                + "Banned here; a house may offer it by arrangement with a written reason.",
            ["abs"] = "One school calls it fine; others ban it, with cyanide in the smoke as the reason. Banned here.",
            ["bamboo"] =
                "Banned where treatment cannot be told, cut with pleasure elsewhere, and counted as any wood by a third school. By "
                + "arrangement here, on the supplier’s word that it is untreated.",
            ["foam-board"] =
                "It stands on many banned lists; some of the same houses cut a lot of it, others only by arrangement. By arrangement here.",
            ["vinyl-record"] =
                "Somebody cut one with a strong fan and dry air and left the judging to each owner. Never here: hydrogen chloride, "
                + "which turns to hydrochloric acid in damp air, harms people and the machine.",
            ["leather-pvc"] =
                "Some would try a thin piece to see. Never here: it gives hydrogen chloride. The gas is not chlorine, and it is "
                + "not called a war gas; the acid is harm enough.",
            ["pvc-sheet"] =
                "All lists agree. What comes off is told differently: it is hydrogen chloride, which turns to hydrochloric acid in "
                + "damp air. Never here.",
            ["polystyrene"] =
                "Banned in some houses, cut thin in others; the high-impact grade cuts decently, and what its smoke does is not "
                + "agreed. By arrangement and thin here.",
            ["polystyrene-foam"] = "It melts into burning goo; nobody speaks for it. Banned here.",
            ["polypropylene"] =
                "Some lists ban it and may mean only the foam; others cut it thin. By arrangement and thin here, the foam banned.",
            ["polyurethane"] =
                "Never on some lists, feared in imitation leather by others, not named by the rest. Banned here for isocyanates "
                + "and cyanide.",
            ["leather-pu"] = "Many would not dare; some lists do not name it. Banned here for isocyanates and cyanide.",
            ["foam-eva"] =
                "Cut often by those who make costumes; some fear chlorine, most lists are silent. By arrangement here, on a data sheet.",
            ["leather-veg"] =
                "Some houses allow leather without asking how it was tanned. Permitted here only as vegetable-tanned and neither "
                + "stained nor dyed, by the supplier’s word.",
            ["leather-chrome"] =
                "Banned for toxic smoke, undecided elsewhere, and cut unknowingly as mixed scrap by many. Banned here: unknown "
                + "tanning is taken for chrome.",
            ["leather-stained"] =
                "Makers’ settings are for unstained leather, without a reason given; some see the stain as the only worry, others "
                + "allow all leather. By arrangement here: the stain or dye has to be named.",
            ["birch-ply-laser"] =
                "Some buy the cheapest sheet in the shop, others only laser-safe ply or the house’s own stock: the glue decides, "
                + "and it cannot be seen. Permitted here as laser grade, tagged.",
            ["ply-structural"] =
                "Some find cheap shop ply fine where flatness does not matter; others trust named vendors alone. Banned here: "
                + "unknown glue.",
            ["wood-solid"] =
                "Most take any raw wood; some say anything organic that burns. Permitted here as raw wood without any finish, and "
                + "the saying is no permission.",
            ["mdf"] =
                "The cheap usual material of some, with sticky residue and an uncertain share of formaldehyde for others. By "
                + "arrangement here, low-formaldehyde grade.",
            ["hardboard"] = "Usable on some lists, grouped with MDF by others for its binder. By arrangement here.",
            ["wood-finished"] =
                "Some engrave ready-made signs; others ban every finish, and finish only after the laser. Banned here: finish "
                + "after you cut.",
            ["paper"] =
                "Any paper may be cut or engraved in some houses; others never engrave it, and thin paper curls and spoils the job "
                + "everywhere. Permitted here, held down.",
            ["card"] = "Cut everywhere; some never engrave it. Engraving by arrangement here.",
            ["glass"] =
                "Some only say that it is not cut, others engrave it; that its fine powder has to be extracted is told by few. "
                + "Engraving here, with the powder extracted.",
            ["aluminium-anodised"] =
                "Engraved freely by some, only after staff looked at alloy and finish by others. By arrangement here on CO2 and diode.",
            ["metal-plain"] =
                "Matte metal takes a mark with much power or a compound; others keep to coated metal. By arrangement here on CO2 "
                + "and diode.",
            ["metal-reflective"] = "In general shiny surfaces are avoided; a fibre laser marks them with care. By arrangement here.",
            ["carbon-fibre"] =
                "Some give dangerous gas as the reason, others that it simply does not cut and stinks. Never here, for both and "
                + "for the strands.",
            ["fibreglass"] = "Some give dangerous gas as the reason, others that it does not cut. Never here, for both.",
        };

    /// <summary>What people go by without papers, answered. Each is a hint, and none permits.</summary>
    public static IReadOnlyList<RuleOfThumb> RulesOfThumb { get; } =
    [
        new(
            "It burns harmlessly in a hearth.",
            "A hint for raw wood, no more: glue, stain and treatment burn there too, and their smoke goes up a chimney. Ask for the papers."
        ),
        new(
            "It is organic, and organic stuff that burns is fine.",
            "Chrome-tanned leather, treated bamboo and glued boards are organic, and are banned or asked about here. Ask for the papers."
        ),
        new(
            "It is not hard, not shiny and not thick.",
            "Vinyl, foam and imitation leather are soft, dull and thin, and are among the worst. Ask for the papers."
        ),
    ];
}
