-- 0014: where clamps stand on the sheet of a drawing, as its owner marked them.
alter table bench.drawing add column clamps jsonb not null default '[]';
grant update (clamps) on bench.drawing to vg_app;
