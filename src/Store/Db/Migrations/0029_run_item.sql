-- 0029: which sheet of its booking a run was: two may be alike in all but the drawing.
alter table run.log add column item int check (item >= 0);
