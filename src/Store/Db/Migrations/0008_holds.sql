-- 0008: what one steward set, two others may end together: the first of them stands here until the second says so.
create table house.agreement_to_end (
    hold_id uuid not null,               -- a stop or a pause
    by text not null references people.person,
    text_id uuid not null,
    at timestamptz not null,
    primary key (hold_id, by)
);
grant select, insert on house.agreement_to_end to vg_app;
