using System.Globalization;
using System.Text.Json;
using CsvHelper;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Materials;

/// <summary>One row of a file of rulings: one range of one cell, as written.</summary>
/// <param name="Line">Line of the file, the heading being 1; in JSON the place of the row, the first being 1.</param>
public sealed record RulingRow(int Line, Ruling? Ruling, IReadOnlyList<Refusal> Errors);

/// <summary>
/// Rulings as a file: CSV (RFC 4180; comma or semicolon; UTF-8) or JSON, one row a range. A cell that is in the file is replaced whole;
/// a cell that is not stays as it is. Thickness in mm.
/// </summary>
public static class RulingsFile
{
    public const int MostRows = 20_000;

    public static IReadOnlyList<string> Columns { get; } =
    ["material", "laser", "operation", "min mm", "max mm", "standing", "evidence", "reasons", "hazard", "handling", "filtered asks"];

    public static string WriteCsv(IEnumerable<Ruling> rulings) => CsvTable.Write(Columns, rulings.Select(Cells));

    public static string WriteJson(IEnumerable<Ruling> rulings) => CsvTable.WriteJson(Columns, rulings.Select(Cells));

    /// <summary>Every row with what is wrong with it, overlaps within a cell included. Nothing is stored here.</summary>
    /// <param name="known">Ids of the materials of the house.</param>
    /// <returns>Or why the file as a whole cannot be read.</returns>
    public static Result<IReadOnlyList<RulingRow>> Read(string text, IReadOnlySet<MaterialId> known)
    {
        var table = CsvTable.Read(text, Columns, required: 3, MostRows);
        if (table.Refusal is { } refusal)
            return refusal;
        var rows = table.Value.Select(r => Row(r.Line, r.Cells, known)).ToList();
        foreach (var cell in rows.Where(r => r.Ruling is not null).GroupBy(r => RulingCell.Of(r.Ruling!)).ToList())
        {
            if (RulingChanges.Check([.. cell.Select(r => r.Ruling!)]) is not [{ } wrong, ..])
                continue;
            var last = rows.FindLastIndex(r => cell.Contains(r));
            rows[last] = rows[last] with { Errors = [.. rows[last].Errors, wrong with { Field = "min mm" }] };
        }
        return rows;
    }

    private static string[] Cells(Ruling r) =>
        [
            r.MaterialId.Value,
            Word(r.Kind),
            Word(r.Operation),
            Mm(r.MinMm),
            r.MaxMm is { } max ? Mm(max) : "",
            Word(r.Standing),
            Word(r.Evidence),
            string.Join(';', r.Reasons),
            r.Hazard,
            r.Handling,
            r.FilteredNeedsArrangement ? "yes" : "no",
        ];

    private static RulingRow Row(int line, IReadOnlyList<string> cells, IReadOnlySet<MaterialId> known)
    {
        var errors = new List<Refusal>();
        if (!known.Contains(cells[0]))
            errors.Add(Bad(0, $"There is no material “{cells[0]}”. Use the short name of its address."));
        var kind = Choice<LaserKind>(1);
        var operation = Choice<Operation>(2);
        var min = Number(3) ?? 0;
        var max = Number(4);
        var standing = Choice<RulingStatus>(5);
        var evidence = Choice<Evidence>(6);
        var filtered = cells[10].ToLowerInvariant() is "yes" or "true" or "1";
        if (!filtered && cells[10].ToLowerInvariant() is not ("" or "no" or "false" or "0"))
            errors.Add(Bad(10, "Say yes or no."));
        var ruling = new Ruling(
            MaterialId: cells[0],
            Kind: kind,
            Operation: operation,
            MinMm: min,
            MaxMm: max,
            Standing: standing,
            Evidence: evidence,
            Reasons: cells[7].Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries),
            Hazard: cells[8],
            Handling: cells[9],
            FilteredNeedsArrangement: filtered
        );
        if (errors.Count == 0)
            errors.AddRange(RulingChanges.Check([ruling]));
        return new RulingRow(line, errors.Count == 0 ? ruling : null, errors);

        T Choice<T>(int column)
            where T : struct, Enum
        {
            if (Enum.TryParse<T>(cells[column], ignoreCase: true, out var value) && !char.IsAsciiDigit(cells[column][0]))
                return value;
            errors.Add(Bad(column, $"“{cells[column]}” is none of {string.Join(", ", Enum.GetValues<T>().Select(Word))}."));
            return default;
        }

        decimal? Number(int column)
        {
            if (cells[column].Length == 0)
                return null;
            if (decimal.TryParse(cells[column].Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var mm))
                return mm;
            errors.Add(Bad(column, $"“{cells[column]}” is no thickness in mm."));
            return null;
        }
    }

    private static Refusal Bad(int column, string text) => new(MaterialsProblems.RulingsCell, text, Columns[column]);

    private static string Mm(decimal mm) => mm.ToString("0.######", CultureInfo.InvariantCulture);

    private static string Word<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
}

