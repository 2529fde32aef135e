-- What lists say of a rendition, so that they need not read its plan.
ALTER TABLE rendition ADD COLUMN outline jsonb;

UPDATE rendition SET outline = jsonb_build_object(
  'codec', CASE WHEN plan->'video'->'rate'->>'kind' = 'copied' THEN 'copy' ELSE plan->'video'->>'codec' END,
  'width', plan->'picture'->'size'->'width',
  'height', plan->'picture'->'size'->'height',
  'frameCount', COALESCE(plan->'picture'->'frameCount', '0'),
  'seconds', plan->'durationSeconds',
  'capBytes', plan->'budget'->'cap');

ALTER TABLE rendition ALTER COLUMN outline SET NOT NULL;
