-- 0009: what a house needs beyond its machines: room, calendar, consents, founding sign-offs, what is kept and for how long.
create table house.room (
    row_id bigint generated always as identity primary key,
    body jsonb not null,                 -- RoomSpec
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (held with &&, recorded with &&)
);

-- One line of the calendar. Its occurrences are written out: the gate reads rows, not rules.
create table house.plan (
    id uuid primary key,
    kind text not null check (kind in ('closure', 'class', 'duty')),
    title text not null,
    first_day date not null,
    starts time not null,
    ends time not null,
    rule text,                           -- RFC 5545; null for once
    except_days date[] not null,
    person_id text references people.person,   -- duty: the steward; class: the supervising adult
    machine_ids text[] not null,         -- closure: empty closes the house
    at_once integer check (at_once > 0), -- class: how many may run at one time
    made_by text not null references people.person,
    made_at timestamptz not null,
    ended_by text references people.person,
    ended_at timestamptz,
    version integer not null default 1,
    check ((person_id is null) = (kind = 'closure')),
    check ((at_once is not null) = (kind = 'class'))
);

create table house.roster (
    row_id bigint generated always as identity primary key,
    plan_id uuid not null references house.plan,
    person_id text not null references people.person,
    recorded tstzrange not null,
    exclude using gist (plan_id with =, person_id with =, recorded with &&)
);

create table house.occurrence (
    id bigint generated always as identity primary key,
    plan_id uuid not null references house.plan,
    during tstzrange not null check (not isempty(during) and not lower_inf(during) and not upper_inf(during)),
    recorded tstzrange not null,
    exclude using gist (plan_id with =, during with &&, recorded with &&)
);
create index occurrence_during on house.occurrence using gist (during);

-- Duty comes from a plan, or from before plans were.
alter table house.duty add column plan_id uuid references house.plan;

-- A class holds its adult and its machines against other classes; its learners book inside it.
alter table booking.claim
    alter column booking_id drop not null,
    add column plan_id uuid references house.plan,
    add constraint claim_of_one check (num_nonnulls(booking_id, plan_id) = 1);
create or replace function booking.claim_matches() returns trigger language plpgsql as $$
begin
    if new.booking_id is not null and not exists (select from booking.booking b
                   where b.id = new.booking_id and b.during = new.during
                     and (not new.live or b.cancelled_at is null)) then
        raise exception 'a claim must match its booking' using errcode = 'check_violation';
    end if;
    if new.plan_id is not null and new.live and not exists (select from house.occurrence o
                   where o.plan_id = new.plan_id and o.during = new.during and upper_inf(o.recorded)) then
        raise exception 'a claim must match its class' using errcode = 'check_violation';
    end if;
    return new;
end $$;
create index claim_plan on booking.claim (plan_id) where plan_id is not null;

alter table booking.booking
    add column companions integer not null default 0 check (companions between 0 and 20),   -- they watch, and attend nothing
    add column no_show boolean not null default false;

alter table people.person
    add column age_band text check (age_band in ('under11', '11to13', '14to15', '16to17')),   -- then birth_date is the latest the band allows
    add column email text;

-- Nobody answers for themselves, but for the only steward of a house without a countersigner: after a day, and marked.
alter table gate.ask
    add column single_handed boolean not null default false,
    drop constraint ask_not_by_oneself,
    add constraint ask_not_by_oneself check (answered_by <> person_id or (single_handed and answered_at >= at + interval '24 hours'));

create table people.consent (
    row_id bigint generated always as identity primary key,
    id uuid not null,
    person_id text not null references people.person,
    machine_ids text[] not null,         -- empty: every machine
    set_by text not null references people.person,
    text_id uuid not null,               -- who gave it and how
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    check (set_by <> person_id),
    exclude using gist (id with =, held with &&, recorded with &&)
);
create index consent_person on people.consent (person_id);

create table people.founding (
    id uuid primary key,
    person_id text not null references people.person,
    machine_id text not null references house.machine,
    certificate_id uuid not null,
    set_by text not null references people.person,
    text_id uuid not null,               -- the evidence
    at timestamptz not null,
    ends timestamptz not null,
    confirmed_by text references people.person,
    confirmed_at timestamptz,
    confirm_text_id uuid,
    check (confirmed_by <> person_id and confirmed_by <> set_by),
    -- One founding authority at a time on one machine.
    exclude using gist (machine_id with =, tstzrange(at, ends) with &&)
);
create index founding_certificate on people.founding (certificate_id);

create table people.legal_hold (
    id uuid primary key,
    person_id text not null references people.person,
    set_by text not null references people.person,
    text_id uuid not null,
    at timestamptz not null,
    ended_by text references people.person,
    ended_at timestamptz
);
create index legal_hold_person on people.legal_hold (person_id) where ended_at is null;

-- A text that law wants kept for a time outlives the erasing of its person, and is erased when the time is over.
alter table ledger.text add column keep_until timestamptz;

alter table run.log
    add column supervisor_id text references people.person,
    add column confirmed_at timestamptz,
    add constraint run_confirmed_by_supervisor check (confirmed_at is null or supervisor_id is not null);

alter table people.message add column mailed_at timestamptz;
create index message_unmailed on people.message (number) where mailed_at is null;
insert into ledger.worker_cursor (name, seq) values ('mail', 0);

-- What every ask looks up.
create index ruling_material on materials.ruling (material_id);
create index duty_end on house.duty (upper(during));

grant select, insert on house.room, house.plan, house.roster, house.occurrence, people.consent, people.founding, people.legal_hold to vg_app;
grant update (recorded) on house.room, house.roster, house.occurrence, people.consent to vg_app;
grant update (ended_by, ended_at, version) on house.plan to vg_app;
grant update (confirmed_by, confirmed_at, confirm_text_id) on people.founding to vg_app;
grant update (ended_by, ended_at) on people.legal_hold to vg_app;
grant update (mailed_at) on people.message to vg_app;
grant update (confirmed_at) on run.log to vg_app;
grant update (no_show) on booking.booking to vg_app;
grant delete on house.fixture to vg_app;
