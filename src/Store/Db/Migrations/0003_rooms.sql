-- 0003: the facts of the house. Dated tables hold when a fact is true (held) and when we knew it (recorded);
-- a correction closes recorded, the only column the app may update there, and inserts.

create table house.machine (
    id text primary key check (id ~ '^[a-z0-9-]{1,40}$'),
    name text not null,
    position integer not null default 0,
    spec jsonb not null,             -- MachineSpec
    version integer not null default 1
);

create table house.rules (
    id uuid primary key,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    body jsonb not null,             -- HouseRules
    reason text not null,
    exclude using gist (held with &&, recorded with &&)
);

create table house.fire_kit (
    row_id bigint generated always as identity primary key,
    id text not null,
    name text not null,
    in_date_until timestamptz,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (id with =, held with &&, recorded with &&)
);

create table house.eyewear (
    row_id bigint generated always as identity primary key,
    id text not null,
    name text not null,
    min_nm integer not null,
    max_nm integer not null check (max_nm >= min_nm),
    optical_density numeric(4, 1) not null,
    damage_rated boolean not null,
    count integer not null check (count >= 0),
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (id with =, held with &&, recorded with &&)
);

create table house.fixture (
    id text not null,
    machine_id text not null references house.machine,
    primary key (id, machine_id)
);

create table people.person (
    id text primary key check (id ~ '^[a-z0-9-]{1,40}$'),
    number integer generated always as identity unique,   -- what the chain says instead of a name
    given_name text not null,
    family_name text not null,
    birth_date date,
    sign_in_name text unique,
    password_hash text,
    security_stamp text not null default gen_random_uuid()::text,
    erased boolean not null default false,
    version integer not null default 1
);

create table people.account (
    row_id bigint generated always as identity primary key,
    person_id text not null references people.person,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (person_id with =, held with &&, recorded with &&)
);

create table people.agreement (
    row_id bigint generated always as identity primary key,
    person_id text not null references people.person,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (person_id with =, held with &&, recorded with &&)
);

create table people.role (
    row_id bigint generated always as identity primary key,
    person_id text not null references people.person,
    role text not null check (role in ('member', 'trainer', 'steward', 'keeper', 'countersigner', 'repair')),
    machine_id text references house.machine,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    check ((machine_id is not null) = (role in ('trainer', 'repair'))),
    exclude using gist (person_id with =, role with =, (coalesce(machine_id, '')) with =, held with &&, recorded with &&)
);

create table people.pause (
    row_id bigint generated always as identity primary key,
    id uuid not null,
    person_id text not null references people.person,
    set_by text not null references people.person,
    text_id uuid not null,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    check (set_by <> person_id),
    exclude using gist (id with =, held with &&, recorded with &&)
);
create index pause_person on people.pause (person_id);

create table house.stop (
    row_id bigint generated always as identity primary key,
    id uuid not null,
    machine_id text not null references house.machine,
    set_by text not null references people.person,
    text_id uuid not null,
    returned_by text references people.person,
    return_text_id uuid,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (id with =, held with &&, recorded with &&)
);
create index stop_machine on house.stop (machine_id);

create table house.duty (
    id bigint generated always as identity primary key,
    person_id text not null references people.person,
    during tstzrange not null check (not isempty(during) and not lower_inf(during) and not upper_inf(during)),
    recorded tstzrange not null,
    exclude using gist (person_id with =, during with &&, recorded with &&)
);
create index duty_during on house.duty using gist (during);

create table upkeep.task (
    row_id bigint generated always as identity primary key,
    id text not null,
    machine_id text not null references house.machine,
    name text not null,
    overdue_from timestamptz not null,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (id with =, held with &&, recorded with &&)
);

create table materials.material (
    id text primary key check (id ~ '^[a-z0-9-]{1,40}$'),
    name text not null,
    family text not null,
    synonyms text[] not null,
    cut_energy numeric(6, 3) not null,   -- J per mm of path and mm of thickness, rough
    heavy_residue boolean not null,
    position integer not null
);

