-- 0016: who acts now: a role counts only while the account of its person is open. Guessing is slowed down for all instances together.
create view people.acting as
    select r.person_id, r.role, r.machine_id, r.held * a.held as held, r.recorded * a.recorded as recorded
    from people.role r join people.account a on a.person_id = r.person_id
    where not isempty(r.held * a.held) and not isempty(r.recorded * a.recorded);
create index account_person on people.account (person_id) where upper_inf(recorded);
create index role_person on people.role (person_id) where upper_inf(recorded);
grant select on people.acting to vg_app;

-- Failures in a row, by account, by device that signed in before, and by address. On the real clock.
create table web.sign_in_guard (
    key text primary key check (length(key) <= 200),
    failures integer not null,
    last timestamptz not null,
    until timestamptz
);
create index sign_in_guard_last on web.sign_in_guard (last);
grant select, insert, update, delete on web.sign_in_guard to vg_app;

-- A password is set by its person alone: through a link or a code that is used once and ends. For keepers and stewards somebody else agrees first.
create table people.invite (
    id uuid primary key,
    number bigint generated always as identity,   -- the newest of a person's serves
    person_id text not null references people.person,
    code_hash text not null unique,          -- SHA-256 of the code; the code itself is shown once
    made_by text not null references people.person,
    at timestamptz not null,
    expires timestamptz not null,
    needs_agreement boolean not null,
    agreed_by text references people.person,
    agreed_at timestamptz,
    used_at timestamptz,
    check ((agreed_by is null) = (agreed_at is null)),
    check (agreed_by <> person_id),
    check (agreed_by <> made_by or agreed_at >= at + interval '24 hours'),
    check (used_at is null or not needs_agreement or agreed_at is not null)
);
create index invite_person on people.invite (person_id);
grant select, insert on people.invite to vg_app;
grant update (agreed_by, agreed_at, used_at) on people.invite to vg_app;
