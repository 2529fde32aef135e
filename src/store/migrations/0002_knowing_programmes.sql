ALTER TABLE programme
  -- Of size and ends, to know a file again that was moved or touched.
  ADD COLUMN fingerprint text,
  ADD COLUMN master text NOT NULL DEFAULT 'there' CHECK (master IN ('there', 'changed', 'missing')),
  -- Bytes the picture spends in each half second, as 32-bit numbers.
  ADD COLUMN spent bytea,
  ADD COLUMN raw jsonb;

-- What was looked at before is looked at again: there is more to know now.
UPDATE programme SET state = 'looking';

CREATE TABLE portion (
  id           text PRIMARY KEY,
  programme_id text NOT NULL REFERENCES programme (id) ON DELETE CASCADE,
  position     integer NOT NULL,
  name         text NOT NULL,
  in_frame     integer NOT NULL,
  out_frame    integer NOT NULL
);
CREATE INDEX portion_of_programme ON portion (programme_id, position);

CREATE TABLE analysis (
  programme_id text PRIMARY KEY REFERENCES programme (id) ON DELETE CASCADE,
  state        text NOT NULL CHECK (state IN ('waiting', 'running', 'done', 'failed')),
  problem      jsonb,
  findings     jsonb,
  cost_seconds double precision NOT NULL DEFAULT 0,
  asked_at     timestamptz NOT NULL
);

CREATE TABLE analysis_stretch (
  programme_id text NOT NULL REFERENCES analysis (programme_id) ON DELETE CASCADE,
  position     integer NOT NULL,
  measured     jsonb NOT NULL,
  cost_seconds double precision NOT NULL,
  PRIMARY KEY (programme_id, position)
);

CREATE TABLE takein (
  id         text PRIMARY KEY,
  paths      jsonb NOT NULL,
  subfolders boolean NOT NULL,
  state      text NOT NULL CHECK (state IN ('searching', 'taking', 'done', 'stopped')),
  started_at timestamptz NOT NULL,
  ended_at   timestamptz
);

CREATE TABLE takein_file (
  takein_id text NOT NULL REFERENCES takein (id) ON DELETE CASCADE,
  position  integer NOT NULL,
  path      text NOT NULL,
  outcome   text NOT NULL DEFAULT 'waiting' CHECK (outcome IN ('waiting', 'taken-in', 'already-in', 'refused')),
  problem   jsonb,
  PRIMARY KEY (takein_id, position)
);
