-- The steps to an authority, where the house set its own; without a row the starting path holds.
create table training.path (
    row_id bigint generated always as identity primary key,
    authority text not null,             -- machine, or machine/add-on
    body jsonb not null,
    set_by text not null references people.person,
    text_id uuid not null,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    exclude using gist (authority with =, held with &&, recorded with &&)
);

-- A certificate of another house or an institution.
create table training.outside (
    id uuid primary key,
    person_id text not null references people.person,
    title text not null,
    issuer text not null,
    set_by text not null references people.person,
    text_id uuid not null,               -- what was shown
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    check (set_by <> person_id)
);
create index outside_person on training.outside (person_id);

-- A session at the machine with places. Its plan keeps the machine and the trainer, and its roster lets those with a place book inside it.
create table training.induction (
    id uuid primary key,
    plan_id uuid not null references house.plan,
    machine_id text not null references house.machine,
    trainer_id text not null references people.person,
    during tstzrange not null check (not isempty(during) and not lower_inf(during) and not upper_inf(during)),
    places integer not null check (places between 1 and 30),
    cancelled_at timestamptz
);
create index induction_during on training.induction using gist (during);

create table training.place (
    induction_id uuid not null references training.induction,
    seat integer not null check (seat >= 1),
    person_id text not null references people.person,
    at timestamptz not null,
    attended boolean,                    -- the roll call; null before it
    called_by text references people.person,
    called_at timestamptz,
    primary key (induction_id, seat),
    unique (induction_id, person_id),
    check ((attended is null) = (called_at is null) and (attended is null) = (called_by is null))
);
create index place_person on training.place (person_id);
create function training.place_fits() returns trigger language plpgsql as $$
begin
    if not exists (select from training.induction i where i.id = new.induction_id and new.seat <= i.places and i.trainer_id <> new.person_id) then
        raise exception 'no such place' using errcode = 'check_violation';
    end if;
    return new;
end $$;
create trigger place_fits before insert or update on training.place for each row execute function training.place_fits();

-- What trainers watch. A house may change a sheet; what was marked on a version stays with it.
create table training.practical (
    id text not null,
    version integer not null check (version >= 1),
    title text not null,
    steps jsonb not null,
    primary key (id, version)
);

-- From this version on, who was signed on an older one shows it again by a day.
create table training.practical_repeat (
    practical_id text not null,
    version integer not null,
    by_day date not null,
    at timestamptz not null,
    primary key (practical_id, version),
    foreign key (practical_id, version) references training.practical
);

create table training.observation (
    id uuid primary key,
    person_id text not null references people.person,
    authority text not null,
    practical_id text not null,
    version integer not null,
    trainer_id text not null references people.person,
    started timestamptz not null,
    trainer_agreed_at timestamptz,
    member_agreed_at timestamptz,
    ended timestamptz,
    outcome text check (outcome in ('signed', 'repeat', 'notSigned', 'dropped')),
    certificate_id uuid,
    check (trainer_id <> person_id),
    check ((ended is null) = (outcome is null)),
    check ((certificate_id is not null) = (coalesce(outcome, '') = 'signed')),
    check (certificate_id is null or (trainer_agreed_at is not null and member_agreed_at is not null)),
    foreign key (practical_id, version) references training.practical
);
-- Two windows open one sheet.
create unique index observation_open on training.observation (person_id, authority) where ended is null;
create index observation_trainer on training.observation (trainer_id) where ended is null;

-- Every mark stays; the latest of a step counts.
create table training.mark (
    id uuid primary key,                 -- made by the tablet: sent twice is one
    observation_id uuid not null references training.observation,
    step_id text not null,
    mark text not null check (mark in ('unprompted', 'prompted', 'missed')),
    text_id uuid,
    at timestamptz not null,
    received timestamptz not null,
    by text not null references people.person
);
create index mark_observation on training.mark (observation_id);

-- Under review the gate asks, suspended it is shut.
create table training.certificate_hold (
    row_id bigint generated always as identity primary key,
    id uuid not null,
    person_id text not null references people.person,
    authority text not null,
    kind text not null check (kind in ('review', 'suspended')),
    set_by text not null references people.person,
    text_id uuid not null,               -- why, and what ends it
    conditions jsonb not null,
    held tstzrange not null check (not isempty(held)),
    recorded tstzrange not null,
    check (set_by <> person_id),
    exclude using gist (id with =, held with &&, recorded with &&)
);
create index certificate_hold_person on training.certificate_hold (person_id, authority);

-- From papers of before this house kept records here.
alter table training.certificate add column from_paper boolean not null default false;

grant select, insert on training.path, training.outside, training.induction, training.place, training.practical, training.practical_repeat, training.observation, training.mark, training.certificate_hold to vg_app;
grant update (recorded) on training.path, training.outside, training.certificate_hold to vg_app;
grant insert on training.module, training.question to vg_app;   -- pages and questions that a house writes itself
grant update (retired) on training.question to vg_app;
grant update (cancelled_at) on training.induction to vg_app;
grant update (attended, called_by, called_at), delete on training.place to vg_app;
grant update (trainer_agreed_at, member_agreed_at, ended, outcome, certificate_id) on training.observation to vg_app;

-- So that a day in the past can be asked about.
alter table training.repeat add column at timestamptz not null default '2026-01-01Z';
alter table training.repeat alter column at drop default;
-- A quiz has versions too, and no page.
alter table training.repeat drop constraint repeat_module_id_version_fkey, add foreign key (module_id) references training.module;

-- What happened with a person, and what followed; an appeal is heard by somebody who was not involved.
create table people.conduct (
    id uuid primary key,
    person_id text not null references people.person,
    machine_id text references house.machine,
    matter text not null check (matter in ('leftRunning', 'interlockBypassed', 'neverStock', 'other')),
    step text not null check (step in ('note', 'warning', 'lastWarning', 'pause')),
    by_rule text not null check (by_rule in ('note', 'warning', 'lastWarning', 'pause')),   -- what the ladder said
    written_by text not null references people.person,
    text_id uuid not null,
    at timestamptz not null,
    pause_id uuid,
    check (written_by <> person_id),
    check ((pause_id is not null) = (step = 'pause'))
);
create index conduct_person on people.conduct (person_id);
create table people.appeal (
    conduct_id uuid primary key references people.conduct,
    person_id text not null references people.person,
    written_by text not null references people.person,   -- of the entry, so that the check below can hold
    text_id uuid not null,
    at timestamptz not null,
    heard_by text references people.person,
    heard_on date,
    heard_at timestamptz,
    outcome text check (outcome in ('upheld', 'lifted')),
    outcome_text_id uuid,
    check (heard_by <> person_id and heard_by <> written_by),
    check (num_nonnulls(heard_by, heard_on, heard_at, outcome, outcome_text_id) in (0, 5))
);
grant select, insert on people.conduct, people.appeal to vg_app;
grant update (heard_by, heard_on, heard_at, outcome, outcome_text_id) on people.appeal to vg_app;
