using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Materials;

namespace VelvetGate.Store.Materials;

/// <summary>Writes the default material list into a new house.</summary>
public static class StartingShelf
{
    /// <param name="from">From when the rulings hold.</param>
    /// <param name="review">The day by which each is to be looked at again.</param>
    public static async Task Write(NpgsqlConnection connection, NpgsqlTransaction transaction, Instant from, LocalDate review)
    {
        var materials = MaterialTable.Materials.Select(
            (m, i) =>
                new
                {
                    m.Id,
                    m.Name,
                    m.Family,
                    Synonyms = m.Synonyms.ToArray(),
                    m.CutEnergyJPerMm2,
                    m.HeavyResidue,
                    position = i,
                }
        );
        await connection.ExecuteAsync(
            """
            insert into materials.material (id, name, family, synonyms, cut_energy, heavy_residue, position)
            values (@Id, @Name, @Family, @Synonyms, @CutEnergyJPerMm2, @HeavyResidue, @position)
            """,
            materials,
            transaction
        );
        await connection.ExecuteAsync(
            """
            insert into materials.ruling (material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling,
                filtered_needs_arrangement, practice, review_by, held, recorded)
            values (@MaterialId, @kind, @operation, @MinMm, @MaxMm, @standing, @evidence, @reasons, @Hazard, @Handling,
                @FilteredNeedsArrangement, @practice, @review,
                tstzrange(@from, null), tstzrange(@from, null))
            """,
            MaterialTable.Rulings.Select(r => new
            {
                r.MaterialId,
                kind = GateWords.Of(r.Kind),
                operation = GateWords.Of(r.Operation),
                r.MinMm,
                r.MaxMm,
                standing = GateWords.Of(r.Standing),
                evidence = GateWords.Of(r.Evidence),
                reasons = r.Reasons.ToArray(),
                r.Hazard,
                r.Handling,
                r.FilteredNeedsArrangement,
                practice = MaterialTable.Practice.GetValueOrDefault(r.MaterialId, ""),
                from,
                review,
            }),
            transaction
        );
        await connection.ExecuteAsync(
            "insert into materials.look_alikes (id, material_ids, fresh_edge_tells, tells_apart) values (@id, @ids, "
                + "@FreshEdgeTells, @TellsApart)",
            MaterialTable.LookAlikeGroups.Select(
                (g, i) =>
                    new
                    {
                        id = i + 1,
                        ids = g.MaterialIds.ToArray(),
                        g.FreshEdgeTells,
                        g.TellsApart,
                    }
            ),
            transaction
        );
    }
}
