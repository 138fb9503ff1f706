-- 0038: times that were asked for and refused: kept 90 days, for figures of use and for trying out other rules. No part of the record.
create table booking.try (
    id bigint generated always as identity primary key,
    person_id text not null references people.person,
    machine_id text not null references house.machine,
    during tstzrange not null check (not isempty(during) and not lower_inf(during) and not upper_inf(during)),
    codes text[] not null check (cardinality(codes) > 0),
    at timestamptz not null
);
create index try_at on booking.try (at);
create index try_person on booking.try (person_id, at);
grant select, insert, delete on booking.try to vg_app;
create index booking_made on booking.booking (made_at);
