-- Forgetting hides; only emptying takes away. A path belongs to one programme that is not hidden.
ALTER TABLE programme ADD COLUMN hidden_at timestamptz;
ALTER TABLE programme DROP CONSTRAINT programme_path_key;
CREATE UNIQUE INDEX programme_path ON programme (path) WHERE hidden_at IS NULL;
CREATE INDEX programme_fingerprint ON programme (fingerprint);

ALTER TABLE rendition
  -- Attempts that ended without a word: the server died, or what came out could not be recorded.
  ADD COLUMN lost integer NOT NULL DEFAULT 0,
  -- Attempts whose encoder was killed or ran out of memory.
  ADD COLUMN engine_deaths integer NOT NULL DEFAULT 0,
  ADD COLUMN portion_name text;

-- A report that was put away stays away.
ALTER TABLE takein ADD COLUMN dismissed_at timestamptz;
