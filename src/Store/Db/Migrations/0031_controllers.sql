-- 0031: controllers of machines, what they tell, and what they were granted. Their keys stand outside the database.
create table station.controller (
    serial text primary key check (serial ~ '^[a-z0-9-]{3,40}$'),
    machine_id text not null references house.machine,
    salt text not null,
    enrolled_at timestamptz not null,
    enrolled_by text not null references people.person,
    revoked_at timestamptz check (revoked_at >= enrolled_at),
    boot int not null default 0,
    event_number bigint not null default 0,
    reading_number bigint not null default 0,
    gaps bigint not null default 0,      -- readings that never came
    clock jsonb,                         -- BootClock
    live jsonb                           -- MachineLive
);
create unique index controller_one_a_machine on station.controller (machine_id) where revoked_at is null;

-- Each event once, in the order in which it happened. A fob's code is not kept.
create table station.machine_event (
    serial text not null references station.controller,
    boot int not null,
    number bigint not null,
    at timestamptz not null,
    received_at timestamptz not null,
    kind text not null,
    value text,
    session_id uuid references station.session,
    primary key (serial, boot, number)
);
create index machine_event_session on station.machine_event (session_id);

-- One answer to one challenge, whichever server gives it.
create table station.permit (
    serial text not null references station.controller,
    challenge text not null,
    at timestamptz not null,
    session_id uuid not null references station.session,
    seconds numeric(8, 1) not null,
    end_seconds numeric(8, 1) not null,
    primary key (serial, challenge)
);

-- What was read in a minute: a reading a second would be a million rows in a fortnight.
create table station.reading (
    machine_id text not null references house.machine,
    minute timestamptz not null,
    readings int not null,
    airflow_n int not null,
    airflow_sum numeric not null,
    airflow_low numeric,
    coolant_n int not null,
    coolant_sum numeric not null,
    coolant_high numeric,
    primary key (machine_id, minute)
);
grant select, insert on station.controller, station.machine_event, station.permit, station.reading to vg_app;
grant update (revoked_at, boot, event_number, reading_number, gaps, clock, live) on station.controller to vg_app;
grant update (readings, airflow_n, airflow_sum, airflow_low, coolant_n, coolant_sum, coolant_high) on station.reading to vg_app;

-- A beam is stopped by anybody, signed in or not.
alter table station.act alter column by drop not null;
