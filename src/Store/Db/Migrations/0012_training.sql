-- Training: modules in versions, readings acknowledged, and quizzes drawn from a bank.
create table training.module (
    id text primary key,
    kind text not null check (kind in ('reading', 'quiz')),
    title text not null,
    topic text not null,
    version integer not null default 1 check (version >= 1),
    position integer not null
);

create table training.page (
    module_id text not null references training.module,
    version integer not null,
    body text not null,                          -- Markdown
    check_text text not null,                    -- the question that acknowledges it
    options text[] not null check (cardinality(options) >= 2), -- the first is right
    primary key (module_id, version)
);

-- From this version on the ones before no longer count, once the day is over.
create table training.repeat (
    module_id text not null,
    version integer not null,
    by_day date not null,
    primary key (module_id, version),
    foreign key (module_id, version) references training.page
);

create table training.question (
    id text primary key,
    topic text not null,
    body jsonb not null,
    position integer not null,
    retired boolean not null default false
);

create table training.done (
    person_id text not null references people.person,
    module_id text not null references training.module,
    version integer not null,
    at timestamptz not null,
    primary key (person_id, module_id, version)
);

create table training.attempt (
    id uuid primary key,
    person_id text not null references people.person,
    module_id text not null references training.module,
    version integer not null,
    seed bigint not null,
    drawn jsonb not null,                        -- questions in the order drawn, with the order of their options
    questions jsonb not null,                    -- as they were worded then
    answers jsonb not null default '{}',
    started timestamptz not null,
    ended timestamptz,
    correct integer,
    asked integer,
    critical_missed integer,
    passed boolean,
    check ((ended is null) = (passed is null)),
    check (ended is null or ended >= started)
);
-- Two windows begin one attempt.
create unique index attempt_open on training.attempt (person_id, module_id) where ended is null;
create index attempt_person on training.attempt (person_id, module_id, ended desc);
create index attempt_module on training.attempt (module_id, ended) where ended is not null;

grant select on training.module, training.page, training.repeat, training.question to vg_app;
grant insert on training.page, training.repeat to vg_app;
grant update (version) on training.module to vg_app;
grant select, insert on training.done, training.attempt to vg_app;
grant update (answers, ended, correct, asked, critical_missed, passed) on training.attempt to vg_app;
