using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>
/// Tasks that a house begins with. Their limits are starting values (house practice) and the maker’s manual overrides them; the methods
/// are common practice.
/// </summary>
public static class UpkeepMethods
{
    private const string Start = "A starting value; the maker’s manual comes first.";

    private const string Off = "Machine off, key out, plug pulled where there is one. A charge stays in it after switch-off: wait.";

    public static readonly UpkeepPlan Mirrors = new(
        Name: "Mirrors: dab clean",
        Part: UpkeepPart.Mirrors,
        Counter: UpkeepCounter.LaserHours,
        Limit: 40,
        SlipPercent: 10,
        Who: UpkeepWho.Member,
        Steps:
        [
            Off,
            "Open only covers marked free of voltage; behind any other is about 25 kV, and it is a repairer’s.",
            "Blow the dust off. Never wipe it dry.",
            "Cotton bud, a small drop of isopropyl alcohol: dab, never rub. A fresh bud until it stays clean.",
            "Let it dry, covers shut, then a test cut.",
        ],
        Kit: "Puffer, cotton buds, isopropyl alcohol",
        Basis: Start
    );

    public static readonly UpkeepPlan Lens = new(
        Name: "Lens: look, and clean if it needs it",
        Part: UpkeepPart.Lens,
        Counter: UpkeepCounter.Runs,
        Limit: 20,
        SlipPercent: 25,
        Who: UpkeepWho.Member,
        Steps:
        [
            "Head cold, beam off. Take the lens out over a soft cloth, by its rim.",
            "Blow first. A drop of isopropyl alcohol on a bud: dab, never rub, until the bud stays clean.",
            "A scratch is reported, not cleaned.",
            "Back the same way up, screws hand-tight: loose ones give a double image.",
        ],
        Kit: "Puffer, cotton buds, isopropyl alcohol, soft cloth",
        Basis: Start
    );

    public static readonly UpkeepPlan Nozzle = new(
        Name: "Nozzle: clean",
        Part: UpkeepPart.Nozzle,
        Counter: UpkeepCounter.Runs,
        Limit: 20,
        SlipPercent: 25,
        Who: UpkeepWho.Member,
        Steps:
        [
            "Head cold, beam off, air off. Take the nozzle off by hand.",
            "Anti-static foam on a paper towel; turn it inside until the towel stays clean.",
            "Hold it to the light: round and free. A dented one is reported.",
            "Back by hand, and the focus anew.",
        ],
        Kit: "Anti-static foam, paper towels",
        Basis: Start
    );

    public static readonly UpkeepPlan Helpers = new(
        Name: "Pumps, lines and fans: look and listen",
        Part: UpkeepPart.Other,
        Counter: UpkeepCounter.Days,
        Limit: 91,
        SlipPercent: 25,
        Who: UpkeepWho.Trainer,
        Steps:
        [
            Off,
            "Cooling lines without kinks in the corner, unit free of dust, no drops below.",
            "Air pump: its filter clean, its hose tight, clean dry air at the nozzle.",
            "The fan on the head turns freely: smoke wears its bearings.",
            "Screws of lens and mirror mounts hand-tight. Grease or oil only what the maker’s manual names.",
        ],
        Kit: "Brush, cloth, the maker’s manual",
        Basis: Start
    );

    public static readonly UpkeepPlan Bed = new(
        Name: "Bed and tray: soap, soak, dry",
        Part: UpkeepPart.Bed,
        Counter: UpkeepCounter.LaserHours,
        Limit: 20,
        SlipPercent: 25,
        Who: UpkeepWho.Member,
        Steps:
        [
            "Take the bed out, when it is cold. Brush scraps and dust into the lidded bin.",
            "Hot water and soap. Glue and oil soak over night.",
            "Dry it fully before it goes back: a wet bed steams onto the lens.",
            "Bent or broken cells: report it, the bed is replaced.",
        ],
        Kit: "Brush, soap, a tub large enough, a place to dry",
        Basis: Start
    );

    public static readonly UpkeepPlan Coolant = new(
        Name: "Coolant: fresh distilled water",
        Part: UpkeepPart.Coolant,
        Counter: UpkeepCounter.Days,
        Limit: 91,
        SlipPercent: 0,
        Who: UpkeepWho.Trainer,
        Steps:
        [
            Off,
            "Drain it. Rinse, where there is growth or slime.",
            "Fill with distilled water, never from the tap: tap water conducts.",
            "Let it run, tilt the lines until no air pockets are left, and look for kinks.",
            "Read flow and temperature before the first run.",
        ],
        Kit: "Distilled water, bucket, funnel",
        Basis: Start
    );

