using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;

namespace VelvetGate.Store.Materials;

/// <summary>Materials, rulings and look-alikes.</summary>
public sealed class MaterialStore(NpgsqlDataSource db)
{
    private sealed record MaterialRow(
        MaterialId Id,
        string Name,
        string Family,
        string[] Synonyms,
        decimal CutEnergy,
        bool HeavyResidue,
        int Version
    );

    private sealed record RulingRow(
        MaterialId MaterialId,
        string Kind,
        string Operation,
        decimal MinMm,
        decimal? MaxMm,
        string Standing,
        string Evidence,
        string[] Reasons,
        string Hazard,
        string Handling,
        bool FilteredNeedsArrangement
    );

    private sealed record TwinRow(MaterialId[] MaterialIds, bool FreshEdgeTells, string TellsApart);

    /// <summary>The shelf as it holds at an instant.</summary>
    public async Task<(
        IReadOnlyList<Material> Materials,
        IReadOnlyList<Ruling> Rulings,
        IReadOnlyList<LookAlikes> LookAlikes,
        IReadOnlyDictionary<MaterialId, int> Versions
    )> Shelf(Instant at, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(
            new CommandDefinition(
                """
                select id, name, family, synonyms, cut_energy, heavy_residue, version from materials.material order by position;
                select material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling,
                    filtered_needs_arrangement
                    from materials.ruling where held @> @at and upper_inf(recorded) order by material_id, kind, operation, min_mm;
                select material_ids, fresh_edge_tells, tells_apart from materials.look_alikes order by id;
                """,
                new { at },
                cancellationToken: cancel
            )
        );
        var read = (await rows.ReadAsync<MaterialRow>()).ToList();
        var materials = read.Select(m => new Material(m.Id, m.Name, m.Family, m.Synonyms, m.CutEnergy, m.HeavyResidue)).ToList();
        var rulings = (await rows.ReadAsync<RulingRow>())
            .Select(r => new Ruling(
                MaterialId: r.MaterialId,
                Kind: Enum.Parse<LaserKind>(r.Kind, true),
                Operation: Enum.Parse<Operation>(r.Operation, true),
                MinMm: r.MinMm,
                MaxMm: r.MaxMm,
                Standing: Enum.Parse<RulingStatus>(r.Standing, true),
                Evidence: Enum.Parse<Evidence>(r.Evidence, true),
                Reasons: r.Reasons,
                Hazard: r.Hazard,
                Handling: r.Handling,
                FilteredNeedsArrangement: r.FilteredNeedsArrangement
            ))
            .ToList();
        var twins = (await rows.ReadAsync<TwinRow>()).Select(t => new LookAlikes(t.MaterialIds, t.FreshEdgeTells, t.TellsApart)).ToList();
        return (materials, rulings, twins, read.ToDictionary(m => m.Id, m => m.Version));
    }
}
