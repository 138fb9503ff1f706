-- A request for a ruling may end as one sheet, cleared by arrangement for the person who asked.
alter table materials.request drop constraint request_state_check;
alter table materials.request drop constraint request_check;
alter table materials.request
    add column sheet_tag text references materials.sheet,
    add constraint request_state_check check (state in ('waiting', 'known', 'added', 'cleared', 'refused', 'withdrawn')),
    add constraint request_has_material check ((state in ('known', 'added', 'cleared')) = (material_id is not null)),
    add constraint request_has_sheet check ((state = 'cleared') = (sheet_tag is not null));
grant update (sheet_tag) on materials.request to vg_app;
