-- 0005: what the running app may do. It cannot rewrite dated facts or the record.
grant usage on schema house, people, materials, training, bench, gate, booking, upkeep, ledger, web to vg_app;
grant select on all tables in schema house, people, materials, training, bench, gate, booking, upkeep, ledger, web to vg_app;
grant insert on all tables in schema house, people, materials, training, bench, gate, booking, upkeep, web to vg_app;
grant insert, delete on ledger.text to vg_app;
grant execute on function ledger.append(text, text, text) to vg_app;

grant update (recorded) on house.rules, house.fire_kit, house.eyewear, house.stop, house.duty, upkeep.task,
    people.account, people.agreement, people.role, people.pause,
    materials.ruling, materials.clearance, materials.quarantine, training.certificate to vg_app;

grant update on house.machine, people.person, materials.material, gate.ask to vg_app;
grant update (cancelled_at, cancelled_by, cancel_text_id, version) on booking.booking to vg_app;
grant update (recorded, live) on booking.claim to vg_app;
-- FOR UPDATE on a resource row needs an update right; the id itself never changes.
grant update on booking.resource to vg_app;
grant update, delete on web.data_protection_key to vg_app;
grant delete on bench.drawing, bench.file to vg_app;
