-- What words are looked for in, written once instead of taken from three documents for every row of every search.
ALTER TABLE rendition ADD COLUMN words text GENERATED ALWAYS AS (
  lower(name || ' ' || coalesce(recipe->>'name', '') || ' ' || coalesce(outline->>'codec', '') || ' ' || coalesce(batch_name, ''))
) STORED;
