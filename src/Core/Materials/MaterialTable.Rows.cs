namespace VelvetGate.Core.Materials;

public static partial class MaterialTable
{
    private const string Wood = "wood and board";
    private const string Paper = "paper and card";
    private const string Plastic = "plastics";
    private const string Cloth = "cloth and hide";
    private const string Rubber = "rubber and foam";
    private const string Hard = "glass and stone";
    private const string Metal = "metal";
    private const string Other = "found and other";
    private const string Smoke = "Smoke and carbon monoxide; can catch fire.";
    private const string Hcl = "Gives hydrogen chloride: burns lungs and eyes, eats optics and rails.";
    private const Evidence Tag = Evidence.ClearedTag;

    // A class of its own, so that it is filled before the lists made from it, whichever file comes first.
    private static class Table
    {
        internal static readonly Row[] Rows =
        [
            R("wood-solid", "Solid wood, raw", Wood, "timber; lime wood; oak; raw wood; lumber", "P/P/P", "P/P/P", Cannot, Evidence.Declared, "fire-melt", Smoke, "No finish of any sort. Look at a fresh edge."),
            R("birch-ply-laser", "Birch plywood, laser grade", Wood, "laser ply; plywood; ply; birch ply", "P/P/P", "P/P/P", Cannot, Tag, "smoulder", Smoke, "Cut thick stock in several passes: one slow pass can leave the core smouldering."),
            R("poplar-ply-laser", "Poplar plywood, laser grade", Wood, "laser ply; plywood; ply; poplar ply", "P/P/P", "P/P/P", Cannot, Tag, "smoulder", Smoke, "Cut thick stock in several passes.", 0.9m),
            R("ply-structural", "Plywood, structural or unknown glue", Wood, "exterior ply; shuttering ply; hardware ply; ply", Banned, Banned, Cannot, Tag, "formaldehyde;smoulder", "Glue gives formaldehyde. Cutting very badly is itself a warning sign."),
            R("wood-flame-retarded", "Flame-retarded wood or board", Wood, "FR ply; stage ply; treated board", Banned, Banned, Cannot, Tag, "chlorine;unknown", "Halogen or phosphorus salts in the smoke."),
            R("veneer", "Veneer, backing known", Wood, "wood veneer", "A/A/A", "A/A/A", Cannot, Evidence.Declared, "formaldehyde;curl", "Backing glue may give formaldehyde.", "Hold down flat."),
            R("veneer-unknown", "Veneer or board, unknown backing", Wood, "backed veneer", Banned, Banned, Cannot, Evidence.Declared, "formaldehyde;unknown", "Unknown glue or backing."),
            R("melamine-board", "Melamine-faced board", Wood, "laminated chipboard; white board; white-faced shelf board", Banned, Banned, Cannot, Evidence.Declared, "formaldehyde", "Melamine resin gives formaldehyde."),
            R("phenolic-laminate", "Phenolic laminate", Wood, "countertop laminate; worktop laminate", Banned, Banned, Cannot, Evidence.Declared, "formaldehyde", "Gives phenol and formaldehyde."),
            R("mdf", "MDF", Wood, "fibreboard; fibre board; medium density fibreboard", "A/A/A", "A/A/A", Cannot, Evidence.Declared, "formaldehyde;residue", "Binder fumes and sticky yellow residue; grade and country decide.", "Ask for the low-formaldehyde grade. Clean the lens after.", 1.4m, true, true),
            R("hardboard", "Hardboard", Wood, "pegboard; pressed fibre board", "A/A/A", "A/A/A", Cannot, Evidence.Declared, "formaldehyde;residue", "Binder fumes and residue.", "", 1.4m, true, true),
            R("bamboo", "Bamboo, raw", Wood, "bamboo ply; bamboo board", "A/A/A", "A/A/A", Cannot, Tag, "unknown;fire-melt", "Often treated, and the treatment cannot be seen.", "The supplier's statement that it is untreated."),
            R("bamboo-treated", "Bamboo, treated or unknown", Wood, "bamboo flooring; carbonised bamboo", Banned, Banned, Cannot, Tag, "unknown", "Unknown treatment."),
            R("wood-finished", "Wood, painted, stained, oiled or varnished", Wood, "varnished wood; painted wood; pressure treated; clear finished wood", Banned, Banned, Cannot, Evidence.Declared, "unknown;fire-melt", "Unknown coating; very flammable or toxic.", "Finish only after the laser."),
            R("cork", "Cork", Wood, "cork sheet; cork tile", "P6.35/P/P", "P6.35/P/P", Cannot, Evidence.None, "fire-melt", Smoke, "", 0.6m),

            R("paper", "Paper", Paper, "printer paper; sugar paper; thin paper", "P6.35/P/P", "P6.35/P/P", Cannot, Evidence.None, "curl;fire-melt", Smoke, "Thin paper curls into the beam: hold it down.", 0.5m),
            R("card", "Card", Paper, "card stock; cardstock; thick paper", "P6.35/P/A", "P6.35/P/A", Cannot, Evidence.Declared, "fire-melt", Smoke, "Cuts well, engraves badly.", 0.5m),
            R("mat-board", "Mat board", Paper, "mount board; mounting board; passe-partout", "P6.35/P/P", "P6.35/P/P", Cannot, Evidence.None, "fire-melt", Smoke, "", 0.6m),
            R("corrugated-card", "Corrugated card", Paper, "cardboard; box card", "P6.35/P/P", "P6.35/P/P", Cannot, Evidence.None, "fire-melt;smoulder", "Flare-ups run along the flutes.", "Do not slow the machine to force one pass; lower the focus point into the board.", 0.3m),
            R("card-coated", "Card, plastic-coated", Paper, "glossy card; laminated card; coated card", Banned, Banned, Cannot, Evidence.Declared, "unknown", "Unknown coating, sometimes PVC or PVDC."),
            R("foam-board", "Foam-cored board", Paper, "foamcore; foam core; display board", "A/A/A", "A/A/A", Cannot, Tag, "fire-melt;styrene", "The core melts and can burn.", "Banned on many lists, cut daily in some houses: a steward decides."),
            R("paper-adhesive", "Self-adhesive paper", Paper, "sticker paper; label sheet", "A/A/A", "A/A/A", Cannot, Evidence.Declared, "unknown;residue", "The glue is unknown.", "", 0.5m),

            R("acrylic-clear", "Acrylic, clear", Plastic, "PMMA; clear plastic; plastic glass; see-through sheet", "P/P/P", Cannot, Cannot, Tag, "fire-melt;odour;transparent", "Flammable, strong smell. Looks like polycarbonate, PVC and PETG.", "Blue light passes straight through it.", 1.0m),
            R("acrylic-opaque", "Acrylic, opaque", Plastic, "coloured acrylic; black acrylic; PMMA", "P/P/P", "P/P/P", Cannot, Tag, "fire-melt;odour", "Flammable, strong smell. Looks like polycarbonate, PVC and PETG.", "", 1.0m),
            R("acrylic-mirror", "Acrylic, mirrored", Plastic, "mirror acrylic; mirror plastic", "A/A/A", "A/A/A", Cannot, Tag, "reflection;fire-melt", "The mirror throws the beam back.", "Mirror side down.", 1.0m),
            R("acrylic-laminate", "Engraving laminate, acrylic core", Plastic, "two-layer laminate; sign laminate; trophy laminate", "A/A/A", "A/A/A", Cannot, Tag, "odour", "Looks like ABS-cored laminate.", "", 1.0m),
            R("abs-laminate", "Engraving laminate, ABS core", Plastic, "two-layer ABS; sign laminate", Banned, Banned, Cannot, Tag, "cyanide;fire-melt", "ABS gives hydrogen cyanide and melts."),
            R("polycarbonate", "Polycarbonate", Plastic, "PC; unbreakable plastic; machine guard plastic", Banned, Banned, Cannot, Tag, "fire-melt;residue", "Chars, yellow edge, bad fumes.", "Looks just like acrylic: banned unless a house writes down why not."),
            R("pvc-sheet", "PVC sheet", Plastic, "vinyl sheet; rigid PVC; clear PVC", Never, Never, Never, Tag, "chlorine;optics", Hcl),
            R("pvc-foam", "Expanded PVC board", Plastic, "foamed PVC; foam PVC; sign board", Never, Never, Never, Tag, "chlorine;optics", Hcl),
            R("vinyl-adhesive", "Vinyl, adhesive or hot-fix", Plastic, "sticker vinyl; heat transfer vinyl; HTV; vinyl", Never, Never, Never, Tag, "chlorine;optics", Hcl),
            R("vinyl-record", "Vinyl record", Plastic, "LP; gramophone record", Never, Never, Never, Tag, "chlorine;optics", Hcl),
            R("pvc-coated-film", "Card or film coated with PVC or PVDC", Plastic, "bank card; ID card; blister film", Never, Never, Never, Tag, "chlorine;optics", Hcl),
            R("fluoropolymer", "Fluorinated plastic", Plastic, "PTFE; PVDF; FEP; non-stick sheet", Never, Never, Never, Tag, "fluorine", "Gives hydrogen fluoride and perfluorinated fumes."),
            R("cellulose-nitrate", "Cellulose nitrate", Plastic, "old film; table tennis ball; guitar pick; nitrocellulose", Never, Never, Never, Tag, "fire-melt", "Burns explosively."),
            R("abs", "ABS", Plastic, "printer filament plastic; toy plastic", Banned, Banned, Cannot, Tag, "cyanide;fire-melt", "Hydrogen cyanide; melts. One school calls it fine: we side with caution."),
            R("polystyrene-foam", "Polystyrene foam", Plastic, "EPS; XPS; polystyrene board; white packing foam", Banned, Banned, Cannot, Tag, "styrene;fire-melt", "Melts into burning goo."),
            R("polypropylene-foam", "Polypropylene foam", Plastic, "EPP", Banned, Banned, Cannot, Tag, "fire-melt", "Melts into burning goo."),
            R("polystyrene", "Polystyrene, solid (HIPS)", Plastic, "HIPS; high-impact polystyrene; styrene sheet", "A1.5/A/A", "A1.5/A/A", Cannot, Tag, "styrene;fire-melt", "Melts into goo above some thickness.", "Thin only: to 1.5 mm."),
            R("polypropylene", "Polypropylene", Plastic, "PP; folder plastic", "A1.5/A/A", "A1.5/A/A", Cannot, Tag, "fire-melt", "Melts into goo above some thickness.", "Thin only: to 1.5 mm."),
            R("hdpe", "HDPE", Plastic, "polyethylene; milk bottle plastic; cutting-board plastic", Banned, Banned, Cannot, Tag, "fire-melt", "Melts and catches fire."),
            R("petg", "PETG", Plastic, "PET-G; clear plastic", "A/A/A", Cannot, Cannot, Tag, "residue;transparent", "Melts, residue. Looks like acrylic.", "", 1.2m, true),
            R("nylon", "Nylon (PA)", Plastic, "polyamide; PA6", "A/A/A", "A/A/A", Cannot, Tag, "cyanide;residue", "Gives cyanide: strong extraction.", "Clean the lens after.", 1.2m, true),
            R("polyester-film", "Polyester film to 0.25 mm", Plastic, "stencil film; drafting film; PET film", "A0.25/A0.25/A0.25", "X/X/X", Cannot, Tag, "residue;curl", "Residue; curls.", "Hold down flat."),
            R("pom", "POM (acetal)", Plastic, "acetal; polyacetal; polyoxymethylene", Banned, Banned, Cannot, Tag, "formaldehyde", "Formaldehyde and a near-invisible flame."),
            R("polyurethane", "Polyurethane sheet", Plastic, "PU sheet; urethane", Banned, Banned, Cannot, Tag, "isocyanate;cyanide", "Isocyanates and cyanide."),
            R("fibreglass", "Fibreglass and circuit board", Plastic, "G10; FR4; PCB; glass epoxy; GRP", Never, Never, Never, Tag, "dust;unknown", "Glass strands do not cut; resin fumes."),
            R("carbon-fibre", "Carbon fibre", Plastic, "CFRP; carbon sheet", Never, Never, Never, Tag, "dust;will-not-cut", "Strands do not cut; resin fumes."),

            R("leather-veg", "Leather, vegetable-tanned", Cloth, "veg tan; hide; tooling leather; leather", "P/P/P", "P/P/P", Cannot, Tag, "odour;residue", "Strong smell, residue.", "Strong extraction. Clean the lens after.", 1.0m, true, true),
            R("leather-stained", "Leather, stained or dyed", Cloth, "dyed leather; stained hide; coloured leather; leather", "A/A/A", "A/A/A", Cannot, Tag, "unknown;odour", "The stain or dye may be toxic; makers’ settings are for unstained leather.", "Vegetable-tanned, with the stain or dye named; better stain it after the laser. Clean the lens after.", 1.0m, true, true),
            R("rawhide", "Rawhide", Cloth, "parchment hide; drum skin", "P/P/P", "P/P/P", Cannot, Evidence.Declared, "odour;residue", "Strong smell, residue.", "Strong extraction. Clean the lens after.", 1.0m, true, true),
            R("leather-sole", "Sole leather", Cloth, "compressed leather; sole bend", "X/P/P", "X/P/P", Cannot, Tag, "will-not-cut;odour", "Too dense to cut; engraves.", "Clean the lens after.", 1.4m, true, true),
            R("leather-chrome", "Leather, chrome-tanned or unknown", Cloth, "chrome tan; mixed scrap leather; garment leather", Banned, Banned, Cannot, Tag, "chromium", "Chromium in the smoke. People disagree: unknown is shut."),
            R("leather-pu", "Imitation leather, polyurethane", Cloth, "PU leather; leatherette; vegan leather; faux leather", Banned, Banned, Cannot, Tag, "isocyanate;cyanide", "Isocyanates and cyanide; looks like hide."),
            R("leather-pvc", "Imitation leather or cloth, vinyl-coated", Cloth, "leatherette; leathercloth; vinyl cloth; faux leather; oilcloth", Never, Never, Never, Tag, "chlorine;optics", Hcl),
            R("felt-wool", "Felt, wool", Cloth, "wool felt", "P6.35/P/P", "P6.35/P/P", Cannot, Tag, "odour;fire-melt", Smoke, "Cuts much faster than wood.", 0.4m),
            R("felt-acrylic", "Felt or cloth, acrylic fibre", Cloth, "craft felt; synthetic felt", Banned, Banned, Cannot, Tag, "cyanide;fire-melt", "Cyanide; melts; looks like wool."),
            R("felt-polyester", "Felt or cloth, polyester", Cloth, "craft felt; fleece; synthetic felt", Banned, Banned, Cannot, Tag, "fire-melt;unknown", "Melts; looks like wool. Only a data sheet clears it."),
            R("cotton", "Cotton, plain", Cloth, "calico; canvas; muslin", "P6.35/P/A", "P6.35/P/A", Cannot, Evidence.Declared, "fire-melt", Smoke, "Stage stock never counts as plain. Engraving burns through unless the settings are fine-tuned.", 0.3m),
            R("denim", "Denim", Cloth, "jeans", "P6.35/P/P", "P6.35/P/P", Cannot, Evidence.Declared, "fire-melt", Smoke, "", 0.4m),
            R("cotton-flame-retarded", "Cotton, flame-retarded", Cloth, "stage cloth; FR canvas; drapes", Banned, Banned, Cannot, Tag, "chlorine;unknown", "Halogen or phosphorus salts in the smoke."),
            R("poly-cotton", "Poly-cotton", Cloth, "mixed cloth; shirt cloth", "A/A/A", "A/A/A", Cannot, Evidence.Declared, "fire-melt", "Melts and sticks while burning."),

            R("rubber-stamp", "Stamp rubber, laser-safe", Rubber, "stamp rubber; odourless rubber; laser rubber", "P/P/P", "P/P/P", Cannot, Tag, "odour;residue", "Strong smell; residue.", "Deep engraving takes ten passes or more. Clean the lens after.", 1.0m, true, true),
            R("rubber-other", "Rubber, other", Rubber, "inner tube; lino; rubber mat", Banned, Banned, Cannot, Tag, "chlorine;unknown", "Chlorine or sulphur unless shown otherwise."),
            R("neoprene", "Neoprene and chlorinated rubber", Rubber, "wetsuit; chloroprene; chlorosulphonated rubber", Never, Never, Never, Tag, "chlorine;optics", Hcl),
            R("silicone", "Silicone", Rubber, "silicone sheet; baking mat", "A/A/A", "A/A/A", Cannot, Evidence.Declared, "dust;residue", "White dust and residue."),
            R("foam-eva", "EVA foam", Rubber, "craft foam; cosplay foam; foam sheet", "A/A/A", "A/A/A", Cannot, Tag, "unknown;odour", "Some fear chlorine: supplier data sheet wanted.", "", 0.3m),
            R("foam-pe", "Polyethylene foam", Rubber, "PE foam; packing foam; case insert foam", Banned, Banned, Cannot, Tag, "fire-melt", "Melts and catches fire."),

            R("glass", "Glass", Hard, "mirror glass; jar; bottle", "X/X/P", "X/X/A", Cannot, Evidence.None, "dust;will-not-cut", "Fine glass powder; never cut.", "Extract the powder; wet kitchen paper keeps it down."),
            R("ceramic", "Ceramic", Hard, "tile; mug; porcelain", "X/X/P", "X/X/A", Cannot, Evidence.Declared, "dust;will-not-cut", "Dust; never cut."),
            R("slate", "Slate and stone", Hard, "coaster slate; stone; marble", "X/X/P", "X/X/P", Cannot, Tag, "dust;will-not-cut", "Dust; never cut. Cement tiles look like it."),
            R("cement-tile", "Cement tile, may hold asbestos", Hard, "asbestos cement; old roof tile", Never, Never, Never, Tag, "dust", "Fibres that look like slate."),

            R("aluminium-anodised", "Aluminium, anodised", Metal, "anodised tag; anodized aluminum", "X/X/A", "X/X/A", "X/P/P", Evidence.Declared, "reflection", "Reflection: staff check the alloy and finish."),
            R("metal-coated", "Metal, powder-coated or painted", Metal, "tumbler; painted tin", "X/X/A", "X/X/A", "X/A/A", Evidence.Declared, "unknown;reflection", "Paint fumes."),
            R("metal-plain", "Steel, aluminium or titanium, bare", Metal, "steel; stainless; aluminum; titanium", "X/X/A", "X/X/A", "X/P/P", Evidence.Declared, "reflection;will-not-cut", "Reflection. On CO2 and diode only with a marking compound."),
            R("metal-reflective", "Copper, brass, polished or unknown alloy", Metal, "brass; copper; bronze; polished metal", "X/X/A", "X/X/A", "X/A/A", Evidence.Declared, "reflection", "Throws the beam back."),
            R("metal-toxic", "Beryllium copper, magnesium, cadmium-, zinc- or lead-coated metal", Metal, "galvanised; spring bronze; plated steel", Never, Never, Never, Tag, "dust;fire-melt", "Toxic metal fume; magnesium burns."),

            R("magnet-sheet", "Bonded magnetic sheet", Other, "fridge magnet; magnetic vinyl", Banned, Banned, Cannot, Evidence.Declared, "chlorine;unknown", "Unknown binder, often vinyl."),
            R("bone-horn-shell", "Bone, horn or shell", Other, "antler; mother of pearl", "A/A/A", "A/A/A", Cannot, Evidence.Declared, "odour;dust", "Smell and dust."),
            R("found-object", "Found object", Other, "shop sign; book cover; lid; tile", "A/A/A", "A/A/A", "X/A/A", Evidence.Declared, "unknown", "Unknown make-up, lead paint.", "The steward states what it is."),
            R("battery-inside", "Anything with a battery inside", Other, "phone; laptop with battery; power bank", Never, Never, Never, Tag, "fire-melt", "Fire."),
            R("unknown", "Unknown", Other, "no idea; mystery plastic; offcut without tag", Never, Never, Never, Tag, "unknown", "Not a material: a question to answer. Nobody test-cuts an unknown to find out."),
        ];
    }

