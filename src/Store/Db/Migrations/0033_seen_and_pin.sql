-- 0033: who is really there, and a PIN beside the fob.
-- The last tap of somebody while on duty: the rota says who should be there, this says who is.
create table station.seen (
    person_id text primary key references people.person,
    machine_id text not null references house.machine,
    at timestamptz not null
);

-- HMAC over person and PIN, its key stands outside the database.
create table station.pin (
    person_id text primary key references people.person,
    hash text not null,
    set_at timestamptz not null
);

-- A fob was held at a machine, and its PIN is waited for at the screen.
create table station.pin_due (
    machine_id text primary key references house.machine,
    person_id text not null references people.person,
    until timestamptz not null
);
grant select, insert, update, delete on station.seen, station.pin, station.pin_due to vg_app;
