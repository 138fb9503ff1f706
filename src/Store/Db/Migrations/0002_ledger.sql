-- 0002: the append-only, hash-chained record. The app's role may read it and call ledger.append, nothing else.
create table ledger.entry (
    seq bigint primary key,
    at text not null,                -- instant, ISO 8601 UTC, six decimals: the very text that is hashed
    kind text not null check (kind ~ '^[a-z]+[.][a-zA-Z]+$'),
    body text not null,              -- canonical JSON (RFC 8785)
    prev text not null,
    hash text not null unique
);

-- One row: where the chain ends. Read and moved under the advisory lock in ledger.append.
create table ledger.head (
    one boolean primary key default true check (one),
    seq bigint not null,
    hash text not null
);
insert into ledger.head (seq, hash) values (0, repeat('0', 64));

-- Free text beside the chain: the chain keeps only a salted hash, so erasing a row here leaves it whole.
create table ledger.text (
    id uuid primary key,
    salt bytea not null,
    body text not null,
    about text                       -- the person it concerns; null for a machine or the house
);
create index text_about on ledger.text (about);

-- A number is given only under the lock, held to the commit: numbers are gapless and in commit order.
create function ledger.append(p_at text, p_kind text, p_body text) returns bigint
language plpgsql security definer set search_path = ledger, pg_temp as $$
declare
    last_seq bigint;
    last_hash text;
    envelope text;
    new_hash text;
begin
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
