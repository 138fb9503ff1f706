-- 0023: erasing a person takes along what they bought where, and a keeper may erase a single text that names somebody.
grant update (supplier, link) on materials.request to vg_app;
grant update (supplier) on materials.sheet to vg_app;
