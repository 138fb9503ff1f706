-- 0028: jobs that somebody keeps, to run them again.
create table bench.job (
    id uuid primary key,
    person_id text not null references people.person,
    name text not null check (length(name) between 1 and 80),
    machine_id text not null references house.machine,
    body jsonb not null,                 -- Job: machine, fixture and items
    at timestamptz not null
);
create index job_person on bench.job (person_id, at desc);
grant select, insert, delete on bench.job to vg_app;