create table materials.ruling (
    id bigint generated always as identity primary key,
    material_id text not null references materials.material,
    kind text not null check (kind in ('co2', 'diode', 'fibre')),
    operation text not null check (operation in ('cut', 'score', 'engrave')),
    min_mm numeric(9, 6) not null,
    max_mm numeric(9, 6),
    standing text not null check (standing in ('permitted', 'byArrangement', 'banned', 'never', 'cannot')),
    evidence text not null check (evidence in ('none', 'declared', 'clearedTag')),
    reasons text[] not null,
    hazard text not null,
    handling text not null,
    filtered_needs_arrangement boolean not null,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (
        material_id with =, kind with =, operation with =,
        numrange(min_mm, max_mm, '[]') with &&, held with &&, recorded with &&)
);

create table materials.look_alikes (
    id integer primary key,
    material_ids text[] not null,
    fresh_edge_tells boolean not null,
    tells_apart text not null
);

create table materials.sheet (
    tag text primary key check (tag ~ '^[A-Z]+-[0-9]+$'),
    material_id text not null references materials.material,
    thickness_mm numeric(9, 6) not null check (thickness_mm > 0),
    width_mm numeric(9, 3) not null,
    height_mm numeric(9, 3) not null,
    source text not null
);

create table materials.clearance (
    row_id bigint generated always as identity primary key,
    tag text not null references materials.sheet,
    operations text[] not null,
    machine_ids text[] not null,         -- empty: every machine
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (tag with =, held with &&, recorded with &&)
);

create table materials.quarantine (
    row_id bigint generated always as identity primary key,
    tag text not null references materials.sheet,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (tag with =, held with &&, recorded with &&)
);

create table training.certificate (
    row_id bigint generated always as identity primary key,
    id uuid not null,
    person_id text not null references people.person,
    authority text not null,             -- machine, or machine/add-on
    signed_by text not null references people.person,
    text_id uuid not null,
    founding boolean not null default false,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    check (signed_by <> person_id or founding),
    exclude using gist (id with =, held with &&, recorded with &&)
);
create index certificate_person on training.certificate (person_id, authority);
create index certificate_end on training.certificate (upper(held)) where upper_inf(recorded);

create table bench.file (
    sha256 text primary key,
    media_type text not null,
    length bigint not null,
    bytes bytea not null
);
alter table bench.file alter column bytes set storage external;   -- already compact; fast to stream

create table bench.drawing (
    id uuid primary key,
    person_id text not null references people.person,
    name text not null,
    sha256 text not null references bench.file,
    summary jsonb not null,              -- DrawingSummary
    at timestamptz not null
);
create index drawing_person on bench.drawing (person_id, at desc);

create table bench.test_result (
    machine_id text not null references house.machine,
    material_id text not null references materials.material,
    thickness_mm numeric(9, 6) not null,
    at timestamptz not null,
    primary key (machine_id, material_id, thickness_mm)
);

-- What a decision acted on rested on, whole, so that it can be replayed. No names inside.
create table gate.decision (
    id uuid primary key,
    at timestamptz not null,
    rules_version integer not null,
    ask text not null,
    facts text not null,
    outcome text not null,
    hash text not null                   -- SHA-256 of ask, facts and outcome; also in the chain
);

-- A question put to the stewards with its whole line of posts.
create table gate.ask (
    id uuid primary key,
    person_id text not null references people.person,
    machine_id text not null references house.machine,
    during tstzrange not null check (not isempty(during)),
    decision_id uuid not null references gate.decision,
    text_id uuid,
    state text not null default 'waiting' check (state in ('waiting', 'withdrawn')),
    at timestamptz not null,
    version integer not null default 1
);
create index ask_waiting on gate.ask (at) where state = 'waiting';

create table web.data_protection_key (
    name text primary key,
    xml text not null
);
