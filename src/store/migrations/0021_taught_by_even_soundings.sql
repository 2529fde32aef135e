-- What renditions came to taught how far soundings of evenly spaced places lie off. Soundings are of other places now, from calm to busy, and
-- err otherwise.
UPDATE rendition SET plan = plan #- '{budget,soundedBytes}' WHERE state = 'done' AND plan->'budget' ? 'soundedBytes';
