-- 0001: one schema for each room, and the extension that lets exclusion constraints mix = with &&.
create extension if not exists btree_gist;
create schema house;
create schema people;
create schema materials;
create schema training;
create schema bench;
create schema gate;
create schema booking;
create schema upkeep;
create schema ledger;
create schema web;
