-- 0040: fixtures handed out and back, each a single item; finishing benches held with a booking, after it or at another time.
create table house.fixture_out (
    id uuid primary key,
    fixture text not null,
    person_id text not null references people.person,
    booking_id uuid references booking.booking,
    out_at timestamptz not null,
    out_by text not null references people.person,
    due timestamptz not null check (due > out_at),
    back_at timestamptz check (back_at >= out_at),
    back_by text references people.person,
    damaged boolean,                     -- as it came back
    text_id uuid,                        -- what was wrong, beside the record
    right_at timestamptz,                -- put right, or found to be in order
    right_by text references people.person,
    check ((back_at is null) = (back_by is null) and (back_at is null) = (damaged is null)),
    check (right_at is null or damaged)
);
create unique index fixture_out_once on house.fixture_out (fixture) where back_at is null;
create index fixture_damaged on house.fixture_out (fixture) where damaged and right_at is null;
create index fixture_out_person on house.fixture_out (person_id);
grant select, insert on house.fixture_out to vg_app;
grant update (back_at, back_by, damaged, text_id, right_at, right_by, due) on house.fixture_out to vg_app;

create table booking.bench (
    id uuid primary key,
    booking_id uuid not null references booking.booking,
    bench int not null check (bench > 0),
    during tstzrange not null check (not isempty(during) and not lower_inf(during) and not upper_inf(during)),
    at timestamptz not null,
    ended_at timestamptz
);
create unique index bench_of_booking on booking.bench (booking_id) where ended_at is null;
grant select, insert on booking.bench to vg_app;
grant update (ended_at) on booking.bench to vg_app;

alter table booking.claim
    add column bench_id uuid references booking.bench,
    drop constraint claim_of_one,
    add constraint claim_of_one check (num_nonnulls(booking_id, plan_id, offer_id, bench_id) = 1);
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
    if new.bench_id is not null and new.live and not exists (select from booking.bench n
                   where n.id = new.bench_id and n.during = new.during and n.ended_at is null
                     and new.resource = 'bench:' || n.bench) then
        raise exception 'a claim must match its bench' using errcode = 'check_violation';
    end if;
    return new;
end $$;
create index claim_bench on booking.claim (bench_id) where bench_id is not null;
create index claim_of_class on booking.claim (booking_id) where live and starts_with(resource, 'class:');
