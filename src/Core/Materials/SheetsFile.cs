using System.Globalization;

namespace VelvetGate.Core.Materials;

/// <summary>One row of a file of sheets to register.</summary>
/// <param name="Line">Line of the file, the heading being 1.</param>
public sealed record SheetRow(
    int Line,
    MaterialId MaterialId,
    decimal ThicknessMm,
    decimal WidthMm,
    decimal HeightMm,
    string Supplier,
    string Batch,
    int Count,
    IReadOnlyList<Refusal> Errors
);

/// <summary>
/// Sheets as a file: written with tag and standing, read to register more house stock. Lengths in any unit, bare numbers in mm.
/// </summary>
public static class SheetsFile
{
    /// <summary>Sheets registered by one file at most.</summary>
    public const int MostSheets = 2000;

    private const int LongestWord = 120;

    /// <summary>What is read; what is written has tag, standing and parent as well.</summary>
    public static IReadOnlyList<string> Columns { get; } = ["material", "thickness", "width", "height", "supplier", "batch", "count"];

    public static IReadOnlyList<string> Written { get; } =
    ["tag", "material", "thickness", "width", "height", "supplier", "batch", "standing", "cleared until", "parent"];

    /// <summary>Every row with what is wrong with it. Nothing is stored here.</summary>
    /// <returns>Or why the file as a whole cannot be read.</returns>
    public static Result<IReadOnlyList<SheetRow>> Read(string text, IReadOnlySet<MaterialId> known)
    {
        var table = CsvTable.Read(text, Columns, required: 4, MostSheets);
        if (table.Refusal is { } refusal)
            return refusal;
        var rows = table.Value.Select(r => Row(r.Line, r.Cells, known)).ToList();
        return rows.Sum(r => r.Count) > MostSheets ? MaterialsProblems.SheetsMany.Refuse("file", MostSheets) : rows;
    }

    private static SheetRow Row(int line, IReadOnlyList<string> cells, IReadOnlySet<MaterialId> known)
    {
        var errors = new List<Refusal>();
        if (!known.Contains(cells[0]))
            errors.Add(Bad(0, $"There is no material “{cells[0]}”. Use the short name of its address."));
        var (thickness, width, height) = (Size(1), Size(2), Size(3));
        foreach (var column in new[] { 4, 5 }.Where(c => cells[c].Length > LongestWord))
            errors.Add(Bad(column, $"Keep it to {LongestWord} characters."));
        var count = 1;
        if (
            cells[6].Length > 0
            && (
                !int.TryParse(cells[6], NumberStyles.None, CultureInfo.InvariantCulture, out count)
                || count is < 1 or > SheetDesk.MostAtOnce
            )
        )
        {
            errors.Add(Bad(6, $"Between 1 and {SheetDesk.MostAtOnce}."));
            count = 0;
        }
        if (count > 1 && cells[5].Length == 0)
            errors.Add(Bad(5, "Several sheets are one batch: give it a name."));
        return new SheetRow(
            Line: line,
            MaterialId: cells[0],
            ThicknessMm: thickness,
            WidthMm: width,
            HeightMm: height,
            Supplier: cells[4],
            Batch: cells[5],
            Count: count,
            Errors: errors
        );

        decimal Size(int column)
        {
            var parsed = Length.Parse(cells[column], LengthUnit.Mm);
            if (parsed.Refusal is { } wrong)
                errors.Add(Bad(column, wrong.Text));
            else if (parsed.Value is <= 0 or > SheetDesk.LargestMm)
                errors.Add(Bad(column, $"Between 0 and {SheetDesk.LargestMm:0} mm."));
            else
                return parsed.Value;
            return 0;
        }
    }

    private static Refusal Bad(int column, string text) => new(MaterialsProblems.SheetsCell, text, Columns[column]);
}
