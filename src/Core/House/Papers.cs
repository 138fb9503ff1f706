using NodaTime;

namespace VelvetGate.Core.House;

/// <summary>What an inspector asks a house for.</summary>
public enum PaperKind
{
    ExtractionExamined,
    ElectricalTested,
    LaserSafetyOfficer,
    ResponsiblePerson,
    LocalRules,
    RiskFire,
    RiskSubstances,
    RiskYoungPersons,
    ExtinguishersServiced,
    CoAlarmTested,
    DetectorsTested,
    DetectorIsolated,
    StopsTried,
    DuctCleaned,
    Versions,
    ExtinguisherTrained,
    FirstAiders,
}

/// <param name="Name">What it is called.</param>
/// <param name="By">Who answers for it, as the form asks.</param>
/// <param name="Says">What is written down of it.</param>
/// <param name="Months">Usually again after so many; null where only a change brings it.</param>
/// <param name="OfMachine">Kept for each machine.</param>
/// <param name="Basis">Where the months come from.</param>
public sealed record PaperForm(PaperKind Kind, string Name, string By, string Says, int? Months, bool OfMachine, string Basis);

/// <summary>
/// Papers that an inspector or insurer asks for, each with its day and the next one. They stand beside what the house measures itself:
/// none of them takes its place. Source: common practice; local rules decide what is wanted and how often.
/// </summary>
public static class Papers
{
    public const int ByLongest = 120;
    public const int SaysLongest = 600;

    /// <summary>So many days before its next day, stewards are told.</summary>
    public const int TellDays = 30;

    private const string House = "a starting value; local rules and the insurer decide";

    public static IReadOnlyList<PaperForm> All { get; } =
    [
        new(
            PaperKind.ExtractionExamined,
            "Thorough examination of the extraction",
            "Examiner and firm",
            "Report number, inward speed at the openings, what is to be put right",
            14,
            OfMachine: true,
            "UK: at most 14 months apart (from memory)"
        ),
        new(PaperKind.ElectricalTested, "Electrical test", "Tester or firm", "Label number and result", 12, OfMachine: true, House),
        new(
            PaperKind.LaserSafetyOfficer,
            "Laser safety officer appointed",
            "Who it is",
            "Appointed by whom, trained where",
            12,
            OfMachine: false,
            House
        ),
        new(PaperKind.ResponsiblePerson, "Responsible person for fire", "Who it is", "Appointed by whom", 12, OfMachine: false, House),
        new(PaperKind.LocalRules, "Local rules for the lasers", "Who signed them", "Where they hang", 12, OfMachine: false, House),
        new(PaperKind.RiskFire, "Risk assessment: fire", "Who made it", "What it asks for", 12, OfMachine: false, House),
        new(
            PaperKind.RiskSubstances,
            "Risk assessment: fume and substances",
            "Who made it",
            "What it asks for",
            12,
            OfMachine: false,
            House
        ),
        new(PaperKind.RiskYoungPersons, "Risk assessment: young persons", "Who made it", "What it asks for", 12, OfMachine: false, House),
        new(
            PaperKind.ExtinguishersServiced,
            "Extinguishers serviced by a firm",
            "The firm",
            "Apart from the house’s monthly look",
            12,
            OfMachine: false,
            House
        ),
        new(PaperKind.CoAlarmTested, "Carbon-monoxide alarm tested", "Who pressed it", "Sounded; in date to", 1, OfMachine: false, House),
        new(PaperKind.DetectorsTested, "Smoke and heat detectors tested", "Who tested them", "Which ones", 3, OfMachine: false, House),
        new(
            PaperKind.DetectorIsolated,
            "Detector isolated",
            "Who isolated it",
            "Which one, why, and what stands in for it; the next day is its end",
            null,
            OfMachine: false,
            "given back the same day, as a rule (common practice)"
        ),
        new(
            PaperKind.StopsTried,
            "Emergency stop and our relay tried",
            "Who tried them",
            "Beam gone at each; what runs on",
            3,
            OfMachine: true,
            House
        ),
        new(PaperKind.DuctCleaned, "Duct cleaned", "Who cleaned it", "From where to where, what came out", 12, OfMachine: true, House),
        new(
            PaperKind.Versions,
            "Controller and software versions",
            "Who looked",
            "Panel, driver and drawing software",
            null,
            OfMachine: true,
            "at each change"
        ),
        new(
            PaperKind.ExtinguisherTrained,
            "Trained on extinguishers",
            "Who is trained",
            "By whom, with a live discharge or without",
            12,
            OfMachine: false,
            House
        ),
        new(PaperKind.FirstAiders, "First aiders", "Who they are", "Certificate and its kind", 36, OfMachine: false, House),
    ];

    public static PaperForm Of(PaperKind kind) => All.Single(p => p.Kind == kind);

    /// <param name="machine">Which one it is about; null for the house.</param>
    public static IEnumerable<Refusal> Wrong(
        PaperKind kind,
        bool machine,
        LocalDate on,
        LocalDate? next,
        string by,
        string says,
        LocalDate today
    )
    {
        var form = Of(kind);
        if (form.OfMachine != machine)
            yield return (form.OfMachine ? HouseProblems.PaperMachine : HouseProblems.PaperHouse).Refuse("machineId");
        if (on > today)
            yield return HouseProblems.PaperDay.Refuse("onDay");
        if (next <= on)
            yield return HouseProblems.PaperNext.Refuse("nextDay");
        if (next is null && kind == PaperKind.DetectorIsolated)
            yield return HouseProblems.PaperEnd.Refuse("nextDay");
        if (string.IsNullOrWhiteSpace(by) || by.Length > ByLongest)
            yield return HouseProblems.PaperBy.Refuse("by", ByLongest);
        if (says.Length > SaysLongest)
            yield return HouseProblems.PaperSays.Refuse("says", SaysLongest);
    }

    /// <summary>From its next day on it counts no more.</summary>
    public static bool IsOver(LocalDate? next, LocalDate today) => next <= today;
}