    public static readonly UpkeepPlan Carbon = new(
        Name: "Carbon stage: change",
        Part: UpkeepPart.Carbon,
        Counter: UpkeepCounter.WeightedHours,
        Limit: 100,
        SlipPercent: 0,
        Who: UpkeepWho.Trainer,
        Steps:
        [
            "Mask and gloves: what it caught is in it. Window open.",
            "Bag the old carbon at the machine and close the bag.",
            "New carbon in, seals looked at, lid latched.",
            "Read the airflow, extraction on, lid shut. No smell while something runs.",
        ],
        Kit: "Carbon stage, bag, mask, gloves",
        Basis: Start + " A filter takes no carbon monoxide, however new."
    );

    public static readonly UpkeepPlan Filter = new(
        Name: "Filter and joints: look, and change",
        Part: UpkeepPart.Filter,
        Counter: UpkeepCounter.WeightedHours,
        Limit: 50,
        SlipPercent: 10,
        Who: UpkeepWho.Trainer,
        Steps:
        [
            "Mask and gloves. Extraction off, and it has stopped.",
            "Look at pipes and joints from machine to outlet: holes, kinks, loose clips.",
            "Change the filter where it is grey all through, or the airflow has fallen.",
            "Read the airflow after.",
        ],
        Kit: "Filter, bag, mask, gloves",
        Basis: Start
    );

    public static readonly UpkeepPlan Airflow = new(
        Name: "Airflow: look into the duct",
        Part: UpkeepPart.Airflow,
        Counter: UpkeepCounter.Airflow,
        Limit: 85,
        SlipPercent: 0,
        Who: UpkeepWho.Trainer,
        Steps:
        [
            "Read the airflow, extraction on, lid shut, bed empty: as at commissioning.",
            "Extraction off. Residue in duct, fan or outlet burns: brush it out into the lidded bin.",
            "Filters looked at, outlet free.",
            "Read it again, and write down both.",
        ],
        Kit: "Meter, brush, lidded bin, mask",
        Basis: "Of commissioning; the extraction engineer decides."
    );

    public static readonly UpkeepPlan Interlocks = new(
        Name: "Interlocks: lid at three heights",
        Part: UpkeepPart.Interlocks,
        Counter: UpkeepCounter.Days,
        Limit: 91,
        SlipPercent: 0,
        Who: UpkeepWho.Trainer,
        Steps:
        [
            "Low power, scrap on the bed, eyewear on for everybody in the room.",
            "Service key turned, so that the maker’s own switch is under test alone.",
            "Lid open a finger, a hand, half: each time the beam is gone at once.",
            "Key back: the same with our relay. Locks, shell and window looked at.",
        ],
        Kit: "Service key, scrap, eyewear",
        Basis: Start
    );

    public static readonly UpkeepPlan Electrical = new(
        Name: "Electrical test",
        Part: UpkeepPart.Electrical,
        Counter: UpkeepCounter.Days,
        Limit: 365,
        SlipPercent: 0,
        Who: UpkeepWho.Repairer,
        Steps:
        [
            "By somebody competent, with the tester of the house or a firm.",
            "Earth from plug to case and tube frame, insulation, cable and plug, screening of the mains wiring.",
            "Label with the date, and its paper with the records.",
        ],
        Kit: "Appliance tester, or a firm",
        Basis: Start + " Local rules decide."
    );

    /// <summary>In the order of a board without dates.</summary>
    public static IReadOnlyList<UpkeepPlan> All { get; } =
    [Lens, Nozzle, Mirrors, Bed, Airflow, Filter, Carbon, Coolant, Helpers, Interlocks, Electrical];

    /// <summary>The tasks that a machine of this make begins with.</summary>
    public static IEnumerable<UpkeepPlan> For(MachineSpec machine) =>
        All.Where(p =>
            p.Part switch
            {
                UpkeepPart.Mirrors => machine.Kind == LaserKind.Co2,
                UpkeepPart.Coolant => machine.WaterCooled,
                UpkeepPart.Carbon or UpkeepPart.Filter => machine.Extraction is Extraction.Filtered or Extraction.Both,
                UpkeepPart.Interlocks => machine.Station?.EnclosureKind is not EnclosureKind.OpenFrame,
                _ => true,
            }
        );

    /// <summary>Nobody has planned anything for it, or not the trial of its interlocks: its class rests on that.</summary>
    /// <param name="parts">What its tasks are about.</param>
    public static bool IsUntended(MachineSpec machine, IReadOnlyCollection<UpkeepPart> parts) =>
        parts.Count == 0 || (!machine.BeamCanReachPeople && !parts.Contains(UpkeepPart.Interlocks));
}
