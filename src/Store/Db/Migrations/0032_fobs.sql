-- 0032: who is there. Of a fob and of a tap-in code nothing is kept that anybody could use.
create table station.fob (
    id uuid primary key,
    person_id text not null references people.person,
    hash text not null,                  -- HMAC, its key stands outside the database
    name text not null check (length(name) between 1 and 40),
    learnt_at timestamptz not null,
    learnt_by text not null references people.person,
    revoked_at timestamptz check (revoked_at >= learnt_at),
    revoked_by text references people.person
);
create unique index fob_one_person on station.fob (hash) where revoked_at is null;
create index fob_person on station.fob (person_id);

-- A reader waits for somebody's fob.
create table station.learning (
    machine_id text primary key references house.machine,
    person_id text not null references people.person,
    name text not null,
    by text not null references people.person,
    until timestamptz not null
);

-- Six figures on somebody’s own phone, good once.
create table station.tap_code (
    hash text primary key,
    person_id text not null references people.person,
    until timestamptz not null
);
create index tap_code_person on station.tap_code (person_id);

-- A screen at a machine, which many use.
create table station.device (
    id uuid primary key,
    machine_id text not null references house.machine,
    name text not null check (length(name) between 1 and 60),
    secret_hash text not null,
    enrolled_at timestamptz not null,
    enrolled_by text not null references people.person,
    revoked_at timestamptz check (revoked_at >= enrolled_at)
);

-- What the last tap at a machine was, for its screen.
create table station.tap (
    machine_id text primary key references house.machine,
    at timestamptz not null,
    person_id text references people.person,
    code text,                           -- of the problem; null where it went well
    says text not null
);
-- Who supervises at a machine without running it: those they supervise are chosen from their bookings, without a fob.
create table station.supervising (
    machine_id text primary key references house.machine,
    person_id text not null references people.person,
    at timestamptz not null
);
grant select, insert on station.fob, station.device to vg_app;
grant update (name, revoked_at, revoked_by) on station.fob to vg_app;
grant update (revoked_at) on station.device to vg_app;
grant select, insert, update, delete on station.learning, station.tap_code, station.tap, station.supervising to vg_app;
-- Handed over, a session is somebody else's.
grant update (person_id) on station.session to vg_app;