/// <summary>Tables of text as CSV and as JSON rows, in and out.</summary>
public static class CsvTable
{
    private static readonly JsonSerializerOptions Indented = new()
    {
        WriteIndented = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    public static string Write(IReadOnlyList<string> columns, IEnumerable<string[]> rows)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        // A cell that a spreadsheet would run as a formula is written as text.
        using (var writer = CsvWriter.Create(text, new CsvWriterOptions { Injection = CsvInjection.Escape }, true))
        {
            writer.WriteHeader([.. columns]);
            foreach (var row in rows)
                writer.WriteRecord(row);
        }
        return text.ToString();
    }

    public static string WriteJson(IReadOnlyList<string> columns, IEnumerable<string[]> rows) =>
        JsonSerializer.Serialize(rows.Select(r => columns.Zip(r).ToDictionary(c => c.First, c => c.Second)), Indented);

    /// <param name="columns">Columns of the table; a row answers in their order, missing cells empty.</param>
    /// <param name="required">So many of the first columns have to be named in the heading.</param>
    public static Result<IReadOnlyList<(int Line, IReadOnlyList<string> Cells)>> Read(
        string text,
        IReadOnlyList<string> columns,
        int required,
        int mostRows
    )
    {
        if (text.Contains('\uFFFD') || text.Contains('\0'))
            return CommonProblems.CsvEncoding.Refuse("file");
        var plain = text.TrimStart('\uFEFF').TrimStart();
        if (plain.Length == 0)
            return CommonProblems.CsvEmpty.Refuse("file", string.Join(",", columns));
        return plain[0] is '[' or '{' ? ReadJson(plain, columns, mostRows) : ReadCsv(plain, columns, required, mostRows);
    }

    private static Result<IReadOnlyList<(int Line, IReadOnlyList<string> Cells)>> ReadCsv(
        string text,
        IReadOnlyList<string> columns,
        int required,
        int mostRows
    )
    {
        using var reader = CsvReader.FromText(
            text,
            new CsvReaderOptions
            {
                MalformedData = CsvMalformedDataHandling.Throw,
                TrackLineNumbers = true,
                TrimWhitespace = true,
            }
        );
        var rows = new List<(int, IReadOnlyList<string>)>();
        try
        {
            reader.ReadHeader();
            var heading = reader.Headers.Select(h => h.Trim().ToLowerInvariant()).ToList();
            if (columns.Take(required).FirstOrDefault(c => !heading.Contains(c)) is { } missing)
                return new Refusal(
                    CommonProblems.CsvHeading,
                    $"The first line lacks “{missing}”. The columns are {string.Join(",", columns)}, with commas or semicolons "
                        + "between.",
                    "file"
                );
            if (heading.Except(columns).FirstOrDefault(h => h.Length > 0) is { } unknown)
                return new Refusal(
                    CommonProblems.CsvHeading,
                    $"There is no column “{unknown}”. The columns are {string.Join(",", columns)}.",
                    "file"
                );
            var places = columns.Select(c => heading.IndexOf(c)).ToList();
            while (reader.Read())
            {
                if (rows.Count >= mostRows)
                    return TooLong(mostRows);
                rows.Add(
                    (
                        (int)reader.LineNumber,
                        [.. places.Select(p => p >= 0 && p < reader.FieldCount ? Unescape(reader.GetString(p).Trim()) : "")]
                    )
                );
            }
        }
        catch (CsvFormatException e)
        {
            return CommonProblems.CsvBad.Refuse("file", e.LineNumber);
        }
        return rows;
    }

    private static Result<IReadOnlyList<(int Line, IReadOnlyList<string> Cells)>> ReadJson(
        string text,
        IReadOnlyList<string> columns,
        int mostRows
    )
    {
        try
        {
            var rows = JsonSerializer.Deserialize<List<Dictionary<string, string>>>(text) ?? [];
            if (rows.Count > mostRows)
                return TooLong(mostRows);
            if (rows.SelectMany(r => r.Keys).FirstOrDefault(k => !columns.Contains(k)) is { } unknown)
                return new Refusal(
                    CommonProblems.CsvHeading,
                    $"There is no “{unknown}”. The names are {string.Join(", ", columns)}.",
                    "file"
                );
            return rows.Select((r, i) => (i + 1, (IReadOnlyList<string>)[.. columns.Select(c => r.GetValueOrDefault(c)?.Trim() ?? "")]))
                .ToList();
        }
        catch (JsonException e)
        {
            return CommonProblems.JsonBad.Refuse("file", e.LineNumber + 1);
        }
    }

    private static Refusal TooLong(int mostRows) => CommonProblems.CsvLong.Refuse("file", mostRows);

    // What Write put before a formula, Read takes away.
    private static string Unescape(string cell) => cell is ['\'', '=' or '+' or '-' or '@' or '\t' or '\r', ..] ? cell[1..] : cell;
}
