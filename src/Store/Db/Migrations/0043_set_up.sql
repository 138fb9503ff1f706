-- 0043: how machines were set up, when their interlocks were tried, and what was looked at after a break.
create table house.commissioning (
    row_id bigint generated always as identity primary key,
    machine_id text not null references house.machine,
    sheet jsonb not null,                -- CommissioningSheet
    set_by text not null references people.person,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (machine_id with =, held with &&, recorded with &&)
);
create trigger changed after insert or update or delete or truncate on house.commissioning
    for each statement execute function store.changed('machines');

-- Each time that lid and stops were tried, and the beam was gone. What a commissioning sheet says stands in the sheet.
create table upkeep.interlock_trial (
    id uuid primary key,
    machine_id text not null references house.machine,
    at timestamptz not null,
    by text not null references people.person
);
create index interlock_trial_machine on upkeep.interlock_trial (machine_id, at desc);
insert into upkeep.interlock_trial (id, machine_id, at, by)
    select d.id, d.machine_id, d.at, d.by from upkeep.done d where d.machine_id is not null
        and exists (select from upkeep.task t where t.id = d.task_id and t.plan ->> 'part' = 'interlocks')
    union all
    select t.stop_id, s.machine_id, t.at, t.by from upkeep.tried t
        join house.stop s on s.id = t.stop_id and upper_inf(s.recorded) and s.returned_by is not null
        where (t.tests ->> 'interlock')::boolean;

create table upkeep.after_break (
    id uuid primary key,
    machine_id text not null references house.machine,
    at timestamptz not null,
    by text not null references people.person,
    checks jsonb not null                -- BreakCheck
);
create index after_break_machine on upkeep.after_break (machine_id, at desc);

-- The few closures over which idle clocks stand still, found without all the others.
create index occurrence_long on house.occurrence (upper(during)) where upper(during) - lower(during) >= interval '167 hours';

grant select, insert on house.commissioning, upkeep.interlock_trial, upkeep.after_break to vg_app;
grant update (recorded) on house.commissioning to vg_app;
