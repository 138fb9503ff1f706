-- 0020: sessions live on the server: a sign-out ends them, and so do their two ends. All in real time, whatever the demo's clock says.
create table people.session (
    id uuid primary key,
    person_id text not null references people.person,
    began timestamptz not null,
    proved timestamptz not null,         -- when the password was last given
    seen timestamptz not null,
    until timestamptz not null,
    idle_minutes integer check (idle_minutes > 0),   -- on a shared device; null elsewhere
    device text not null,
    ended timestamptz
);
create index session_person on people.session (person_id) where ended is null;
create index session_until on people.session (until);
grant select, insert, delete, update (proved, seen, ended) on people.session to vg_app;
