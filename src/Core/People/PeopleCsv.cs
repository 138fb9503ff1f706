using System.Text.RegularExpressions;
using CsvHelper;
using NodaTime;

namespace VelvetGate.Core.People;

/// <summary>A person as a house writes them down.</summary>
/// <param name="BirthDate">Null for an adult; of a band, the latest that it allows.</param>
/// <param name="Band">Kept instead of a birth date; null for a date or an adult.</param>
public sealed record NewPerson(
    string GivenName,
    string FamilyName,
    LocalDate? BirthDate,
    string? Band,
    string? Email,
    string? SignInName,
    LocalDate? AccountEnds
);

/// <param name="Line">Line of the file, the heading being 1.</param>
public sealed record CsvRow(int Line, NewPerson? Person, IReadOnlyList<Refusal> Errors);

/// <summary>Reads people from a form or a CSV file (RFC 4180; comma or semicolon; UTF-8).</summary>
public static partial class PeopleCsv
{
    public const int MostRows = 5000;
    private const int LongestName = 100;
    private static readonly string[] Columns =
    [
        "given name",
        "family name",
        "birth date",
        "age band",
        "email",
        "sign-in name",
        "account ends",
    ];

    public static string Heading => string.Join(",", Columns);

    /// <summary>Every row with what is wrong with it. Nothing is stored here.</summary>
    /// <returns>Or why the file as a whole cannot be read.</returns>
    public static Result<IReadOnlyList<CsvRow>> Read(string text, LocalDate today)
    {
        if (text.Contains('\uFFFD') || text.Contains('\0'))
            return CommonProblems.CsvEncoding.Refuse("file");
        if (string.IsNullOrWhiteSpace(text))
            return CommonProblems.CsvEmpty.Refuse("file", Heading);
        using var reader = CsvReader.FromText(
            text.TrimStart('\uFEFF'),
            new CsvReaderOptions
            {
                MalformedData = CsvMalformedDataHandling.Throw,
                TrackLineNumbers = true,
                TrimWhitespace = true,
            }
        );
        var rows = new List<CsvRow>();
        try
        {
            reader.ReadHeader();
            var heading = reader.Headers.Select(h => h.Trim().ToLowerInvariant()).ToList();
            if (!heading.Contains(Columns[0]) || !heading.Contains(Columns[1]))
                return new Refusal(CommonProblems.CsvHeading, $"The first line has to name the columns: {Heading}.", "file");
            if (heading.Except(Columns).FirstOrDefault(h => h.Length > 0) is { } unknown)
                return new Refusal(CommonProblems.CsvHeading, $"There is no column “{unknown}”. The columns are {Heading}.", "file");
            while (reader.Read())
            {
                if (rows.Count >= MostRows)
                    return CommonProblems.CsvLong.Refuse("file", MostRows);
                string? Cell(int column) =>
                    reader.TryGetFieldIndex(Columns[column], out var index)
                    && index < reader.FieldCount
                    && reader.GetString(index).Trim() is { Length: > 0 } cell
                        ? cell
                        : null;
                var (person, errors) = Check(Cell(0), Cell(1), Cell(2), Cell(3), Cell(4), Cell(5), Cell(6), today);
                rows.Add(new CsvRow((int)reader.LineNumber, person, errors));
            }
        }
        catch (CsvFormatException e)
        {
            return CommonProblems.CsvBad.Refuse("file", e.LineNumber);
        }
        return MarkDoubles(rows);
    }

    /// <summary>One person from typed words; the fields at fault are named as the API has them.</summary>
    public static (NewPerson? Person, IReadOnlyList<Refusal> Errors) Check(
        string? given,
        string? family,
        string? born,
        string? band,
        string? email,
        string? signIn,
        string? ends,
        LocalDate today
    )
    {
        var errors = new List<Refusal>();
        if (string.IsNullOrWhiteSpace(given))
            errors.Add(Bad("givenName", "Write the given name."));
        if (string.IsNullOrWhiteSpace(family))
            errors.Add(Bad("familyName", "Write the family name."));
        foreach (var (name, field) in new[] { (given, "givenName"), (family, "familyName"), (email, "email"), (signIn, "signInName") })
        {
            if (name is null)
                continue;
            if (name.Length > LongestName)
                errors.Add(Bad(field, $"Longer than {LongestName} characters."));
            if (name.Any(char.IsControl))
                errors.Add(Bad(field, "It holds a character that cannot be seen. Type it again."));
            // A cell that a spreadsheet would run as a formula is no name.
            if (name.Length > 0 && name[0] is '=' or '+' or '@' or '-' or '\t')
                errors.Add(Bad(field, $"“{name}” begins like a formula."));
        }
        var birth = Date(born, "birthDate", errors);
        if (birth > today)
            errors.Add(Bad("birthDate", "The birth date lies in the future."));
        if (band is not null && band != "adult" && !Ages.Bands.ContainsKey(band))
            errors.Add(Bad("ageBand", $"An age band is one of {string.Join(", ", Ages.Bands.Keys)}, adult."));
        if (band is not null && birth is not null)
            errors.Add(Bad("ageBand", "Give the birth date or the age band, not both."));
        if (email is not null && !IsAddress(email))
            errors.Add(Bad("email", "An address looks like name@place.example."));
        var end = Date(ends, "accountEnds", errors);
        if (end < today)
            errors.Add(Bad("accountEnds", "The account’s last day is over already."));
        if (errors.Count > 0)
            return (null, errors);
        var banded = band is not null && band != "adult";
        return (
            new NewPerson(
                GivenName: given!.Trim(),
                FamilyName: family!.Trim(),
                BirthDate: banded ? Ages.LatestBirth(band!, today) : birth,
                Band: banded ? band : null,
                Email: email,
                SignInName: signIn,
                AccountEnds: end
            ),
            errors
        );
    }

    /// <summary>
    /// One address and nothing round it: no name, no angle brackets, no comment. Every mail library reads it the same. RFC 5321, 4.1.2:
    /// dot-string at domain, 254 characters at most.
    /// </summary>
    public static bool IsAddress(string text) => text.Length <= 254 && AddressForm().IsMatch(text);

    [GeneratedRegex(
        @"^[A-Za-z0-9!#$%&'*+/=?^_`{|}~-]+(\.[A-Za-z0-9!#$%&'*+/=?^_`{|}~-]+)*"
            + @"@[A-Za-z0-9]([A-Za-z0-9-]*[A-Za-z0-9])?(\.[A-Za-z0-9]([A-Za-z0-9-]*[A-Za-z0-9])?)*\z"
    )]
    private static partial Regex AddressForm();

    private static LocalDate? Date(string? text, string field, List<Refusal> errors)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        if (Typed.Day(text) is { } day)
            return day;
        errors.Add(Bad(field, $"“{text}” is not a date. Write it like 2012-05-31."));
        return null;
    }

    private static List<CsvRow> MarkDoubles(List<CsvRow> rows)
    {
        var seen = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        return
        [
            .. rows.Select(row =>
            {
                if (row.Person is not { } p)
                    return row;
                foreach (
                    var (key, field) in new[]
                    {
                        ($"{p.GivenName}\n{p.FamilyName}", "familyName"),
                        (p.SignInName is { } s ? $"\0{s}" : "", "signInName"),
                    }
                )
                {
                    if (key.Length > 0 && !seen.TryAdd(key, row.Line))
                        return row with { Errors = [.. row.Errors, Bad(field, $"The same stands on line {seen[key]}.")] };
                }
                return row;
            }),
        ];
    }

    private static Refusal Bad(string field, string text) => new(PeopleProblems.PersonField, text, field);
}
