using VelvetGate.Core.Gating;
using VelvetGate.Store.Db;
using VelvetGate.Store.Drawings;
using VelvetGate.Store.House;

namespace VelvetGate.Store.Gate;

/// <summary>Of sheets, drawings, the machine, its time and the room.</summary>
internal static partial class FactQueries
{
    public static readonly FactQuery<MaterialRow> Materials = new(
        "select id, name, cut_energy, heavy_residue from materials.material",
        Topic.Materials,
        holds: (m, q) => q.Materials.Contains(m.Id)
    );

    public static readonly FactQuery<TwinRow> LookAlikes = new(
        $"""
        select distinct m.id as material_id, t.name
            from materials.look_alikes l, unnest(l.material_ids) m(id), unnest(l.material_ids) o(id)
            join materials.material t on t.id = o.id
            where o.id <> m.id
              and exists (select from materials.ruling where material_id = o.id and standing in ('banned', 'never') and {Known} offset 0)
            order by 1, 2
        """,
        Topic.Materials,
        holds: (t, q) => q.Materials.Contains(t.MaterialId)
    );

    public static readonly FactQuery<RulingRow> Rulings = new(
        $"""
        select material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling,
            filtered_needs_arrangement, {Span} from materials.ruling where {Known} order by id
        """,
        Topic.Materials,
        holds: (r, q) => q.Materials.Contains(r.MaterialId) && q.Around(r.From, r.Until)
    );

    public static readonly FactQuery<SheetRow> Sheets = new(
        $"""
        select s.tag, s.material_id, m.name as material_name, s.thickness_mm, s.width_mm, s.height_mm
            from materials.sheet s join materials.material m on m.id = s.material_id where s.tag = any(@Tags)
        """,
        asked: q => q.Tags.Length > 0
    );

    public static readonly FactQuery<ClearanceRow> Clearances = new(
        $"""
        select tag, operations, machine_ids, {Span} from materials.clearance where tag = any(@Tags) and {Near} and {Known}
        """,
        asked: q => q.Tags.Length > 0
    );

    public static readonly FactQuery<QuarantineRow> Quarantines = new(
        $"""
        select tag, {Span}, (select number from incidents.incident i where i.id = incident_id) as incident
            from materials.quarantine where tag = any(@Tags) and {Near} and {Known}
        """,
        asked: q => q.Tags.Length > 0
    );

    public static readonly FactQuery<DrawingRow> Drawings = new(
        $"""
        select id, name, {DrawingStore.WholeSummary} as summary from bench.drawing where id = any(@Drawings)
            and person_id in (@Person, @AskedBy)
        """,
        asked: q => q.Drawings.Length > 0
    );

    // Number and symptom of the fault that a stop or a standing follows from, and what may still be done.
    private const string Fault = "(select array[f.number::text, f.symptom] || f.may_do from upkeep.fault f where f.id = fault_id)";

    // What keeps machine and room shut, and who asked for a look: one statement, since most hold nothing.
    public static readonly FactQuery<HoldSpanRow> Stops = new(
        $"""
        select 'stop' as kind, {Span}, (select number from incidents.incident i where i.id = incident_id) as incident, machine_id as target,
                {Fault} as fault
            from house.stop where machine_id = @Machine and held && tstzrange(@IdleFrom, @Until) and {Known}
        union all select 'room', lower(held), upper(held), (select number from incidents.incident i where i.id = incident_id), null,
                null
            from incidents.room_shut where {Near} and {Known}
        union all select 'look', lower(held), upper(held), null, machine_id, null from incidents.look_asked
            where machine_id = @Machine and {Near} and {Known}
        union all select 'closed', lower(o.during), upper(o.during), null, null, null
            from house.occurrence o join house.plan p on p.id = o.plan_id
            where p.kind = 'closure' and (cardinality(p.machine_ids) = 0 or @Machine = any(p.machine_ids))
                and {LongClosures.Is} and upper(o.during) > @IdleFrom and lower(o.during) < @Until and {Known}
        union all select 'fault', lower(held), upper(held), null, standing, {Fault} from upkeep.fault_state
            where machine_id = @Machine and standing <> 'none' and {Near} and {Known}
        union all select 'ruling', h.set_at, h.ended_at, i.number, h.target, null from incidents.hold h
            join incidents.incident i on i.id = h.incident_id
            where h.kind = 'ruling' and h.state <> 'refused' and h.target = any(@Materials) and h.set_at < @Until
                and coalesce(h.ended_at > @From, true) and h.set_at <= {ThenOrNow}
        """
    );

