using VelvetGate.Core.Gating;
using VelvetGate.Store.Drawings;

namespace VelvetGate.Store.Gate;

/// <summary>Of sheets, drawings, the machine, its time and the room.</summary>
internal static partial class FactQueries
{
    public static readonly FactQuery<MaterialRow> Materials = new(
        $"""
        select id, name, cut_energy, heavy_residue from materials.material where id = any(@materials)
        """
    );

    public static readonly FactQuery<TwinRow> LookAlikes = new(
        $"""
        select distinct m.id as material_id, t.name
            from materials.look_alikes l, unnest(l.material_ids) m(id), unnest(l.material_ids) o(id)
            join materials.material t on t.id = o.id
            where m.id = any(@materials) and o.id <> m.id
              and exists (select from materials.ruling where material_id = o.id and standing in ('banned', 'never') and {Known} offset 0)
            order by 1, 2
        """
    );

    public static readonly FactQuery<RulingRow> Rulings = new(
        $"""
        select r.* from unnest(@materials) m(id) cross join lateral (
            select material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling,
                filtered_needs_arrangement, {Span}
            from materials.ruling where material_id = m.id and held && tstzrange(@first, @last) and {Known} offset 0) r
        """
    );

    public static readonly FactQuery<SheetRow> Sheets = new(
        $"""
        select s.tag, s.material_id, m.name as material_name, s.thickness_mm, s.width_mm, s.height_mm
            from materials.sheet s join materials.material m on m.id = s.material_id where s.tag = any(@tags)
        """
    );

    public static readonly FactQuery<ClearanceRow> Clearances = new(
        $"""
        select tag, operations, machine_ids, {Span} from materials.clearance where tag = any(@tags) and {Near} and {Known}
        """
    );

    public static readonly FactQuery<QuarantineRow> Quarantines = new(
        $"""
        select tag, {Span} from materials.quarantine where tag = any(@tags) and {Near} and {Known}
        """
    );

    public static readonly FactQuery<DrawingRow> Drawings = new(
        $"""
        select id, name, {DrawingStore.WholeSummary} as summary from bench.drawing where id = any(@drawings)
            and person_id in (@person, @askedBy)
        """
    );

    public static readonly FactQuery<SpanRow> Stops = new(
        $"""
        select {Span} from house.stop where machine_id = @machine and held && tstzrange(@idleFrom, @until) and {Known}
        """
    );

    public static readonly FactQuery<UpkeepFacts> Upkeep = new(
        $"""
        select name as task, overdue_from from upkeep.task where machine_id = @machine and held @> @start and {Known} order by overdue_from
        """
    );

    public static readonly FactQuery<string> Fixtures = new(
        $"""
        select id from house.fixture where machine_id = @machine order by id
        """
    );

    public static readonly FactQuery<TestedRow> Tested = new(
        $"""
        select material_id, thickness_mm, operation, at from bench.test_result
            where machine_id = @machine and material_id = any(@materials) and operation is not null
              and at > coalesce((select max(upper(held)) from house.stop where machine_id = @machine and optics_touched
                  and {Known}), '-infinity')
        """
    );

    public static readonly FactQuery<SpanRow> MachineTaken = new(
        $"""
        select {ClaimSpan} from booking.claim where resource = 'machine:' || @machine and {Around} and {ClaimKnown} order by 1
        """
    );

    public static readonly FactQuery<SpanRow> FixtureTaken = new(
        $"""
        select {ClaimSpan} from booking.claim where resource = @fixture and {Around} and {ClaimKnown} order by 1
        """
    );

    public static readonly FactQuery<ClosureRow> Closures = new(
        $"""
        select p.id as plan, p.title, lower(o.during) as "from", upper(o.during) as until
            from house.occurrence o join house.plan p on p.id = o.plan_id
            where p.kind = 'closure' and (cardinality(p.machine_ids) = 0 or @machine = any(p.machine_ids))
                and o.during && tstzrange(@first, @last) and {Known} order by 3
        """
    );

    public static readonly FactQuery<ClassRow> Classes = new(
        $"""
        select p.id as plan, p.title, lower(o.during) as "from", upper(o.during) as until, p.person_id as adult_id, p.at_once,
                exists (select from house.roster where plan_id = p.id and person_id = @person and {Known}) as on_roster
            from house.occurrence o join house.plan p on p.id = o.plan_id
            where p.kind = 'class' and @machine = any(p.machine_ids) and o.during && tstzrange(@first, @last) and {Known} order by 3
        """
    );

    public static readonly FactQuery<RunningRow> ClassesRunning = new(
        $"""
        select substr(resource, 7, 36)::uuid as plan, {ClaimSpan} from booking.claim
            where resource between 'class:' and 'class:~' and resource like 'class:%/%' and {Around} and {ClaimKnown}
        """
    );

    public static readonly FactQuery<KitFacts> FireKit = new(
        $"""
        select name, in_date_until from house.fire_kit where held @> @start and {Known} order by id
        """
    );

    public static readonly FactQuery<SpanRow> OnDuty = new(
        $"""
        select lower(during) as "from", upper(during) as until from house.duty d where {Around} and {Known}
                and exists (select from people.acting a where a.person_id = d.person_id and a.role = 'steward' and a.held && d.during)
                    order by 1
        """
    );

    public static readonly FactQuery<AtRow> RotaUntil = new(
        $"""
        select max(upper(during)) as at from house.duty where {Known}
        """
    );

    public static readonly FactQuery<string> Room = new(
        $"""
        select body::text from house.room where held @> @start and {Known}
        """
    );

    public static readonly FactQuery<EyewearRow> Eyewear = new(
        $"""
        select name, min_nm, max_nm, optical_density, damage_rated, count from house.eyewear where held @> @start and {Known} order by id
        """
    );
}
