-- 0036: people who wait for a time, and what they are offered. An offer holds its time as a booking would, until it is answered.
create table booking.waiting (
    id uuid primary key,
    number integer generated always as identity unique,
    person_id text not null references people.person,
    ask jsonb not null,                  -- GateQuestion: its machine and start are not read
    machine_ids text[] not null check (cardinality(machine_ids) > 0),
    window_at tstzrange not null check (not isempty(window_at) and not lower_inf(window_at) and not upper_inf(window_at)),
    at timestamptz not null,
    ended_at timestamptz,
    ended_why text check (ended_why in ('booked', 'takenBack', 'over')),
    check ((ended_at is null) = (ended_why is null))
);
create index waiting_open on booking.waiting (at) where ended_at is null;
create index waiting_person on booking.waiting (person_id);

create table booking.offer (
    id uuid primary key,
    waiting_id uuid not null references booking.waiting,
    machine_id text not null references house.machine,
    during tstzrange not null check (not isempty(during) and not lower_inf(during) and not upper_inf(during)),
    minutes integer not null check (minutes > 0),
    at timestamptz not null,
    until timestamptz not null,
    ended_at timestamptz,
    ended_why text check (ended_why in ('taken', 'silent', 'declined', 'withdrawn')),
    booking_id uuid references booking.booking,
    check ((ended_at is null) = (ended_why is null)),
    check ((booking_id is not null) = (ended_why is not distinct from 'taken'))
);
-- One offer at a time for each that waits.
create unique index offer_open on booking.offer (waiting_id) where ended_at is null;
create index offer_waiting on booking.offer (waiting_id);

alter table booking.claim
    add column offer_id uuid references booking.offer,
    drop constraint claim_of_one,
    add constraint claim_of_one check (num_nonnulls(booking_id, plan_id, offer_id) = 1);
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
    if new.offer_id is not null and new.live and not exists (select from booking.offer o
                   where o.id = new.offer_id and o.during = new.during and o.ended_at is null) then
        raise exception 'a claim must match its offer' using errcode = 'check_violation';
    end if;
    return new;
end $$;
create index claim_offer on booking.claim (offer_id) where offer_id is not null;

grant select, insert, update on booking.waiting, booking.offer to vg_app;