    // What is due, what was last read, tried and run, and whether a controller is wired in: one statement, a word for each.
    public static readonly FactQuery<UpkeepRow> Upkeep = new(
        $"""
        select 'task' as kind, name as task, overdue_from, due_from, null::numeric as value from upkeep.task
            where machine_id = @Machine and held @> @Start and {Known} and coalesce(due_from, overdue_from) is not null
        union all (select 'airflow', '', null, at, airflow from upkeep.reading where machine_id = @Machine and airflow is not null
            and at <= {ThenOrNow} order by at desc, number desc limit 1)
        union all (select 'coolant', '', null, at, coolant_c from upkeep.reading where machine_id = @Machine and coolant_c is not null
            and at <= {ThenOrNow} and at > @Start::timestamptz - interval '{MeasuredFacts.TemperatureFor.TotalHours} hours'
            order by at desc, number desc limit 1)
        union all (select 'room', '', null, at, room_c from upkeep.reading where machine_id = @Machine and room_c is not null
            and at <= {ThenOrNow} and at > @Start::timestamptz - interval '{MeasuredFacts.TemperatureFor.TotalHours} hours'
            order by at desc, number desc limit 1)
        union all select 'interlocks', '', null, max(at), null from upkeep.interlock_trial where machine_id = @Machine and at <= {ThenOrNow}
        union all select 'broken', '', null, max(at), null from upkeep.after_break where machine_id = @Machine and at <= {ThenOrNow}
        union all select 'ran', '', null, max(upper(during)), null from run.log where machine_id = @Machine and upper(during) <= {ThenOrNow}
        union all select 'controller', serial, null, enrolled_at, null from station.controller where machine_id = @Machine
            and enrolled_at <= {ThenOrNow} and (revoked_at is null or revoked_at > {ThenOrNow})
        order by 1, 3, 4, 2
        """
    );

    public static readonly FactQuery<CommissioningRow> Commissioning = new(
        $"select machine_id, sheet::text, {Span} from house.commissioning where {Known}",
        Topic.Machines,
        holds: (c, q) => c.MachineId == q.Machine && c.From <= q.Now && (c.Until is null || c.Until > q.Now)
    );

    public static readonly FactQuery<FixtureRow> Fixtures = new(
        "select id, machine_id from house.fixture order by id",
        Topic.Machines,
        holds: (f, q) => f.MachineId == q.Machine
    );

    // What is not at hand: with somebody, or back and damaged.
    public static readonly FactQuery<FixtureOutRow> FixtureOut = new(
        $"""
        select out_at as "from", due as until, (person_id = @Person or booking_id = any(@Apart)) as mine,
            case when back_at <= {ThenOrNow} then back_at end as damaged_since
            from house.fixture_out where fixture = substr(@Fixture, 9) and out_at <= {ThenOrNow} and (back_at is null
                or back_at > {ThenOrNow} or (damaged and (right_at is null or right_at > {ThenOrNow})))
        """,
        asked: q => q.Fixture.Length > 0
    );

    public static readonly FactQuery<TestedRow> Tested = new(
        $"""
        select material_id, thickness_mm, operation, at, at <= coalesce((select max(upper(held)) from house.stop
                where machine_id = @Machine and optics_touched and {Known}), '-infinity') as before
            from bench.test_result where machine_id = @Machine and material_id = any(@Materials) and operation is not null
        """
    );

    /// <summary>The entries named, and cuts that were tested on this machine in its materials.</summary>
    public static readonly FactQuery<SettingRow> Settings = new(
        $"""
        select id, number, body::text as body, at as "from", case when ended_at <= {ThenOrNow} then ended_at end as until
            from bench.setting s where s.at <= {ThenOrNow} and (s.id = any(@Settings) or (s.machine_id = @Machine
                and s.material_id = any(@Materials) and s.operation = 'cut' and s.ended_at is null and {HasResult}))
        """,
        asked: q => q.Settings.Length > 0
    );

