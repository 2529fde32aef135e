-- One queue for all work. A row is work still to be done; it goes in the same step in which its outcome is written.
-- Clocks may stand still between two orders; a sequence does not.
CREATE SEQUENCE job_position;

CREATE TABLE job (
  id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  kind        text NOT NULL,
  subject     text NOT NULL,
  payload     jsonb NOT NULL,
  -- Smaller comes first; within a priority the smaller position.
  priority    integer NOT NULL,
  position    bigint NOT NULL,
  not_before  timestamptz NOT NULL DEFAULT now(),
  attempt     integer NOT NULL DEFAULT 0,
  -- Attempts that ended without a word.
  lost        integer NOT NULL DEFAULT 0,
  runner      text,
  lease_until timestamptz,
  checkpoint  jsonb,
  UNIQUE (kind, subject)
);

CREATE INDEX job_next ON job (priority, position);

INSERT INTO job (kind, subject, payload, priority, position, lost)
SELECT 'rendition', id, '{}', 30, nextval('job_position'), lost
FROM (SELECT * FROM rendition WHERE state IN ('queued', 'running', 'checking') ORDER BY queue_order) AS waiting;

UPDATE rendition SET state = 'queued', stage = NULL, pass = NULL, fraction = 0 WHERE state IN ('running', 'checking');

INSERT INTO job (kind, subject, payload, priority, position)
SELECT 'analysis', programme_id, '{}', 40, nextval('job_position')
FROM (SELECT * FROM analysis WHERE state IN ('waiting', 'running') ORDER BY asked_at) AS waiting;

UPDATE analysis SET state = 'waiting' WHERE state = 'running';

INSERT INTO job (kind, subject, payload, priority, position)
SELECT 'look', id, '{}', 20, nextval('job_position')
FROM (SELECT * FROM takein WHERE state IN ('searching', 'taking') ORDER BY started_at) AS waiting;

-- Who works on what, and how often it was tried, is the job's.
DROP INDEX rendition_queue;
ALTER TABLE rendition DROP COLUMN attempt, DROP COLUMN runner, DROP COLUMN heartbeat_at, DROP COLUMN lost,
  DROP COLUMN engine_deaths;

-- Why a sounding could not be made, until it is asked for again.
ALTER TABLE sounding ALTER COLUMN points DROP NOT NULL;
ALTER TABLE sounding ADD COLUMN problem jsonb;
