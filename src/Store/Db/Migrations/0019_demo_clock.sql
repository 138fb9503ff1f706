-- 0019: the clock of a demo house: how far it is ahead of real time, the same for every instance. A house in use has none.
create table house.demo_clock (
    one boolean primary key default true check (one),
    shift_us bigint not null,
    seen timestamptz                     -- when a server last ran on it, in real time
);
grant select, update (seen) on house.demo_clock to vg_app;
