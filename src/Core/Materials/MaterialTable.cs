using System.Globalization;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Materials;

/// <summary>
/// The default list a new house starts from. Source: common practice in shared workshops (no published table);
/// standings are house rulings, except <see cref="RulingStatus.Never"/>, which no house can loosen.
/// </summary>
/// <remarks>
/// A cell reads cut/score/engrave: P permitted, A by arrangement, B banned, N never, X this kind cannot; a number is the greatest mm.
/// </remarks>
public static partial class MaterialTable
{
    private const string Never = "N/N/N";
    private const string Banned = "B/B/B";
    private const string Cannot = "X/X/X";

    public static IReadOnlyList<Material> Materials { get; } = [.. Table.Rows.Select(r => r.Material)];

    public static IReadOnlyList<Ruling> Rulings { get; } = [.. Table.Rows.SelectMany(Expand)];

    public static Material? Find(MaterialId id) => Materials.FirstOrDefault(m => m.Id == id);

    /// <summary>Twins of a material with the group that joins them.</summary>
    public static IEnumerable<LookAlikes> TwinsOf(MaterialId materialId) => LookAlikeGroups.Where(g => g.MaterialIds.Contains(materialId));

    private sealed record Row(
        Material Material,
        string Co2,
        string Diode,
        string Fibre,
        Evidence Evidence,
        string[] Reasons,
        string Hazard,
        string Handling,
        bool FilterAsks
    );

    private static Row R(
        string id,
        string name,
        string family,
        string synonyms,
        string co2,
        string diode,
        string fibre,
        Evidence evidence,
        string reasons,
        string hazard,
        string handling = "",
        decimal energy = 1.2m,
        bool residue = false,
        bool filterAsks = false
    ) =>
        new(
            Material: new Material(id, name, family, Split(synonyms), energy, residue),
            Co2: co2,
            Diode: diode,
            Fibre: fibre,
            Evidence: evidence,
            Reasons: Split(reasons),
            Hazard: hazard,
            Handling: handling,
            FilterAsks: filterAsks
        );

    private static string[] Split(string list) => list.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    private static IEnumerable<Ruling> Expand(Row row)
    {
        foreach (var (kind, cells) in new[] { (LaserKind.Co2, row.Co2), (LaserKind.Diode, row.Diode), (LaserKind.Fibre, row.Fibre) })
        {
            var parts = cells.Split('/');
            for (var i = 0; i < parts.Length; i++)
                yield return One(row, kind, (Operation)i, parts[i]);
        }
    }

    private static Ruling One(Row row, LaserKind kind, Operation operation, string cell)
    {
        var standing = cell[0] switch
        {
            'P' => RulingStatus.Permitted,
            'A' => RulingStatus.ByArrangement,
            'B' => RulingStatus.Banned,
            'N' => RulingStatus.Never,
            'X' => RulingStatus.Cannot,
            _ => throw new FormatException($"{row.Material.Id}: “{cell}” is no ruling."),
        };
        decimal? max = cell.Length > 1 ? decimal.Parse(cell.AsSpan(1), CultureInfo.InvariantCulture) : null;
        return new Ruling(
            MaterialId: row.Material.Id,
            Kind: kind,
            Operation: operation,
            MinMm: 0,
            MaxMm: max,
            Standing: standing,
            Evidence: row.Evidence,
            Reasons: row.Reasons,
            Hazard: row.Hazard,
            Handling: row.Handling,
            FilteredNeedsArrangement: row.FilterAsks
        );
    }
}
