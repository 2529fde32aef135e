-- How long before a frame a file is opened to reach it: nothing, where frames were found by an index so far.
UPDATE programme SET facts = jsonb_set(facts, '{video,seekLeadSeconds}', '0') WHERE jsonb_typeof(facts->'video') = 'object';
UPDATE rendition SET plan = jsonb_set(plan, '{picture,opening,skipSeconds}', '0')
WHERE jsonb_typeof(plan#>'{picture,opening}') = 'object';

-- Files without one are looked at again, for theirs, and analysed in stretches that go with it.
UPDATE programme SET state = 'looking' WHERE facts->'video'->>'seeksExactly' = 'false';
DELETE FROM analysis_stretch WHERE programme_id IN (SELECT id FROM programme WHERE state = 'looking');
