-- 0022: a code from a phone at sign-in. The secret is sealed by the web server's keys; spare codes are kept by their hash.
create table people.second_factor (
    person_id text primary key references people.person,
    secret bytea not null,
    begun timestamptz not null,
    confirmed timestamptz,               -- null until a first code was right
    last_step bigint not null default 0, -- of the last code taken: none is good twice
    spare text[] not null default '{}'
);
grant select, insert, update, delete on people.second_factor to vg_app;

-- Signed in without the code that the house asks of this person: nothing but setting it up is open.
alter table people.session add column factor_owed boolean not null default false;
grant update (factor_owed) on people.session to vg_app;
