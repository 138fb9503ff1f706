using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Materials;

namespace VelvetGate.Store.Materials;

public sealed record SheetNow(string Tag, string MaterialId, string MaterialName, decimal ThicknessMm, decimal WidthMm, decimal HeightMm, Instant? ClearedUntil, bool Cleared, bool Quarantined);

/// <summary>Materials, rulings, look-alikes and sheets.</summary>
public sealed class MaterialStore(NpgsqlDataSource db)
{
    private sealed record MaterialRow(string Id, string Name, string Family, string[] Synonyms, decimal CutEnergy, bool HeavyResidue, int Version);

    private sealed record RulingRow(
        string MaterialId, string Kind, string Operation, decimal MinMm, decimal? MaxMm, string Standing, string Evidence, string[] Reasons, string Hazard, string Handling,
        bool FilteredNeedsArrangement);

    private sealed record TwinRow(string[] MaterialIds, bool FreshEdgeTells, string TellsApart);

    /// <summary>The shelf as it holds at an instant.</summary>
    public async Task<(IReadOnlyList<Material> Materials, IReadOnlyList<Ruling> Rulings, IReadOnlyList<LookAlikes> LookAlikes, IReadOnlyDictionary<string, int> Versions)> Shelf(Instant at, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        using var rows = await connection.QueryMultipleAsync(new CommandDefinition(
            """
            select id, name, family, synonyms, cut_energy, heavy_residue, version from materials.material order by position;
            select material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling, filtered_needs_arrangement
                from materials.ruling where held @> @at and upper_inf(recorded) order by material_id, kind, operation, min_mm;
            select material_ids, fresh_edge_tells, tells_apart from materials.look_alikes order by id;
            """,
            new { at }, cancellationToken: cancel));
        var read = (await rows.ReadAsync<MaterialRow>()).ToList();
        var materials = read.Select(m => new Material(m.Id, m.Name, m.Family, m.Synonyms, m.CutEnergy, m.HeavyResidue)).ToList();
        var rulings = (await rows.ReadAsync<RulingRow>()).Select(r => new Ruling(
            r.MaterialId, Enum.Parse<LaserKind>(r.Kind, true), Enum.Parse<Operation>(r.Operation, true), r.MinMm, r.MaxMm, Enum.Parse<RulingStanding>(r.Standing, true),
            Enum.Parse<Evidence>(r.Evidence, true), r.Reasons, r.Hazard, r.Handling, r.FilteredNeedsArrangement)).ToList();
        var twins = (await rows.ReadAsync<TwinRow>()).Select(t => new LookAlikes(t.MaterialIds, t.FreshEdgeTells, t.TellsApart)).ToList();
        return (materials, rulings, twins, read.ToDictionary(m => m.Id, m => m.Version));
    }

    public async Task<IReadOnlyList<SheetNow>> Sheets(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return [.. await connection.QueryAsync<SheetNow>(new CommandDefinition(
            """
            select s.tag, s.material_id, m.name as material_name, s.thickness_mm, s.width_mm, s.height_mm,
                (select max(upper(c.held)) from materials.clearance c where c.tag = s.tag and c.held @> @now and upper_inf(c.recorded)) as cleared_until,
                exists (select from materials.clearance c where c.tag = s.tag and c.held @> @now and upper_inf(c.recorded)) as cleared,
                exists (select from materials.quarantine q where q.tag = s.tag and q.held @> @now and upper_inf(q.recorded)) as quarantined
            from materials.sheet s join materials.material m on m.id = s.material_id order by s.tag
            """,
            new { now }, cancellationToken: cancel))];
    }
}
