/** Statements about renditions. */

/** What lists have: nothing that is large. */
const SUMMARY = `
  rendition.id, rendition.programme_id, programme.name AS programme_name, rendition.recipe, rendition.portion,
  rendition.portion_name, rendition.outline, rendition.name, rendition.state, rendition.problem - 'detail' AS problem,
  rendition.queue_order, rendition.queued_at, rendition.started_at, rendition.finished_at, rendition.stage, rendition.pass,
  rendition.passes, rendition.fraction, rendition.fps, rendition.seconds_left, rendition.expected_bytes, rendition.bytes,
  rendition.encode_seconds, rendition.check_seconds, rendition.quality, rendition.fill->>'outcome' AS fill_outcome,
  (SELECT count(*) FROM jsonb_array_elements(rendition.checks) AS one WHERE (one->>'ok')::boolean) AS checks_passed,
  rendition.has_file`;

/** Everything but the per-frame qualities, which are large. */
const COLUMNS = `
  rendition.id, rendition.programme_id, programme.name AS programme_name, programme.path AS source_path,
  programme.facts AS source_facts, programme.modified_at AS source_modified_at,
  programme.fingerprint AS source_fingerprint,
  rendition.recipe, rendition.portion, rendition.portion_name, rendition.plan, rendition.name, rendition.path, rendition.keep_failed,
  rendition.state, rendition.problem, rendition.attempt, rendition.runner, rendition.engine_deaths, rendition.queued_at, rendition.started_at,
  rendition.finished_at, rendition.stage, rendition.pass, rendition.passes, rendition.fraction, rendition.fps,
  rendition.seconds_left, rendition.expected_bytes, rendition.bytes, rendition.encode_seconds,
  rendition.check_seconds, rendition.checks, rendition.quality, rendition.fill, rendition.has_file, rendition.outline,
  rendition.queue_order, rendition.fill->>'outcome' AS fill_outcome,
  (SELECT count(*) FROM jsonb_array_elements(rendition.checks) AS one WHERE (one->>'ok')::boolean) AS checks_passed`;

const FROM = `FROM rendition JOIN programme ON programme.id = rendition.programme_id`;

export const INSERT_RENDITION = `
  INSERT INTO rendition
    (id, programme_id, recipe, portion, plan, name, path, keep_failed, state, queued_at, passes, expected_bytes,
     portion_name, outline)
  VALUES ($1, $2, $3, $4, $5, $6, $7, $8, 'queued', $9, $10, $11, $12, $13)
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

export const COUNT_RENDITIONS = `
  SELECT rendition.state, count(*) AS count ${FROM} WHERE ${CHOSEN} GROUP BY rendition.state`;

export const FIND_SUMMARY = `
  SELECT ${SUMMARY} ${FROM} WHERE rendition.id = $1 AND programme.hidden_at IS NULL`;

/** Names in a folder, which $1 is with its slash at the end, that renditions have or are going to have. */
export const TAKEN_PATHS = `
  SELECT path FROM rendition
  WHERE starts_with(path, $1) AND state IN ('planned', 'queued', 'running', 'checking', 'done')`;

/**
 * Takes the next rendition for a runner: the oldest waiting, or one whose runner has not been heard of since $3.
 * The attempt number fences every later write. Work taken over from a runner counts as lost once more.
 */
export const CLAIM_RENDITION = `
  UPDATE rendition
  SET state = 'running', attempt = attempt + 1, runner = $1, heartbeat_at = $2, started_at = $2,
      lost = lost + CASE WHEN state = 'queued' THEN 0 ELSE 1 END,
      stage = NULL, pass = NULL, fraction = 0, fps = NULL, seconds_left = NULL, problem = NULL, checks = '[]', fill = NULL
  WHERE id = (
    SELECT id FROM rendition
    WHERE state = 'queued' OR (state IN ('running', 'checking') AND heartbeat_at < $3)
    ORDER BY queue_order
    LIMIT 1
    FOR UPDATE SKIP LOCKED)
  RETURNING id, attempt`;

/** At start a runner gives back what its last life left unfinished when it died. */
export const REQUEUE_OF_RUNNER = `
  UPDATE rendition SET state = 'queued', runner = NULL, fraction = 0, stage = NULL, pass = NULL, lost = lost + 1
  WHERE state IN ('running', 'checking') AND runner = $1
  RETURNING id`;

/** A server that is stopped in order gives its work back; that is nobody's fault. */
export const GIVE_BACK = `
  UPDATE rendition SET state = 'queued', runner = NULL, fraction = 0, stage = NULL, pass = NULL, fps = NULL, seconds_left = NULL
  WHERE id = $1 AND attempt = $2 AND state IN ('running', 'checking')
  RETURNING id`;

/** An encoder that was killed or ran out of memory is given another try. */
export const TRY_AGAIN = `
  UPDATE rendition
  SET state = 'queued', runner = NULL, fraction = 0, stage = NULL, pass = NULL, fps = NULL, seconds_left = NULL,
      engine_deaths = engine_deaths + 1
  WHERE id = $1 AND attempt = $2 AND state IN ('running', 'checking')
  RETURNING id`;

/** What was begun too often and never came to an end is not begun again. $3: not heard of since. */
export const SET_ASIDE = `
  UPDATE rendition
  SET state = 'failed', problem = $2, finished_at = $4, stage = NULL, fps = NULL, seconds_left = NULL
  WHERE (state = 'queued' AND lost >= $1) OR (state IN ('running', 'checking') AND heartbeat_at < $3 AND lost + 1 >= $1)
  RETURNING id`;

/** Zero rows back means that another attempt owns the rendition, or that it was stopped. */
export const REPORT_PROGRESS = `
  UPDATE rendition
  SET heartbeat_at = $3, state = $4, stage = $5, pass = $6, passes = $7, fraction = $8, fps = $9, seconds_left = $10
  WHERE id = $1 AND attempt = $2 AND state IN ('running', 'checking')
  RETURNING id`;

/** What will be done is planned again when it is begun, and stays as it is from then on. */
export const SAVE_PLAN = `
  UPDATE rendition SET plan = $3, passes = $4, expected_bytes = $5, outline = $6
  WHERE id = $1 AND attempt = $2 AND state IN ('running', 'checking')
  RETURNING id`;

export const FINISH_RENDITION = `
  UPDATE rendition
  SET state = $3, finished_at = $4, bytes = $5, checks = $6, quality = $7, fill = $8, encode_seconds = $9,
      check_seconds = $10, has_file = $11, problem = $12, frames = $13, fraction = $14, path = $15, name = $16, stage = NULL, fps = NULL,
      seconds_left = NULL
  WHERE id = $1 AND attempt = $2 AND state IN ('running', 'checking')
  RETURNING id`;

export const STOP_RENDITION = `
  UPDATE rendition
  SET state = 'stopped', finished_at = $2, stage = NULL, fps = NULL, seconds_left = NULL
  WHERE id = $1 AND state IN ('planned', 'queued', 'running', 'checking')
  RETURNING id`;

export const READ_FRAMES = `SELECT frames FROM rendition WHERE id = $1`;