    public static readonly FactQuery<SettingResultRow> SettingResults = new(
        $"""
        select r.setting_id, r.thickness_mm, null::text as tag, upper(r.during) as at, r.outcome = 'clean' as clean
            from run.log r join bench.setting s on s.id = r.setting_id
            where (s.id = any(@Settings) or s.machine_id = @Machine and s.material_id = any(@Materials))
              and (r.outcome = 'flame' or {CleanRun} and upper(r.during) > coalesce({OpticsTouched}, '-infinity')) and {LoggedThen}
        union all
        select t.setting_id, p.thickness_mm, p.sheet_tag, t.at, true
            from bench.test_piece_result t join bench.test_piece p on p.id = t.piece_id join bench.setting s on s.id = t.setting_id
            where (s.id = any(@Settings) or s.machine_id = @Machine and s.material_id = any(@Materials))
              and t.at > coalesce({OpticsTouched}, '-infinity') and t.at <= {ThenOrNow}
        """,
        asked: q => q.Settings.Length > 0
    );

    /// <summary>Cut rows of this machine in these materials: what each showed of any setting.</summary>
    public static readonly FactQuery<PieceRow> Pieces = new(
        $"""
        select s.material_id, s.thickness_mm, s.sheet_tag as tag, t.cells::text as told, t.at
            from bench.test_piece s join bench.test_piece_result t on t.piece_id = s.id
            where s.kind = 'cut' and s.machine_id = @Machine and s.material_id = any(@Materials)
              and t.at > coalesce({OpticsTouched}, '-infinity') and t.at <= {ThenOrNow}
            order by t.at desc limit 200
        """,
        asked: q => q.Settings.Length > 0
    );

    private const string HasResult =
        "(exists (select from run.log where setting_id = s.id) or exists (select from bench.test_piece_result where setting_id = s.id))";

    private const string CleanRun = "r.outcome = 'clean' and r.counts and (r.supervisor_id is null or r.confirmed_at is not null)";

    /// <summary>A lasting change of the machine's optics: what was found before it proves nothing after.</summary>
    private const string OpticsTouched =
        $"(select max(upper(held)) from house.stop where machine_id = s.machine_id and optics_touched and {Known})";

    public static readonly FactQuery<OccurrenceRow> Calendar = new(
        $"""
        select p.kind, p.id as plan, p.title, lower(o.during) as "from", upper(o.during) as until, p.person_id as adult_id, p.at_once,
                exists (select from house.roster where plan_id = p.id and person_id = @Person and {Known}) as on_roster
            from house.occurrence o join house.plan p on p.id = o.plan_id
            where (p.kind = 'closure' and cardinality(p.machine_ids) = 0
                    or p.kind in ('closure', 'class') and @Machine = any(p.machine_ids))
                and o.during && tstzrange(@First, @Last) and {Known} order by 4
        """
    );

    public static readonly FactQuery<KitRow> FireKit = new(
        $"select name, in_date_until, wrong, wrong_since, {Span} from house.fire_kit where {Known} order by id",
        Topic.House,
        holds: (k, q) => q.AtStart(k.From, k.Until)
    );

    // The first row has no beginning: until when there is a rota at all.
    public static readonly FactQuery<DutyRow> OnDuty = new(
        $"""
        select null::timestamptz as "from", max(upper(during)) as until, false as seen from house.duty where {Known}
            union all (select lower(during), upper(during), exists (select from station.seen s where s.person_id = d.person_id
                    and s.at >= lower(during) - interval '{Core.Station.Taps.OnDutyFrom.TotalMinutes} minutes' and s.at < upper(during))
                from house.duty d where during && tstzrange(@First, @Last) and {Known}
                and exists (select from people.acting a where a.person_id = d.person_id and a.role = 'steward' and a.held && d.during)
                    order by 1)
        """
    );

    public static readonly FactQuery<RoomRow> Room = new(
        $"select body::text, {Span} from house.room where {Known}",
        Topic.House,
        holds: (r, q) => q.AtStart(r.From, r.Until)
    );

    public static readonly FactQuery<EyewearRow> Eyewear = new(
        $"select name, min_nm, max_nm, optical_density, damage_rated, count, {Span} from house.eyewear where {Known} order by id",
        Topic.House,
        holds: (e, q) => q.AtStart(e.From, e.Until)
    );
}
