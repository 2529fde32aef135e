-- What was measured of groups of pictures stays, whatever becomes of the files: bytes, seconds and quality by frame.
CREATE TABLE measured_group (
  -- The master's fingerprint, and a digest of the complete settings.
  source      text NOT NULL,
  settings    text NOT NULL,
  in_frame    integer NOT NULL,
  frame_count integer NOT NULL,
  bytes       bigint NOT NULL,
  seconds     double precision,
  -- Packed as a rendition's are; null where only bytes are known.
  frames      bytea,
  PRIMARY KEY (source, settings, in_frame, frame_count)
);

CREATE TABLE trial (
  id           text PRIMARY KEY,
  programme_id text NOT NULL REFERENCES programme ON DELETE CASCADE,
  recipe       jsonb NOT NULL,
  portion      jsonb,
  grid         jsonb NOT NULL,
  share        double precision NOT NULL,
  pinned       jsonb NOT NULL,
  dropped      jsonb NOT NULL,
  state        text NOT NULL,
  problem      jsonb,
  -- The groups of pictures it tries, once they are chosen.
  excerpts     jsonb,
  -- Points of the grid that could not be tried, with their reasons.
  gaps         jsonb NOT NULL DEFAULT '[]',
  fraction     double precision NOT NULL DEFAULT 0,
  seconds_left double precision,
  work_seconds double precision,
  asked_at     timestamptz NOT NULL,
  finished_at  timestamptz
);

CREATE INDEX trial_programme ON trial (programme_id, asked_at);

-- What forecasts from trials came to, so that their error bars can be held against it.
CREATE TABLE forecast_outcome (
  rendition_id text PRIMARY KEY,
  codec        text NOT NULL,
  -- The picture's bytes, as foreseen with the standard error of their logarithm, and as they were.
  foreseen     double precision NOT NULL,
  error        double precision NOT NULL,
  bytes        double precision NOT NULL,
  at           timestamptz NOT NULL
);
