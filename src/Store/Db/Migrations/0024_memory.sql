-- 0024: what changes rarely is remembered by the server as long as its marks are the same. Every statement that touches a table of a
-- topic leaves a mark of its own and takes away those it sees; nobody waits for anybody. Two changes at once leave both marks, one that
-- is rolled back leaves none, and no mark ever comes a second time: equal marks mean equal content.
create schema store;
create table store.version (
    mark uuid primary key default gen_random_uuid(),
    topic text not null check (topic in ('house', 'machines', 'materials', 'course'))
);
insert into store.version (topic) values ('house'), ('machines'), ('materials'), ('course');
grant usage on schema store to vg_app;
grant select on store.version to vg_app;

create function store.changed() returns trigger language plpgsql security definer set search_path = '' as $$
declare
    left_mark uuid;
begin
    insert into store.version (topic) values (tg_argv[0]) returning mark into left_mark;
    delete from store.version v
        using (select mark from store.version where topic = tg_argv[0] and mark <> left_mark for update skip locked) seen
        where v.mark = seen.mark;
    return null;
end $$;

do $$
declare
    watched text[] := array[
        ['house', 'house.rules'], ['house', 'house.room'], ['house', 'house.fire_kit'], ['house', 'house.eyewear'],
        ['machines', 'house.machine'], ['machines', 'house.fixture'],
        ['materials', 'materials.material'], ['materials', 'materials.look_alikes'], ['materials', 'materials.ruling'],
        ['course', 'training.module'], ['course', 'training.repeat'], ['course', 'training.path'],
        ['course', 'training.practical'], ['course', 'training.practical_repeat']];
    w text[];
begin
    foreach w slice 1 in array watched loop
        execute format('create trigger changed after insert or update or delete or truncate on %s '
            'for each statement execute function store.changed(%L)', w[2], w[1]);
    end loop;
end $$;

-- What is still to come of one resource, and of the rota, is found without walking through the past.
create index claim_coming on booking.claim (resource, upper(during)) where live;
create index duty_coming on house.duty (upper(during)) where upper_inf(recorded);
