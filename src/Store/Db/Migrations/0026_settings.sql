-- 0026: the house's library of settings, and runs that name the one they used.
create table bench.setting (
    id uuid primary key,
    number integer generated always as identity unique,
    machine_id text not null references house.machine,
    material_id text not null references materials.material,
    operation text not null check (operation in ('cut', 'score', 'engrave')),
    thickness_mm numeric(9, 6) not null check (thickness_mm > 0),
    body jsonb not null,                 -- SettingValues, without its note
    note_text_id uuid,
    by text not null references people.person,
    at timestamptz not null,
    ended_at timestamptz,
    ended_by text references people.person,
    check ((ended_at is null) = (ended_by is null))
);
create index setting_shelf on bench.setting (material_id, machine_id) where ended_at is null;
grant select, insert on bench.setting to vg_app;
grant update (ended_at, ended_by) on bench.setting to vg_app;

alter table run.log add column setting_id uuid references bench.setting;
create index log_setting on run.log (setting_id, upper(during)) where setting_id is not null;