    /// <summary>Groups nobody can tell apart by eye. Source: common practice.</summary>
    public static IReadOnlyList<LookAlikes> LookAlikeGroups { get; } =
    [
        new(["acrylic-clear", "acrylic-opaque", "polycarbonate", "pvc-sheet", "petg"], false, "Nothing you can see. Only paper evidence or density excludes some of them."),
        new(["leather-veg", "leather-stained", "leather-chrome", "leather-pu", "leather-pvc"], false, "A woven back is a bad sign, its absence proves nothing."),
        new(["birch-ply-laser", "poplar-ply-laser", "ply-structural", "wood-flame-retarded"], false, "Glue and salts cannot be seen. The maker's sheet tells."),
        new(["bamboo", "bamboo-treated"], false, "The treatment cannot be seen."),
        new(["foam-eva", "pvc-foam", "foam-pe"], false, "All are soft closed-cell foams. The supplier's data sheet tells."),
        new(["wood-solid", "wood-finished"], true, "A fresh edge shows the clear coat."),
        new(["felt-wool", "felt-acrylic", "felt-polyester"], false, "Feel is not proof. The supplier's data sheet tells."),
        new(["foam-board", "pvc-foam", "polystyrene-foam"], false, "All are light white boards. The maker's name on the sheet tells."),
        new(["cotton", "cotton-flame-retarded", "poly-cotton"], true, "A torn edge shows mixed fibre; stage stock never counts as plain."),
        new(["rubber-stamp", "neoprene"], false, "Both are matt sheets. The maker's name on the sheet tells."),
        new(["slate", "cement-tile"], false, "Layers can be pressed into cement. When in doubt, it stays out."),
        new(["acrylic-laminate", "abs-laminate"], false, "The core looks the same. The maker's number tells."),
        new(["card", "card-coated"], true, "Tear it: a film shows at the edge."),
    ];
}
