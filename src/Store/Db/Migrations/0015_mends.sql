-- 0015: what decisions said is kept beside their codes; runs are practice only where the gate allowed them and somebody stands behind them;
-- tests go by operation and end; background work parks what it cannot do.

-- The server looks whether it knows the schema it finds.
grant select on public.schema_version to vg_app;

alter table gate.decision add column words text;   -- StoredWords; null before rules version 2

-- A run no rule allows is told to a steward, and is nobody's practice.
alter table run.log
    add column allowed boolean not null default false,          -- the gate's answer for this person, stock and machine, time aside
    add column codes text[] not null default '{}',              -- what stood against it
    add column behind text check (behind in ('booking', 'steward')),
    add column wants_look boolean not null default false,       -- told to a steward
    add column looked_by text references people.person,
    add column looked_at timestamptz,
    add column look_text_id uuid,
    add constraint run_looked_whole check (num_nulls(looked_by, looked_at, look_text_id) in (0, 3)),
    add constraint run_not_looked_at_by_oneself check (looked_by <> person_id);
-- Before, every run with a booking had passed the gate when it was booked; of the others nobody knows.
update run.log set allowed = true, behind = 'booking' where booking_id is not null;
alter table run.log add column counts boolean not null generated always as (allowed and behind is not null and outcome <> 'abandoned') stored;
create index log_to_look on run.log (at) where wants_look and looked_at is null;
grant update (behind, looked_by, looked_at, look_text_id) on run.log to vg_app;

-- What came out clean, by operation; without one it proves nothing.
alter table bench.test_result drop constraint test_result_pkey, add column operation text check (operation in ('cut', 'score', 'engrave'));
delete from bench.test_result where operation is null and exists (
    select from run.log r where r.machine_id = test_result.machine_id and r.material_id = test_result.material_id and r.thickness_mm = test_result.thickness_mm);
insert into bench.test_result (machine_id, material_id, thickness_mm, operation, at)
    select r.machine_id, r.material_id, r.thickness_mm, o, max(upper(r.during)) from run.log r, unnest(r.operations) o
    where r.outcome = 'clean' and r.counts and (r.supervisor_id is null or r.confirmed_at is not null) group by 1, 2, 3, 4;
create unique index test_result_once on bench.test_result (machine_id, material_id, thickness_mm, operation);
grant update (at) on bench.test_result to vg_app;

-- Whoever returns a machine says whether lens, mirrors, tube or alignment were touched: then what was tested before is tested again.
alter table house.stop add column optics_touched boolean not null default false;

-- What background work could not do, so that one bad thing does not hold up the rest.
create table web.parked (
    worker text not null,
    subject text not null,
    why text not null,
    at timestamptz not null,
    primary key (worker, subject)
);
grant select, insert, update, delete on web.parked to vg_app;

-- A message that cannot be delivered is tried again later, then given up by itself.
alter table people.message
    add column mail_tries integer not null default 0,
    add column mail_next timestamptz,
    add column mail_failure text,
    add column mail_failed_at timestamptz;
grant update (mail_tries, mail_next, mail_failure, mail_failed_at) on people.message to vg_app;

-- The record takes canonical JSON and a real instant, nothing else: a line that cannot be read would stop whoever reads it.
create or replace function ledger.append(p_at text, p_kind text, p_body text) returns bigint
language plpgsql security definer set search_path = ledger, pg_temp as $$
declare
    last_seq bigint;
    last_hash text;
    envelope text;
    new_hash text;
begin
    if p_at !~ '^[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}[.][0-9]{6}Z$' then
        raise exception 'an entry needs an instant with six decimals' using errcode = 'invalid_datetime_format';
    end if;
    perform p_at::timestamptz;
    if jsonb_typeof(p_body::jsonb) <> 'object' then
        raise exception 'an entry is a JSON object' using errcode = 'invalid_text_representation';
    end if;
    perform pg_advisory_xact_lock(730001);
    select h.seq, h.hash into last_seq, last_hash from ledger.head h;
    envelope := '{"at":"' || p_at || '","body":' || p_body || ',"kind":"' || p_kind
        || '","prev":"' || last_hash || '","seq":' || (last_seq + 1) || '}';
    new_hash := encode(sha256(convert_to(envelope, 'UTF8')), 'hex');
    insert into ledger.entry (seq, at, kind, body, prev, hash)
        values (last_seq + 1, p_at, p_kind, p_body, last_hash, new_hash);
    update ledger.head set seq = last_seq + 1, hash = new_hash;
    perform pg_notify('ledger', (last_seq + 1)::text);
    return last_seq + 1;
end $$;
revoke all on function ledger.append(text, text, text) from public;
grant execute on function ledger.append(text, text, text) to vg_app;

-- The practical that shipped could be read as "extraction off" at a flame. Houses that have the sentence get a version with the right one.
insert into training.practical (id, version, title, steps)
    select id, version + 1, title, replace(steps::text, 'stop, lid shut, air off, and from where on', 'stop the job, air assist off, lid shut, extraction stays on; and from where on')::jsonb
    from (select distinct on (id) id, version, title, steps from training.practical order by id, version desc) p
    where steps::text like '%stop, lid shut, air off, and from where on%';
