using Dapper;
using Npgsql;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Machines;
using VelvetGate.Store.Drawings;

namespace VelvetGate.Store.Incidents;

/// <summary>What the house knows of an incident for itself: from run, booking, drawing, sheet and the upkeep of then.</summary>
internal static class IncidentEvidence
{
    /// <summary>What is known, and what the holds are proposed from.</summary>
    public static async Task<(KnownFacts Known, HoldFacts Holds, HouseRules Rules)> Load(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        IncidentRow incident
    )
    {
        using var rows = await connection.QueryMultipleAsync(
            """
            select body::text from house.rules where held @> @At and upper_inf(recorded);
            select spec::text from house.machine where id = @MachineId;
            select r.person_id, r.material_id, r.thickness_mm, r.operations, b.ask::text as ask, r.item
                from run.log r left join booking.booking b on b.id = r.booking_id where r.id = @RunId;
            select name from upkeep.task where machine_id = @MachineId and held @> @At and upper_inf(recorded) and overdue_from <= @At
                and name ~* '(bed|honeycomb|tray|lens|mirror|optic|nozzle)' order by name;
            select exists (select from materials.quarantine where tag = @Tag and held @> @At and upper_inf(recorded)
                and incident_id is distinct from @Id);
            select cut_energy from materials.material where id = @MaterialId;
            select exists (select from materials.ruling where material_id = @MaterialId and standing = 'never' and held @> @At
                and upper_inf(recorded));
            """,
            new
            {
                incident.Id,
                incident.At,
                incident.MachineId,
                incident.RunId,
                incident.Tag,
                incident.MaterialId,
            },
            transaction
        );
        var rules = GateJson.Read<HouseRules>(
            await rows.ReadSingleOrDefaultAsync<string>() ?? throw new InvalidOperationException("There are no rules yet.")
        );
        var spec = await rows.ReadSingleOrDefaultAsync<string>();
        var run = await rows.ReadSingleOrDefaultAsync<RunFacts?>();
        var overdue = (await rows.ReadAsync<string>()).ToList();
        var quarantined = await rows.ReadSingleAsync<bool>();
        var energy = await rows.ReadSingleOrDefaultAsync<decimal?>();
        var never = await rows.ReadSingleAsync<bool>();
        var operations = run?.Operations.Select(o => Enum.Parse<Operation>(o, ignoreCase: true)).ToList() ?? [];
        var item = Item(run, operations);
        var known = new KnownFacts(
            ThicknessMm: run?.ThicknessMm,
            Tag: incident.Tag,
            TagKnown: run is not null,
            Quarantined: quarantined,
            Overdue: overdue,
            UsualJPerMm2: energy,
            Cut: run is null || operations.Contains(Operation.Cut)
        );
        if (item?.DrawingId is { } drawing && spec is not null)
            known = await WithDrawing(connection, transaction, known, drawing, rules, GateJson.Read<MachineSpec>(spec));
        return (
            known,
            new HoldFacts(
                What: incident.What,
                Severity: incident.Severity,
                MachineId: incident.MachineId,
                Tag: incident.Tag,
                MaterialId: incident.MaterialId,
                NeverStock: never,
                Person: run?.PersonId
            ),
            rules
        );
    }

    /// <summary>The item of the booking that was run: its sheet, its drawing.</summary>
    internal static GateItem? Item(RunFacts? run, IReadOnlyList<Operation> operations) =>
        run?.Ask is { } ask
            ? GateJson
                .Read<GateQuestion>(ask)
                .Items.Where((_, i) => run.Item is not { } named || named == i)
                .FirstOrDefault(i => i.MaterialId == run.MaterialId && operations.All(i.Operations.Contains))
            : null;

    private static async Task<KnownFacts> WithDrawing(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        KnownFacts known,
        Guid drawing,
        HouseRules rules,
        MachineSpec machine
    )
    {
        var row = await connection.QuerySingleOrDefaultAsync<(string Name, string Summary)?>(
            $"select name, {DrawingStore.WholeSummary} as summary from bench.drawing where id = @drawing",
            new { drawing },
            transaction
        );
        if (row is not { } found)
            return known;
        var findings = DrawingFindings.Of(
            GateJson.Read<DrawingSummary>(found.Summary),
            rules.Colours,
            machine,
            thicknessMm: known.ThicknessMm,
            tolerances: rules.DrawingTolerances
        );
        double? Of(FindingKind kind) => findings.FirstOrDefault(f => f.Kind == kind)?.LengthMm;
        return known with { Drawing = found.Name, DoubledMm = Of(FindingKinds.LineDuplicate), NearMm = Of(FindingKinds.LineNear) };
    }

    internal sealed record RunFacts(
        PersonId PersonId,
        MaterialId MaterialId,
        decimal ThicknessMm,
        string[] Operations,
        string? Ask,
        int? Item
    );
}
