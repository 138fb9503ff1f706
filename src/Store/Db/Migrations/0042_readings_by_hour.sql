-- 0042: minutes of readings become hours after ninety days; what was read after a service is found without its years.
create table station.reading_hour (
    machine_id text not null references house.machine,
    hour timestamptz not null,
    readings int not null,
    airflow_n int not null,
    airflow_sum numeric not null,
    airflow_low numeric,
    coolant_n int not null,
    coolant_sum numeric not null,
    coolant_high numeric,
    primary key (machine_id, hour)
);
create index reading_minute on station.reading (minute);
create index reading_baseline on upkeep.reading (machine_id, at) where baseline;
create index done_airflow on upkeep.done (machine_id, at) where after_m3h is not null;
grant select, insert on station.reading_hour to vg_app;
grant update (readings, airflow_n, airflow_sum, airflow_low, coolant_n, coolant_sum, coolant_high) on station.reading_hour to vg_app;
grant delete on station.reading to vg_app;
