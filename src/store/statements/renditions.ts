/** Statements about renditions. */

/** What lists have: nothing that is large. */
const SUMMARY = `
  rendition.id, rendition.programme_id, programme.name AS programme_name, rendition.recipe, rendition.portion,
  rendition.portion_name, rendition.outline, rendition.name, rendition.state, rendition.problem - 'detail' AS problem,
  rendition.queue_order, rendition.queued_at, rendition.started_at, rendition.finished_at, rendition.stage, rendition.pass,
  rendition.passes, rendition.fraction, rendition.fps, rendition.seconds_left, rendition.expected_bytes, rendition.bytes,
  rendition.encode_seconds, rendition.check_seconds, rendition.quality, rendition.fill->>'outcome' AS fill_outcome,
  (SELECT count(*) FROM jsonb_array_elements(rendition.checks) AS one WHERE (one->>'ok')::boolean) AS checks_passed,
  rendition.has_file, rendition.batch_id, rendition.batch_name,
  (SELECT held FROM job WHERE kind = 'rendition' AND subject = rendition.id) AS held`;

/** Everything but the per-frame qualities, which are large. */
const COLUMNS = `
  rendition.id, rendition.programme_id, programme.name AS programme_name, programme.path AS source_path,
  programme.facts AS source_facts, programme.modified_at AS source_modified_at,
  programme.fingerprint AS source_fingerprint,
  rendition.recipe, rendition.portion, rendition.portion_name, rendition.plan, rendition.name, rendition.path, rendition.keep_failed,
  rendition.state, rendition.problem, rendition.queued_at, rendition.started_at,
  rendition.finished_at, rendition.stage, rendition.pass, rendition.passes, rendition.fraction, rendition.fps,
  rendition.seconds_left, rendition.expected_bytes, rendition.bytes, rendition.encode_seconds,
  rendition.check_seconds, rendition.checks, rendition.quality, rendition.fill, rendition.has_file, rendition.outline,
  rendition.queue_order, rendition.fill->>'outcome' AS fill_outcome,
  (SELECT count(*) FROM jsonb_array_elements(rendition.checks) AS one WHERE (one->>'ok')::boolean) AS checks_passed,
  rendition.brief, rendition.batch_id, rendition.batch_name,
  (SELECT held FROM job WHERE kind = 'rendition' AND subject = rendition.id) AS held`;

const FROM = `FROM rendition JOIN programme ON programme.id = rendition.programme_id`;

export const INSERT_RENDITION = `
  INSERT INTO rendition
    (id, programme_id, recipe, portion, plan, name, path, keep_failed, state, queued_at, passes, expected_bytes,
     portion_name, outline, brief, batch_id, batch_name, work)
  VALUES ($1, $2, $3, $4, $5, $6, $7, $8, 'queued', $9, $10, $11, $12, $13, $14, $15, $16, $17)
  ON CONFLICT DO NOTHING
  RETURNING id`;

export const FIND_RENDITION = `
  SELECT ${COLUMNS} ${FROM} WHERE rendition.id = $1 AND programme.hidden_at IS NULL`;

/** Which of them: of programme $1 or all, in one of the states in $2 (separated by commas) or any. */
const CHOSEN = `
  ($1::text IS NULL OR rendition.programme_id = $1) AND programme.hidden_at IS NULL
  AND ($2::text IS NULL OR rendition.state = ANY (string_to_array($2, ',')))`;

/** A page of at most $4, in the order they were queued, after the one that $3 names. */
export const LIST_RENDITIONS = `
  SELECT ${SUMMARY} ${FROM}
  WHERE ${CHOSEN} AND ($3::bigint IS NULL OR rendition.queue_order > $3)
  ORDER BY rendition.queue_order LIMIT $4`;

/** The same from the newest. */
export const LIST_NEWEST_RENDITIONS = `
  SELECT ${SUMMARY} ${FROM}
  WHERE ${CHOSEN} AND ($3::bigint IS NULL OR rendition.queue_order < $3)
  ORDER BY rendition.queue_order DESC LIMIT $4`;

/** What runs and waits, at most $1, in the order it comes to its turn. */
export const LIST_LINE = `
  SELECT ${SUMMARY} ${FROM}
  JOIN (SELECT subject, runner, priority, position FROM job
        WHERE kind = 'rendition' ORDER BY runner IS NULL, priority, position LIMIT $1) AS line ON line.subject = rendition.id
  WHERE programme.hidden_at IS NULL AND rendition.state IN ('planned', 'queued', 'running', 'checking')
  ORDER BY line.runner IS NULL, line.priority, line.position`;

/**
 * What is left to do, by programme and kind: of all that runs and waits and is not held, or of what comes until the batch $1 is done; and how
 * many of those that are meant are held.
 */
