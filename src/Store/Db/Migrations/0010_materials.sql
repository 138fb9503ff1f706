-- 0010: rulings that a house changes, and the desk of sheets.
alter table materials.material add column version integer not null default 1;

-- Why it changed stands beside the chain; what was there from the beginning has nobody who changed it.
alter table materials.ruling
    add column practice text not null default '',       -- where practice differs
    add column review_by date,
    add column owner_id text references people.person,
    add column changed_by text references people.person,
    add column text_id uuid;
create index ruling_held on materials.ruling using gist (material_id, held) where upper_inf(recorded);

create table materials.proposal (
    id uuid primary key,
    material_id text not null references materials.material,
    change jsonb not null,
    holds_from timestamptz not null,
    proposed_by text not null references people.person,
    text_id uuid not null,
    at timestamptz not null,
    state text not null default 'waiting' check (state in ('waiting', 'agreed', 'refused', 'withdrawn')),
    answered_by text references people.person,
    answered_at timestamptz,
    answer_text_id uuid,
    check ((state = 'waiting') = (answered_by is null)),
    check (state <> 'agreed' or answered_by <> proposed_by)
);
create index proposal_waiting on materials.proposal (at) where state = 'waiting';

-- A sheet's own number, and for an offcut the number of the sheet it came from with one of its own behind it.
alter table materials.sheet drop constraint sheet_tag_check;
create sequence materials.tag_number start 1001;
alter table materials.sheet
    add constraint sheet_tag_check check (tag ~ '^[A-Z]+-[0-9]+(-[0-9]+)?$'),
    add column supplier text not null default '',
    add column batch text not null default '',
    add column parent_tag text references materials.sheet,
    add column brought_by text references people.person,        -- null: the house's own stock
    add column registered_by text references people.person,
    add column registered_at timestamptz,
    add column state text not null default 'waiting' check (state in ('waiting', 'moreWanted', 'cleared', 'refused', 'recheck', 'retired')),
    add column state_by text references people.person,
    add column state_at timestamptz,
    add column state_text_id uuid,
    add column version integer not null default 1,
    add constraint sheet_size check (width_mm > 0 and height_mm > 0),
    add constraint offcut_of_its_sheet check (parent_tag is null or tag like parent_tag || '-%' or split_part(tag, '-', 2) = split_part(parent_tag, '-', 2));
create index sheet_batch on materials.sheet (material_id, batch) where batch <> '';
create index sheet_parent on materials.sheet (parent_tag) where parent_tag is not null;
update materials.sheet s set state = 'cleared' where exists (select from materials.clearance c where c.tag = s.tag);

create table materials.evidence (
    id uuid primary key,
    tag text not null references materials.sheet,
    name text not null,
    sha256 text not null references bench.file,
    added_by text not null references people.person,
    at timestamptz not null,
    unique (tag, sha256)
);
alter table materials.clearance
    add column cleared_by text references people.person,
    add column text_id uuid;
alter table materials.quarantine
    add column set_by text references people.person,
    add column text_id uuid;

-- Something that is not on the list, and what the stewards said to it.
create table materials.request (
    id uuid primary key,
    person_id text not null references people.person,
    name text not null,
    supplier text not null,
    link text not null,
    text_id uuid,
    file_name text,
    sha256 text references bench.file,
    at timestamptz not null,
    state text not null default 'waiting' check (state in ('waiting', 'known', 'added', 'refused', 'withdrawn')),
    material_id text references materials.material,
    answered_by text references people.person,
    answered_at timestamptz,
    answer_text_id uuid,
    check ((state in ('known', 'added')) = (material_id is not null)),
    check (state in ('waiting', 'withdrawn') or answered_by <> person_id)
);
create index request_waiting on materials.request (at) where state = 'waiting';

grant select, insert on materials.proposal, materials.evidence, materials.request to vg_app;
grant update (state, material_id, answered_by, answered_at, answer_text_id, file_name, sha256) on materials.request to vg_app;
grant usage on sequence materials.tag_number to vg_app;
grant update (state, answered_by, answered_at, answer_text_id) on materials.proposal to vg_app;
grant update (state, state_by, state_at, state_text_id, version) on materials.sheet to vg_app;
