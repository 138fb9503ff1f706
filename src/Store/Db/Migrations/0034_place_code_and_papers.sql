-- 0034: a code that stands at a machine, scanned at each start where no controller and no screen is; and the machine's papers as files.
create table station.place_code (
    machine_id text primary key references house.machine,
    code text not null check (length(code) = 6),
    made_at timestamptz not null,
    made_by text not null references people.person
);

create table house.machine_paper (
    id uuid primary key,
    machine_id text not null references house.machine,
    name text not null check (length(name) between 1 and 80),
    bytes bytea not null,
    added_at timestamptz not null,
    added_by text not null references people.person
);
create index machine_paper_machine on house.machine_paper (machine_id, name);
grant select, insert, update, delete on station.place_code to vg_app;
grant select, insert, delete on house.machine_paper to vg_app;
