-- 0006: asks get an answer; bookings are decided again when facts change; people are told once.
-- The release before this one may still be running: it knows only waiting and withdrawn, and writes no other state.
alter table gate.ask
    drop constraint ask_state_check,
    add constraint ask_state_check check (state in ('waiting', 'withdrawn', 'lifted', 'refused', 'takenBack', 'expired')),
    add column answered_by text references people.person,
    add column answered_at timestamptz,
    add column answer_text_id uuid,
    add column booking_id uuid references booking.booking,   -- the one booking that uses the lift
    add constraint ask_not_by_oneself check (answered_by <> person_id);

-- A lift holds for its window; taking it back closes what is recorded.
create table gate.lift (
    row_id bigint generated always as identity primary key,
    id uuid not null references gate.ask,
    person_id text not null references people.person,
    machine_id text not null references house.machine,
    items jsonb not null,                -- AskItem[]
    reasons jsonb not null,              -- LiftedReason[]
    decision_id uuid not null references gate.decision,
    held tstzrange not null check (not isempty(held) and not lower_inf(held) and not upper_inf(held)),
    recorded tstzrange not null,
    exclude using gist (id with =, held with &&, recorded with &&)
);
create index lift_person on gate.lift (person_id, machine_id);

alter table booking.booking
    add column at_risk_since timestamptz,          -- null while the gate is open for it
    add column at_risk jsonb,                      -- {code, text}[]: why it is not
    add column at_risk_decision_id uuid references gate.decision;
create index booking_standing on booking.booking (upper(during)) where cancelled_at is null;

-- What a person is told. The key is what makes it once.
create table people.message (
    id uuid primary key,
    number bigint generated always as identity,
    person_id text not null references people.person,
    key text not null unique,            -- kind, subject and what makes this telling another than the last
    title text not null,
    body text not null,
    link text not null,                  -- path inside the application
    at timestamptz not null,
    read_at timestamptz
);
create index message_person on people.message (person_id, number desc);

-- How far background work has read the record. Taken for update: one instance works, the others pass.
create table ledger.worker_cursor (
    name text primary key,
    seq bigint not null
);
insert into ledger.worker_cursor (name, seq) values ('standing', 0);

grant select, insert on gate.lift, people.message to vg_app;
grant update (recorded) on gate.lift to vg_app;
grant update (read_at), delete on people.message to vg_app;
grant select, update on ledger.worker_cursor to vg_app;
grant update (at_risk_since, at_risk, at_risk_decision_id) on booking.booking to vg_app;
