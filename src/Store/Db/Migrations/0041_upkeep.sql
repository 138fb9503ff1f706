-- 0041: upkeep by counters, what was done, what was read, faults by what is seen, service and the return of a machine.
alter table upkeep.task
    alter column machine_id drop not null,           -- null: of the workshop room
    alter column overdue_from drop not null,         -- null: not yet, as far as is known
    add column plan jsonb,                           -- UpkeepPlan
    add column since timestamptz,                    -- counted from: when it was last done
    add column due_from timestamptz;
update upkeep.task set
    since = lower(held),
    due_from = overdue_from,
    plan = jsonb_build_object(
        'name', name, 'part', 'other', 'counter', 'days', 'slipPercent', 0, 'who', 'trainer', 'steps', '[]'::jsonb, 'kit', '', 'basis', '',
        'limit', least(3650, greatest(1, ceil(extract(epoch from overdue_from - lower(held)) / 86400))));
alter table upkeep.task alter column plan set not null, alter column since set not null;
create unique index task_name on upkeep.task (coalesce(machine_id, ''), lower(name)) where upper_inf(recorded) and upper_inf(held);
create index task_machine on upkeep.task (machine_id);

create table upkeep.done (
    id uuid primary key,
    task_id text not null,
    machine_id text references house.machine,
    name text not null,
    at timestamptz not null,
    by text not null references people.person,
    used numeric(12, 3),                 -- as the counter stood; of airflow the percentage before
    before_m3h numeric(9, 2) check (before_m3h >= 0),
    after_m3h numeric(9, 2) check (after_m3h >= 0),
    text_id uuid
);
create index done_task on upkeep.done (task_id, at desc);

create table upkeep.reading (
    id uuid primary key,
    machine_id text not null references house.machine,
    at timestamptz not null,
    by text references people.person,    -- null: the machine's controller, in a run
    run_id uuid unique references run.log,
    airflow numeric(9, 2) check (airflow >= 0),      -- m3/h; of a run the median of its minutes
    airflow_low numeric(9, 2) check (airflow_low >= 0),
    coolant_c numeric(6, 2),
    room_c numeric(6, 2),
    number bigint generated always as identity,      -- the later of two at one moment
    baseline boolean not null default false,         -- after a service: what follows is held against it, too
    check (num_nonnulls(airflow, coolant_c, room_c) > 0),
    check ((by is null) = (run_id is not null))
);
create index reading_airflow on upkeep.reading (machine_id, at desc, number desc) where airflow is not null;
create index reading_warmth on upkeep.reading (machine_id, at desc, number desc) where coolant_c is not null or room_c is not null;

create table upkeep.fault (
    id uuid primary key,
    number integer generated always as identity unique,
    machine_id text not null references house.machine,
    symptom text not null,
    may_do text[] not null,
    at timestamptz not null,
    reported_by text not null references people.person,
    text_id uuid,                        -- in somebody's own words, beside the record
    times integer not null default 1,    -- seen again by others since
    closed_at timestamptz check (closed_at >= at),
    closed_by text references people.person,
    closed_text_id uuid,
    check (num_nonnulls(closed_at, closed_by, closed_text_id) in (0, 3))
);
create unique index fault_open on upkeep.fault (machine_id, symptom) where closed_at is null;

-- What a fault does to whoever wants to run; what stops the machine is a stop, with its fault.
create table upkeep.fault_state (
    row_id bigint generated always as identity primary key,
    fault_id uuid not null references upkeep.fault,
    machine_id text not null references house.machine,
    standing text not null check (standing in ('none', 'caution', 'asks')),
    set_by text not null references people.person,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (fault_id with =, held with &&, recorded with &&)
);
create index fault_state_machine on upkeep.fault_state (machine_id);
alter table house.stop add column fault_id uuid references upkeep.fault;

-- Somebody worked on a machine: it comes back by its stop, with what was touched tried.
create table upkeep.service (
    id uuid primary key,
    machine_id text not null references house.machine,
    stop_id uuid not null,
    at timestamptz not null,
    done_by text not null,               -- a name, or a firm and its fitter
    touched text[] not null check (cardinality(touched) > 0),
    text_id uuid not null,
    recorded_by text not null references people.person
);
create index service_machine on upkeep.service (machine_id, at desc);
create index service_stop on upkeep.service (stop_id);

-- What was tried before it came back: first by a repairer; where interlock or stops were touched, by a second person too.
create table upkeep.tried (
    stop_id uuid primary key,
    at timestamptz not null,
    by text not null references people.person,
    touched text[] not null,
    tests jsonb not null,                -- ReturnTests
    text_id uuid not null
);

grant select, insert on upkeep.done, upkeep.reading, upkeep.fault, upkeep.fault_state, upkeep.service, upkeep.tried to vg_app;
grant update (times, closed_at, closed_by, closed_text_id, text_id) on upkeep.fault to vg_app;
grant update (recorded) on upkeep.fault_state to vg_app;
grant update (by, at, touched, tests, text_id) on upkeep.tried to vg_app;
