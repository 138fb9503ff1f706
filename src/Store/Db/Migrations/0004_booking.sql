-- 0004: bookings, and the one place where exclusive things are held.
create table booking.resource (
    id text primary key                  -- machine:heron, attend:m-12, supervise:m-12/1, fixture:rotary
);

create table booking.booking (
    id uuid primary key,
    number integer generated always as identity unique,
    person_id text not null references people.person,
    machine_id text not null references house.machine,
    during tstzrange not null check (not isempty(during) and not lower_inf(during) and not upper_inf(during)),
    minutes integer not null,
    parts jsonb not null,
    ask jsonb not null,
    decision_id uuid not null references gate.decision,
    made_by text not null references people.person,
    made_at timestamptz not null,
    cancelled_at timestamptz,
    cancelled_by text references people.person,
    cancel_text_id uuid,
    version integer not null default 1
);
create index booking_during on booking.booking using gist (during);
create index booking_person on booking.booking (person_id);

create table booking.claim (
    id bigint generated always as identity primary key,
    booking_id uuid not null references booking.booking,
    resource text not null references booking.resource,
    during tstzrange not null
        check (not isempty(during) and not lower_inf(during) and not upper_inf(during)
               and lower_inc(during) and not upper_inc(during)),
    recorded tstzrange not null,
    live boolean not null default true,
    -- Empty ranges would slip through an exclusion constraint: the check above keeps them out.
    constraint claim_exclusive exclude using gist (resource with =, during with &&) where (live)
);
create index claim_booking on booking.claim (booking_id);
create index claim_history on booking.claim using gist (resource, during);

-- A claim is the booking's own time, and dies with it: no path in the app can part the two.
create function booking.claim_matches() returns trigger language plpgsql as $$
begin
    if not exists (select from booking.booking b
                   where b.id = new.booking_id and b.during = new.during
                     and (not new.live or b.cancelled_at is null)) then
        raise exception 'a claim must match its booking' using errcode = 'check_violation';
    end if;
    return new;
end $$;
create trigger claim_matches before insert or update on booking.claim
    for each row execute function booking.claim_matches();
