-- Many at once: what was asked for, row by row, and what became of it.
CREATE TABLE batch (
  id       text PRIMARY KEY,
  name     text NOT NULL,
  asked_at timestamptz NOT NULL,
  -- Seconds of work foreseen when it was asked for.
  promised_seconds double precision
);

CREATE TABLE batch_row (
  batch_id       text NOT NULL REFERENCES batch ON DELETE CASCADE,
  number         integer NOT NULL,
  programme_id   text NOT NULL,
  programme_name text NOT NULL,
  recipe         jsonb NOT NULL,
  portion        jsonb,
  brief          jsonb,
  -- What was made of it: the newest try.
  rendition_id   text,
  -- Why nothing was made of it.
  reason         jsonb,
  PRIMARY KEY (batch_id, number)
);

CREATE INDEX batch_row_rendition ON batch_row (rendition_id);

-- What the receiver asks for, and which batch a rendition is of.
ALTER TABLE rendition ADD COLUMN brief jsonb, ADD COLUMN batch_id text, ADD COLUMN batch_name text;
CREATE INDEX rendition_batch ON rendition (batch_id);

-- Not begun, or frozen where it is, until someone lets it go on.
ALTER TABLE job ADD COLUMN held boolean NOT NULL DEFAULT false;
