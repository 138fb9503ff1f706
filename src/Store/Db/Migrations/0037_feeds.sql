-- 0037: calendars elsewhere that read the house's, each at a secret address of its own; and closures that came from a file.
create table booking.feed (
    id uuid primary key,
    person_id text not null references people.person,
    kind text not null check (kind in ('mine', 'machine', 'rota', 'wall')),
    machine_id text references house.machine,
    secret_sha256 bytea not null unique check (octet_length(secret_sha256) = 32),  -- the secret itself is shown once
    made_at timestamptz not null,
    read_at timestamptz,
    ended_at timestamptz,
    check ((kind = 'machine') = (machine_id is not null))
);
-- Renewed, the older address reads no more.
create unique index feed_one on booking.feed (person_id, kind, coalesce(machine_id, '')) where ended_at is null;
grant select, insert on booking.feed to vg_app;
grant update (read_at, ended_at) on booking.feed to vg_app;

-- The id that a line has in the file it came from: the same file again adds nothing twice.
alter table house.plan add column source_uid text, add column says text;
create unique index plan_source on house.plan (source_uid) where source_uid is not null and ended_at is null;
