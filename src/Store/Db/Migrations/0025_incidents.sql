-- 0025: incidents, what they hold, the watch after a fire, and near misses that say nobody's name.
create schema incidents;

create table incidents.incident (
    id uuid primary key,
    number integer generated always as identity unique,
    machine_id text references house.machine,            -- null: the room
    at timestamptz not null,
    what text not null check (what in ('flame', 'glow', 'smoke', 'fume', 'lidTooSoon', 'wrongSheet', 'nobodyThere', 'headHit',
        'interlockFailed', 'other')),
    severity smallint not null check (severity between 1 and 5),
    run_id uuid unique references run.log,
    tag text references materials.sheet,
    material_id text references materials.material,
    facts jsonb not null default '{}',                   -- ToldFacts
    seen_text_id uuid,                                   -- every text stands beside the record, by its hash
    damage_text_id uuid,
    put_out_text_id uuid,
    maker_text_id uuid,                                  -- what the machine's maker says, apart from the causes
    lesson_text_id uuid,                                 -- a teaching case, without names
    cost numeric(12, 2) check (cost >= 0),
    fire_service boolean not null default false,         -- called to be safe
    marked boolean,
    law jsonb not null default '{}',                     -- whether, to whom, by when and under which number it is reported
    hurt boolean not null default false,
    carried_over boolean not null default false,
    reported_by text references people.person,           -- null: carried over from a list
    reported_at timestamptz not null,
    causes_by text references people.person,
    causes_at timestamptz,
    causes_text_id uuid,
    closed_at timestamptz,
    closed_by text references people.person,
    close_text_id uuid,
    version integer not null default 1,
    check ((closed_at is null) = (closed_by is null) or carried_over),
    check (closed_by is distinct from reported_by or closed_by is null)
);
create index incident_at on incidents.incident (at desc);
create index incident_open on incidents.incident (at) where closed_at is null;
create index incident_machine on incidents.incident (machine_id, at desc);

create table incidents.involved (
    incident_id uuid not null references incidents.incident,
    person_id text not null references people.person,
    part text not null check (part in ('ran', 'told', 'there')),
    primary key (incident_id, person_id)
);
create index involved_person on incidents.involved (person_id);

-- What was seen, in order.
create table incidents.seen (
    id uuid primary key,
    incident_id uuid not null references incidents.incident,
    at timestamptz,                                      -- when it was; null: not said
    text_id uuid not null,
    by text not null references people.person,
    told_at timestamptz not null
);
create index seen_incident on incidents.seen (incident_id);

-- Apart from the rest: stewards and keepers alone, and kept as the law wants.
create table incidents.injury (
    id uuid primary key,
    incident_id uuid not null references incidents.incident,
    person_id text references people.person,             -- null: a visitor
    body text,                                           -- null once its time is over
    kept_until timestamptz not null,
    by text not null references people.person,
    at timestamptz not null
);
create index injury_incident on incidents.injury (incident_id);

create table incidents.photo (
    id uuid primary key,
    incident_id uuid not null references incidents.incident,
    media_type text not null check (media_type in ('image/jpeg', 'image/png')),
    bytes bytea not null,
    width integer not null,
    height integer not null,
    by text not null references people.person,
    at timestamptz not null
);
alter table incidents.photo alter column bytes set storage external;
create index photo_incident on incidents.photo (incident_id);

-- What was done with each hold that was proposed. Stops and quarantines stand where they always did, with the incident's name on them.
create table incidents.hold (
    id uuid primary key,
    incident_id uuid not null references incidents.incident,
    kind text not null check (kind in ('machine', 'room', 'sheets', 'ruling', 'optics', 'conduct')),
    target text not null,
    reason text not null,
    state text not null check (state in ('set', 'refused', 'ended')),
    set_by text references people.person,
    set_at timestamptz not null,
    text_id uuid,                                        -- why it is not needed
    ended_by text references people.person,
    ended_at timestamptz,
    end_text_id uuid,
    unique (incident_id, kind, target),
    check ((state = 'ended') = (ended_at is not null))
);
create index hold_set on incidents.hold (set_at) where state = 'set';

alter table house.stop add column incident_id uuid references incidents.incident;
alter table materials.quarantine add column incident_id uuid references incidents.incident;

create table incidents.room_shut (
    row_id bigint generated always as identity primary key,
    incident_id uuid not null references incidents.incident,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (incident_id with =, held with &&, recorded with &&)
);

create table incidents.cause (
    incident_id uuid not null references incidents.incident,
    code text not null,
    primary key (incident_id, code)
);

create table incidents.action (
    id uuid primary key,
    incident_id uuid not null references incidents.incident,
    text_id uuid not null,
    owner_id text not null references people.person,
    due date not null,
    shows_text_id uuid not null,
    link text,                                           -- an address of the house that it is about
    set_by text not null references people.person,
    set_at timestamptz not null,
    ended_at timestamptz,
    ended_by text references people.person,
    done boolean,                                        -- false: given up, with a reason
    end_text_id uuid,
    check ((ended_at is null) = (done is null))
);
create index action_incident on incidents.action (incident_id);
create index action_open on incidents.action (due) where ended_at is null;

create table incidents.fire_watch (
    incident_id uuid primary key references incidents.incident,
    person_id text not null references people.person,
    began timestamptz not null,
    minutes integer not null check (minutes between 1 and 240),
    ends_at timestamptz not null,
    called_at timestamptz                                -- when the stewards were called for a look that nobody made
);

create table incidents.look (
    incident_id uuid not null references incidents.fire_watch,
    minute integer not null,
    at timestamptz not null,
    by text not null references people.person,
    found text not null check (found in ('nothing', 'warm', 'burning')),
    text_id uuid,
    primary key (incident_id, minute)
);

-- Nothing here says who or when: a random key made by whoever told, and the half of a day or the week.
create table incidents.near_miss (
    id uuid primary key,
    half_day text not null check (half_day ~ '^[0-9]{4}-[0-9]{2}-[0-9]{2} (morning|afternoon|week)$'),
    machine_id text references house.machine,            -- null: the room
    what text not null check (what in ('flame', 'glow', 'smoke', 'lidTooSoon', 'wrongSheet', 'nobodyThere', 'headHit', 'other')),
    note text not null check (length(note) <= 500),
    struck boolean not null default false
);
create index near_miss_time on incidents.near_miss (half_day);

-- What the record was told of a half day: one entry each, late ones with the next.
create table incidents.near_miss_told (
    near_miss_id uuid primary key references incidents.near_miss
);

-- Somebody is to look before the next start; when it was asked is known to the half day alone.
create table incidents.look_asked (
    row_id bigint generated always as identity primary key,
    machine_id text not null references house.machine,
    looked_by text references people.person,
    text_id uuid,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (machine_id with =, held with &&, recorded with &&)
);

grant usage on schema incidents to vg_app;
grant select, insert on all tables in schema incidents to vg_app;
grant update on incidents.incident to vg_app;
grant update (body) on incidents.injury to vg_app;
grant delete on incidents.photo, incidents.cause, incidents.involved to vg_app;
grant update (state, set_by, set_at, text_id, ended_by, ended_at, end_text_id, reason) on incidents.hold to vg_app;
grant update (ended_at, ended_by, done, end_text_id) on incidents.action to vg_app;
grant update (person_id, called_at) on incidents.fire_watch to vg_app;
grant update (note, struck) on incidents.near_miss to vg_app;
grant update (recorded) on incidents.room_shut, incidents.look_asked to vg_app;
