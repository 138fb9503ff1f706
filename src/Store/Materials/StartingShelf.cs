using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Materials;

namespace VelvetGate.Store.Materials;

/// <summary>Writes the default material list into a new house.</summary>
public static class StartingShelf
{
    /// <param name="from">From when the rulings hold.</param>
    public static async Task Write(NpgsqlConnection connection, NpgsqlTransaction transaction, Instant from)
    {
        var materials = MaterialTable.Materials.Select((m, i) => new { m.Id, m.Name, m.Family, Synonyms = m.Synonyms.ToArray(), m.CutEnergyJPerMm2, m.HeavyResidue, position = i });
        await connection.ExecuteAsync(
            """
            insert into materials.material (id, name, family, synonyms, cut_energy, heavy_residue, position)
            values (@Id, @Name, @Family, @Synonyms, @CutEnergyJPerMm2, @HeavyResidue, @position)
            """,
            materials, transaction);
        await connection.ExecuteAsync(
            """
            insert into materials.ruling (material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling, filtered_needs_arrangement, held, recorded)
            values (@MaterialId, @kind, @operation, @MinMm, @MaxMm, @standing, @evidence, @reasons, @Hazard, @Handling, @FilteredNeedsArrangement,
                tstzrange(@from, null), tstzrange(@from, null))
            """,
            MaterialTable.Rulings.Select(r => new
            {
                r.MaterialId, kind = Word(r.Kind), operation = Word(r.Operation), r.MinMm, r.MaxMm, standing = Word(r.Standing), evidence = Word(r.Evidence),
                reasons = r.Reasons.ToArray(), r.Hazard, r.Handling, r.FilteredNeedsArrangement, from,
            }), transaction);
        await connection.ExecuteAsync(
            "insert into materials.look_alikes (id, material_ids, fresh_edge_tells, tells_apart) values (@id, @ids, @FreshEdgeTells, @TellsApart)",
            MaterialTable.LookAlikeGroups.Select((g, i) => new { id = i + 1, ids = g.MaterialIds.ToArray(), g.FreshEdgeTells, g.TellsApart }), transaction);
    }

    private static string Word<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
}
