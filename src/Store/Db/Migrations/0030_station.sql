-- 0030: sessions at a machine, from tapping in to tapping out. One row holds where it stands: every act locks it.
create schema station;
create table station.session (
    id uuid primary key,
    machine_id text not null references house.machine,
    person_id text not null references people.person,
    booking_id uuid not null references booking.booking,
    at timestamptz not null,
    ended_at timestamptz check (ended_at >= at),
    whole boolean not null,              -- the long list of looks was gone through
    beam_minutes numeric(8, 2) not null default 0,
    version int not null default 0,
    body jsonb not null                  -- StationSession
);
create unique index session_one_a_machine on station.session (machine_id) where ended_at is null;
create unique index session_one_a_person on station.session (person_id) where ended_at is null;
create index session_last on station.session (machine_id, ended_at desc);

-- Each act once: the same again answers as the first time did.
create table station.act (
    session_id uuid not null references station.session,
    id uuid not null,
    version int not null,
    at timestamptz not null,
    deed text not null,
    by text not null references people.person,
    primary key (session_id, id),
    unique (session_id, version)
);
grant usage on schema station to vg_app;
grant select, insert on station.session, station.act to vg_app;
grant update (ended_at, beam_minutes, version, body) on station.session to vg_app;
