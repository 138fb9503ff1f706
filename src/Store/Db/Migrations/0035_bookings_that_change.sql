-- 0035: bookings that change: swaps that wait for the other’s word; and who did not come, found fast.
create index booking_no_show on booking.booking (person_id) where no_show;

create table booking.swap (
    id uuid primary key,
    booking_id uuid not null references booking.booking,
    with_id uuid not null references booking.booking,
    asked_by text not null references people.person,
    at timestamptz not null,
    until timestamptz not null,
    ended_at timestamptz,
    agreed boolean not null default false,
    check (booking_id <> with_id)
);
-- One proposal at a time for each booking: two would promise one time twice.
create unique index swap_open on booking.swap (booking_id) where ended_at is null;
create index swap_with on booking.swap (with_id) where ended_at is null;
create index swap_asked_by on booking.swap (asked_by);

grant select, insert, update on booking.swap to vg_app;
-- A booking that stands holds its machine for its own time: looked at when the change is committed.
create function booking.booking_holds() returns trigger language plpgsql as $$
begin
    if exists (select from booking.claim c join booking.booking b on b.id = c.booking_id
               where c.booking_id = new.id and c.live and c.during <> b.during)
        or exists (select from booking.booking b where b.id = new.id and b.cancelled_at is null and not exists (
               select from booking.claim c where c.booking_id = b.id and c.live and c.resource = 'machine:' || b.machine_id)) then
        raise exception 'a booking must hold what it takes' using errcode = 'check_violation';
    end if;
    return null;
end $$;
create constraint trigger booking_holds after update of during, machine_id, person_id on booking.booking
    deferrable initially deferred for each row execute function booking.booking_holds();

-- What a move, an extension, a swap or a hand-over changes; the record tells each of them.
grant update (person_id, machine_id, during, minutes, parts, ask, decision_id) on booking.booking to vg_app;
