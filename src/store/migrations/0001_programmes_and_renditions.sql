CREATE TABLE programme (
  id          text PRIMARY KEY,
  path        text NOT NULL UNIQUE,
  name        text NOT NULL,
  state       text NOT NULL CHECK (state IN ('looking', 'ready', 'failed')),
  problem     jsonb,
  facts       jsonb,
  modified_at timestamptz NOT NULL,
  added_at    timestamptz NOT NULL
);

CREATE TABLE rendition (
  id             text PRIMARY KEY,
  programme_id   text NOT NULL REFERENCES programme (id) ON DELETE CASCADE,
  recipe         jsonb NOT NULL,
  portion        jsonb,
  plan           jsonb NOT NULL,
  name           text NOT NULL,
  path           text NOT NULL,
  keep_failed    boolean NOT NULL,
  state          text NOT NULL
                 CHECK (state IN ('planned', 'queued', 'running', 'checking', 'done', 'failed', 'stopped')),
  problem        jsonb,
  attempt        integer NOT NULL DEFAULT 0,
  runner         text,
  heartbeat_at   timestamptz,
  queued_at      timestamptz NOT NULL,
  queue_order    bigint GENERATED ALWAYS AS IDENTITY,
  started_at     timestamptz,
  finished_at    timestamptz,
  stage          text,
  pass           integer,
  passes         integer NOT NULL,
  fraction       double precision NOT NULL DEFAULT 0,
  fps            double precision,
  seconds_left   double precision,
  expected_bytes bigint,
  bytes          bigint,
  encode_seconds double precision,
  check_seconds  double precision,
  checks         jsonb NOT NULL DEFAULT '[]',
  quality        jsonb,
  fill           jsonb,
  has_file       boolean NOT NULL DEFAULT false,
  frames         bytea
);

CREATE INDEX rendition_queue ON rendition (queue_order) WHERE state IN ('queued', 'running', 'checking');
CREATE INDEX rendition_of_programme ON rendition (programme_id);
-- Two renditions on their way may not aim at one file.
CREATE UNIQUE INDEX rendition_path ON rendition (path) WHERE state IN ('planned', 'queued', 'running', 'checking', 'done');

CREATE TABLE sounding (
  programme_id text NOT NULL REFERENCES programme (id) ON DELETE CASCADE,
  codec        text NOT NULL,
  width        integer NOT NULL,
  height       integer NOT NULL,
  points       jsonb NOT NULL,
  measured_at  timestamptz NOT NULL,
  PRIMARY KEY (programme_id, codec, width, height)
);
