-- 0018: what colours mean in one drawing alone, and room for drawings.
alter table bench.drawing add column colours jsonb not null default '{}';   -- {"#rrggbb": "cut"}
grant update (colours) on bench.drawing to vg_app;
create index file_length on bench.file (length);
create index drawing_file on bench.drawing (sha256);
