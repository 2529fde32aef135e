-- Soundings of VP9 were made in one pass, and calm pictures came to twice as much in the two that are encoded. They are made again in two,
-- and what renditions came to against those of one pass teaches nothing.
DELETE FROM sounding WHERE codec = 'vp9';
UPDATE rendition SET plan = plan #- '{budget,soundedBytes}'
  WHERE state = 'done' AND plan->'budget' ? 'soundedBytes'
    AND jsonb_path_exists(plan, '$.streams[*].do ? (@.codec == "vp9")');
