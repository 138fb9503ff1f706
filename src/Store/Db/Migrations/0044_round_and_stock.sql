-- 0044: fire kit and eyewear looked at, stock that upkeep uses up, locks on machines out of service, papers an
-- inspector asks for, photos of faults and of work.

-- What the last look found wrong, since when; empty where it is in order or nobody has looked.
alter table house.fire_kit
    add column wrong text[] not null default '{}' check (wrong <@ '{missing,seal,date,damaged}'),
    add column wrong_since timestamptz,
    add check ((wrong = '{}') = (wrong_since is null));

create table upkeep.kit_look (
    id uuid primary key,
    item_id text not null,
    eyewear boolean not null,            -- else fire kit
    at timestamptz not null,
    by text not null references people.person,
    wrong text[] not null default '{}',
    damaged integer not null default 0 check (damaged >= 0),   -- pairs of eyewear taken away
    text_id uuid
);
create index kit_look_item on upkeep.kit_look (item_id, eyewear, at desc);

-- What upkeep uses up: lenses, carbon, distilled water.
create table upkeep.consumable (
    id uuid primary key,
    name text not null,
    unit text not null,
    part text,                           -- UpkeepPart: offered with tasks about it
    machine_id text references house.machine,            -- null: for any
    place text not null,
    supplier text not null,
    reorder numeric(10, 2) not null check (reorder >= 0),
    waste text not null,                 -- where the used one goes
    version integer not null default 1,
    ended_at timestamptz
);
create unique index consumable_name on upkeep.consumable (lower(name), coalesce(machine_id, '')) where ended_at is null;

create table upkeep.stock (
    id uuid primary key,
    consumable_id uuid not null references upkeep.consumable,
    at timestamptz not null,
    by text not null references people.person,
    change numeric(10, 2) not null check (change <> 0),
    batch text,                          -- as on the package, for what came in
    task_id text,                        -- used up in this task
    counted boolean not null default false               -- the shelf was counted, and this is the difference
);
create index stock_consumable on upkeep.stock (consumable_id, at);

-- Hung on a machine that is out of service: software locks nothing.
create table upkeep.lock (
    id uuid primary key,
    stop_id uuid not null,
    machine_id text not null references house.machine,
    where_text text not null,            -- such as: padlock 4 on the plug
    holder_id text not null references people.person,    -- of its key
    hung_at timestamptz not null,
    hung_by text not null references people.person,
    off_at timestamptz check (off_at >= hung_at),
    off_by text references people.person,
    off_why text,                        -- where somebody but the holder took it off
    check ((off_at is null) = (off_by is null))
);
create unique index lock_one on upkeep.lock (stop_id, lower(where_text)) where off_at is null;
create index lock_machine on upkeep.lock (machine_id) where off_at is null;

-- Papers that an inspector asks for, each with its day and the next one.
create table house.paper (
    id uuid primary key,
    kind text not null,                  -- PaperKind
    machine_id text references house.machine,
    on_day date not null,
    next_day date check (next_day > on_day),
    by text not null,                    -- who answers for it: a name, or a firm and its examiner
    says text not null,
    recorded_at timestamptz not null,
    recorded_by text not null references people.person
);
create index paper_kind on house.paper (kind, machine_id, on_day desc);

-- Of a fault, or of what was done in a task.
create table upkeep.photo (
    id uuid primary key,
    subject uuid not null,               -- upkeep.fault or upkeep.done
    media_type text not null check (media_type in ('image/jpeg', 'image/png')),
    bytes bytea not null,
    width integer not null,
    height integer not null,
    by text not null references people.person,
    at timestamptz not null
);
alter table upkeep.photo alter column bytes set storage external;
create index photo_subject on upkeep.photo (subject, at);

alter table booking.feed drop constraint feed_kind_check,
    add constraint feed_kind_check check (kind in ('mine', 'machine', 'rota', 'wall', 'upkeep'));

grant select, insert on upkeep.kit_look, upkeep.consumable, upkeep.stock, upkeep.lock, upkeep.photo, house.paper to vg_app;
grant delete on upkeep.photo to vg_app;
grant update (name, unit, part, machine_id, place, supplier, reorder, waste, version, ended_at) on upkeep.consumable to vg_app;
grant update (off_at, off_by, off_why) on upkeep.lock to vg_app;
