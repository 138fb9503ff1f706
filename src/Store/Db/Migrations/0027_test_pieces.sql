-- 0027: test pieces that were made, and how each came out.
create table bench.test_piece (
    id uuid primary key,
    number integer generated always as identity unique,
    kind text not null check (kind in ('cut', 'engrave', 'kerf', 'focus', 'joint')),
    machine_id text not null references house.machine,
    material_id text not null references materials.material,
    thickness_mm numeric(9, 6) not null check (thickness_mm > 0),
    sheet_tag text references materials.sheet,
    body jsonb not null,                 -- MadePiece: the drawing, its cells and its card
    by text not null references people.person,
    at timestamptz not null
);
create index test_piece_newest on bench.test_piece (machine_id, material_id, number desc);

create table bench.test_piece_result (
    piece_id uuid primary key references bench.test_piece,
    cells jsonb not null,                -- what fell out and what charred
    setting_id uuid references bench.setting,
    by text not null references people.person,
    at timestamptz not null
);
create index test_piece_result_setting on bench.test_piece_result (setting_id) where setting_id is not null;
grant select, insert on bench.test_piece, bench.test_piece_result to vg_app;