export const WORK_LEFT = `
  SELECT rendition.programme_id, rendition.work->'kind' AS kind, coalesce((rendition.work->>'isForeseen')::boolean, false) AS is_foreseen,
         count(*) FILTER (WHERE NOT held AND seconds_left IS NULL) AS renditions,
         count(*) FILTER (WHERE NOT held AND seconds_left IS NULL AND rendition.work IS NULL) AS unkept,
         sum((rendition.work->>'work')::double precision) FILTER (WHERE NOT held AND seconds_left IS NULL) AS work,
         sum((rendition.work->>'masters')::double precision) FILTER (WHERE NOT held AND seconds_left IS NULL) AS masters,
         coalesce(sum(seconds_left) FILTER (WHERE NOT held), 0) AS seconds,
         count(*) FILTER (WHERE held AND ($1::text IS NULL OR rendition.batch_id = $1)) AS paused
  FROM job JOIN rendition ON rendition.id = job.subject
  WHERE job.kind = 'rendition' AND rendition.state IN ('planned', 'queued', 'running', 'checking')
    AND ($1::text IS NULL OR (job.runner IS NULL, job.priority, job.position) <= (
      SELECT own.runner IS NULL, own.priority, own.position
      FROM job AS own JOIN rendition AS last ON last.id = own.subject
      WHERE own.kind = 'rendition' AND last.batch_id = $1
      ORDER BY own.runner IS NULL DESC, own.priority DESC, own.position DESC LIMIT 1))
  GROUP BY 1, 2, 3`;

export const COUNT_RENDITIONS = `
  SELECT rendition.state, count(*) AS count ${FROM} WHERE ${CHOSEN} GROUP BY rendition.state`;

export const FIND_SUMMARY = `
  SELECT ${SUMMARY} ${FROM} WHERE rendition.id = $1 AND programme.hidden_at IS NULL`;

/** Names in a folder, which $1 is with its slash at the end, that renditions have or are going to have. */
export const TAKEN_PATHS = `
  SELECT path FROM rendition
  WHERE starts_with(path, $1) AND state IN ('planned', 'queued', 'running', 'checking', 'done')`;

/** It is begun; what an earlier attempt left to see goes. */
export const BEGIN_RENDITION = `
  UPDATE rendition
  SET state = 'running', started_at = now(), stage = NULL, pass = NULL, fraction = 0, fps = NULL, seconds_left = NULL,
      problem = NULL, checks = '[]', fill = NULL
  WHERE id = $1`;

/** Back in the line for want of something, which is told. */
export const PUT_OFF_RENDITION = `
  UPDATE rendition
  SET state = 'queued', fraction = 0, stage = NULL, pass = NULL, fps = NULL, seconds_left = NULL, problem = $2
  WHERE id = $1 AND state IN ('running', 'checking')`;

/** Back in the line. */
export const REQUEUE_RENDITION = `
  UPDATE rendition
  SET state = 'queued', fraction = 0, stage = NULL, pass = NULL, fps = NULL, seconds_left = NULL
  WHERE id = $1 AND state IN ('running', 'checking')`;

/** What was begun too often and never came to an end is not begun again. */
export const SET_ASIDE = `
  UPDATE rendition
  SET state = 'failed', problem = $2, finished_at = $3, stage = NULL, fps = NULL, seconds_left = NULL
  WHERE id = $1`;

export const REPORT_PROGRESS = `
  UPDATE rendition
  SET state = $2, stage = $3, pass = $4, passes = $5, fraction = $6, fps = $7, seconds_left = $8
  WHERE id = $1`;

/** What will be done is planned again when it is begun, and stays as it is from then on. */
export const SAVE_PLAN = `
  UPDATE rendition SET plan = $2, passes = $3, expected_bytes = $4, outline = $5, work = $6 WHERE id = $1`;

export const FINISH_RENDITION = `
  UPDATE rendition
  SET state = $2, finished_at = $3, bytes = $4, checks = $5, quality = $6, fill = $7, encode_seconds = $8,
      check_seconds = $9, has_file = $10, problem = $11, frames = $12, fraction = $13, path = $14, name = $15,
      beside_share = $16, stage = NULL, fps = NULL, seconds_left = NULL
  WHERE id = $1`;

export const STOP_RENDITION = `
  UPDATE rendition
  SET state = 'stopped', finished_at = $2, stage = NULL, fps = NULL, seconds_left = NULL
  WHERE id = $1 AND state IN ('planned', 'queued', 'running', 'checking')
  RETURNING id`;

export const READ_FRAMES = `SELECT frames FROM rendition WHERE id = $1`;

/** Finished ones of a programme with a picture that was measured, the newest first. */
export const DONE_OF_PROGRAMME = `
  SELECT id, outline, bytes, quality, portion, recipe FROM rendition
  WHERE programme_id = $1 AND state = 'done' AND quality IS NOT NULL ORDER BY finished_at DESC LIMIT 200`;

/** What renditions of a programme came to, at constant quality or in the first encode of a size that was filled; the newest first. */
export const CAME_OUT = `
  SELECT outline->>'codec' AS codec,
         coalesce((fill->'secondPasses'->0->>'bytes')::double precision, bytes::double precision) AS bytes,
         (plan->'budget'->>'soundedBytes')::double precision AS sounded,
         (plan->'budget'->'split'->>'audio')::double precision AS audio,
         (plan->'budget'->'split'->>'container')::double precision AS container
  FROM rendition
  WHERE programme_id = $1 AND state = 'done' AND plan->'budget' ? 'soundedBytes'
  ORDER BY finished_at DESC LIMIT 40`;

/** What was encoded here lately, the newest first: how long it took says how long the next will take. */
export const LATEST_ENCODES = `
  SELECT programme_id, work, CASE WHEN work IS NULL THEN plan END AS plan, bytes, encode_seconds, check_seconds,
         coalesce(beside_share, 0) AS beside_share
  FROM rendition
  WHERE state = 'done' AND encode_seconds > 0
  ORDER BY finished_at DESC LIMIT 200`;
