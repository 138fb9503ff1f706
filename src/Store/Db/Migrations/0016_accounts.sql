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
