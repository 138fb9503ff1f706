using System.Globalization;
using NodaTime;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;

namespace VelvetGate.Core.Incidents;

/// <summary>One row of an old list.</summary>
/// <param name="Line">Line of the file, the heading being 1.</param>
public sealed record OldIncident(
    int Line,
    LocalDate Day,
    MachineId? MachineId,
    Mishap What,
    Severity Severity,
    IReadOnlyList<string> Causes,
    string Seen,
    decimal? Cost,
    IReadOnlyList<Refusal> Errors
);

/// <summary>The register of incidents as a file: written with number and standing, read to carry an old list over.</summary>
public static class IncidentsFile
{
    public const int MostRows = 2000;

    /// <summary>What is read.</summary>
    public static IReadOnlyList<string> Columns { get; } = ["day", "machine", "what", "severity", "causes", "seen", "cost"];

    public static IReadOnlyList<string> Written { get; } =
    ["number", "day", "machine", "what", "severity", "causes", "seen", "cost", "holds", "open or closed", "carried over"];

    /// <summary>Every row with what is wrong with it. Nothing is stored here.</summary>
    /// <returns>Or why the file as a whole cannot be read.</returns>
    public static Result<IReadOnlyList<OldIncident>> Read(
        string text,
        IReadOnlyDictionary<MachineId, MachineSpec> machines,
        LocalDate today,
        HouseClock clock
    )
    {
        var table = CsvTable.Read(text, Columns, required: 4, MostRows);
        return table.Refusal is { } refusal ? refusal : table.Value.Select(r => Row(r.Line, r.Cells, machines, today, clock)).ToList();
    }

    private static OldIncident Row(
        int line,
        IReadOnlyList<string> cells,
        IReadOnlyDictionary<MachineId, MachineSpec> machines,
        LocalDate today,
        HouseClock clock
    )
    {
        var errors = new List<Refusal>();
        void Bad(string column, string words) => errors.Add(new Refusal(CommonProblems.CsvBad, words, column));
        var day = Typed.Day(cells[0]);
        if (day is null)
            Bad("day", $"“{cells[0]}” is not a day. Write it like 2024-05-31.");
        else if (day > today)
            Bad("day", "That day is still to come.");
        else if (day < today.PlusYears(-IncidentRules.OldestYears))
            Bad("day", $"That is more than {IncidentRules.OldestYears} years ago.");
        var machine =
            cells[1].Length == 0
                ? null
                : machines.Values.FirstOrDefault(m =>
                    m.Id == cells[1].ToLowerInvariant() || string.Equals(m.Name, cells[1], StringComparison.OrdinalIgnoreCase)
                );
        if (cells[1].Length > 0 && machine is null)
            Bad("machine", $"There is no machine “{cells[1]}”. Leave the cell empty for the room.");
        else if (
            errors.Count == 0
            && machine is not null
            && day is { } on
            && !machine.IsHere(clock.Day(on).End - Duration.FromMilliseconds(1), clock.Day(on).End, clock)
        )
            Bad("day", $"{machine.Name} was not in this house then.");
        var what = Enum.GetValues<Mishap>()
            .Cast<Mishap?>()
            .FirstOrDefault(w =>
                string.Equals(w.ToString(), cells[2], StringComparison.OrdinalIgnoreCase)
                || string.Equals(Mishaps.Says(w!.Value), cells[2], StringComparison.OrdinalIgnoreCase)
            );
        if (what is null)
            Bad("what", $"“{cells[2]}” is none of: {string.Join(", ", Enum.GetNames<Mishap>())}.");
        if (!int.TryParse(cells[3], NumberStyles.None, CultureInfo.InvariantCulture, out var severity) || severity is < 1 or > 5)
            Bad("severity", "Severity is a number from 1 to 5.");
        var causes = cells[4].Split([';', ' ', '|'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        foreach (var cause in causes.Where(c => Causes.Find(c) is null))
            Bad("causes", $"“{cause}” is none of: {string.Join(", ", Causes.All.Select(c => c.Code))}.");
        if (cells[5].Length > IncidentRules.TextLongest)
            Bad("seen", $"Keep it to {IncidentRules.TextLongest} characters.");
        decimal? cost = null;
        if (cells[6].Length > 0)
        {
            if (
                decimal.TryParse(cells[6], NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var read)
                && read is >= 0 and <= IncidentRules.LargestCost
            )
                cost = read;
            else
                Bad("cost", $"“{cells[6]}” is no amount. Write it like 120.50.");
        }
        return new OldIncident(
            Line: line,
            Day: day ?? today,
            MachineId: machine?.Id,
            What: what ?? Mishap.Other,
            Severity: (Severity)Math.Clamp(severity, 1, 5),
            Causes: causes,
            Seen: cells[5],
            Cost: cost,
            Errors: errors
        );
    }
}
