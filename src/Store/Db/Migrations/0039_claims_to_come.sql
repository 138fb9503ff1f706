-- 0039: what is held from a time on is read from the index alone; without the times in it, another index seemed as good and read all of
-- a machine's past.
drop index booking.claim_coming;
create index claim_coming on booking.claim (resource, upper(during)) include (during, booking_id) where live;
