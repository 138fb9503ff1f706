-- 0007: who arrived, and what was run. Idleness, tested settings and use figures live on logged runs.
create schema run;

alter table booking.booking
    add column arrived_at timestamptz,
    add column arrived_by text references people.person;   -- who marked it: the person, or the desk

create table run.log (
    id uuid primary key,
    number integer generated always as identity unique,
    booking_id uuid references booking.booking,
    person_id text not null references people.person,
    machine_id text not null references house.machine,
    material_id text not null references materials.material,
    thickness_mm numeric(9, 6) not null check (thickness_mm > 0),
    operations text[] not null,
    during tstzrange not null check (not isempty(during) and not lower_inf(during) and not upper_inf(during)),
    outcome text not null check (outcome in ('clean', 'notThrough', 'charred', 'flame', 'abandoned')),
    text_id uuid,                        -- settings and remarks, beside the record
    logged_by text not null references people.person,
    at timestamptz not null
);
create index log_person on run.log (person_id, machine_id, upper(during) desc);
create index log_machine on run.log (machine_id, upper(during) desc);

grant usage on schema run to vg_app;
grant select, insert on run.log to vg_app;
grant update (arrived_at, arrived_by) on booking.booking to vg_app;
