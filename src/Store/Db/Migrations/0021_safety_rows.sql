-- Roles, clearances, quarantines, consents, holds on certificates, lifts and rulings decide who may do what with which stock. Each
-- version of such a row is told in the record by a hash of what it says, in the entry of the act that wrote it, so that a row set past
-- the record shows when the record is verified.

create function ledger.span_text(span tstzrange) returns text language sql immutable as $$
    select coalesce((extract(epoch from lower(span)) * 1000000)::bigint::text, '-') || '/'
        || coalesce((extract(epoch from upper(span)) * 1000000)::bigint::text, '-')
$$;

create function ledger.row_hash(variadic parts text[]) returns text language sql immutable as $$
    select left(encode(sha256(convert_to(array_to_string(parts, '|', '-'), 'UTF8')), 'hex'), 32)
$$;

create function ledger.row_line(r people.role) returns text language sql immutable as $$
    select ledger.row_hash(r.person_id, r.role, r.machine_id, ledger.span_text(r.held), ledger.span_text(r.recorded)) $$;
create function ledger.row_line(r people.consent) returns text language sql immutable as $$
    select ledger.row_hash(r.id::text, r.person_id, r.machine_ids::text, r.set_by, r.text_id::text, ledger.span_text(r.held),
        ledger.span_text(r.recorded)) $$;
create function ledger.row_line(r materials.clearance) returns text language sql immutable as $$
    select ledger.row_hash(r.tag, r.operations::text, r.machine_ids::text, r.cleared_by, ledger.span_text(r.held),
        ledger.span_text(r.recorded)) $$;
create function ledger.row_line(r materials.quarantine) returns text language sql immutable as $$
    select ledger.row_hash(r.tag, r.set_by, ledger.span_text(r.held), ledger.span_text(r.recorded)) $$;
create function ledger.row_line(r gate.lift) returns text language sql immutable as $$
    select ledger.row_hash(r.id::text, r.person_id, r.machine_id, r.items::text, r.reasons::text, r.decision_id::text,
        ledger.span_text(r.held), ledger.span_text(r.recorded)) $$;
create function ledger.row_line(r training.certificate_hold) returns text language sql immutable as $$
    select ledger.row_hash(r.id::text, r.person_id, r.authority, r.kind, r.set_by, r.conditions::text, ledger.span_text(r.held),
        ledger.span_text(r.recorded)) $$;
create function ledger.row_line(r materials.ruling) returns text language sql immutable as $$
    select ledger.row_hash(r.material_id, r.kind, r.operation, r.min_mm::text, r.max_mm::text, r.standing, r.evidence, r.reasons::text,
        r.hazard, r.handling, r.filtered_needs_arrangement::text, ledger.span_text(r.held), ledger.span_text(r.recorded)) $$;

create view ledger.safety_row as
    select 'role ' || r.row_id as key, ledger.row_line(r) as line from people.role r
    union all select 'consent ' || r.row_id, ledger.row_line(r) from people.consent r
    union all select 'clearance ' || r.row_id, ledger.row_line(r) from materials.clearance r
    union all select 'quarantine ' || r.row_id, ledger.row_line(r) from materials.quarantine r
    union all select 'lift ' || r.row_id, ledger.row_line(r) from gate.lift r
    union all select 'hold ' || r.row_id, ledger.row_line(r) from training.certificate_hold r
    union all select 'ruling ' || r.id, ledger.row_line(r) from materials.ruling r;

-- What a transaction has written and no entry has told yet; the entry takes it along. The server has no right to it of its own.
create unlogged table ledger.untold (
    n bigint generated always as identity,
    tx xid8 not null,
    key text not null,
    line text                            -- null for a row that was deleted
);
create index untold_tx on ledger.untold (tx);

-- Fired once a statement, with the word for a row and the name of its number.
create function ledger.tell_rows() returns trigger
language plpgsql security definer set search_path = ledger, pg_temp as $$
begin
    if tg_op = 'DELETE' then
        execute format('insert into ledger.untold (tx, key, line) select pg_current_xact_id(), %L || '' '' || c.%I, null from changed c',
            tg_argv[0], tg_argv[1]);
    else
        execute format(
            'insert into ledger.untold (tx, key, line) select pg_current_xact_id(), %L || '' '' || r.%I, ledger.row_line(r)'
                ' from changed c join %I.%I r on r.%I = c.%I',
            tg_argv[0], tg_argv[1], tg_table_schema, tg_table_name, tg_argv[1], tg_argv[1]);
    end if;
    return null;
end $$;

do $$
declare
    told record;
begin
    for told in select * from (values
        ('people.role', 'role', 'row_id'), ('people.consent', 'consent', 'row_id'),
        ('materials.clearance', 'clearance', 'row_id'), ('materials.quarantine', 'quarantine', 'row_id'),
        ('gate.lift', 'lift', 'row_id'), ('training.certificate_hold', 'hold', 'row_id'),
        ('materials.ruling', 'ruling', 'id')) as t (name, word, number)
    loop
        execute format(
            'create trigger tell_inserted after insert on %s'
                ' referencing new table as changed for each statement execute function ledger.tell_rows(%L, %L)',
            told.name, told.word, told.number);
        execute format(
            'create trigger tell_updated after update on %s'
                ' referencing new table as changed for each statement execute function ledger.tell_rows(%L, %L)',
            told.name, told.word, told.number);
        execute format(
            'create trigger tell_deleted after delete on %s'
                ' referencing old table as changed for each statement execute function ledger.tell_rows(%L, %L)',
            told.name, told.word, told.number);
    end loop;
end $$;

-- As before, and with the rows that this transaction wrote. Their member is "~rows": it sorts last, so that the body stays in its
-- canonical order.
create or replace function ledger.append(p_at text, p_kind text, p_body text) returns bigint
language plpgsql security definer set search_path = ledger, pg_temp as $$
declare
    last_seq bigint;
    last_hash text;
    envelope text;
    new_hash text;
    told text;
begin
    if p_at !~ '^[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}[.][0-9]{6}Z$' then
        raise exception 'an entry needs an instant with six decimals' using errcode = 'invalid_datetime_format';
    end if;
    perform p_at::timestamptz;
    if jsonb_typeof(p_body::jsonb) <> 'object' then
        raise exception 'an entry is a JSON object' using errcode = 'invalid_text_representation';
    end if;
    with taken as (delete from ledger.untold u where u.tx = pg_current_xact_id() returning u.n, u.key, u.line),
        latest as (select distinct on (t.key) t.key, t.line from taken t order by t.key, t.n desc)
    select string_agg(to_json(l.key)::text || ':' || coalesce(to_json(l.line)::text, 'null'), ',' order by l.key collate "C")
        into told from latest l;
    if told is not null then
        p_body := left(p_body, -1) || case when p_body::jsonb = '{}' then '' else ',' end || '"~rows":{' || told || '}}';
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

-- Rows of before they were told, as they stand when this house comes to this version; dated with what was last written.
do $$
declare
    last_at text := (select at from ledger.entry order by seq desc limit 1);
begin
    if last_at is null then return; end if;
    insert into ledger.untold (tx, key, line) select pg_current_xact_id(), r.key, r.line from ledger.safety_row r;
    perform ledger.append(last_at, 'ledger.baseline', '{}');
end $$;

grant select on ledger.safety_row to vg_app;
grant execute on function ledger.span_text(tstzrange), ledger.row_hash(text[]),
    ledger.row_line(people.role), ledger.row_line(people.consent), ledger.row_line(materials.clearance),
    ledger.row_line(materials.quarantine), ledger.row_line(gate.lift), ledger.row_line(training.certificate_hold),
    ledger.row_line(materials.ruling) to vg_app;
