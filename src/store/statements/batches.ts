/** Statements about batches. */

export const INSERT_BATCH = `INSERT INTO batch (id, name, asked_at, promised_seconds) VALUES ($1, $2, $3, $4)`;

/** All rows at once, from a list of objects. */
export const INSERT_BATCH_ROWS = `
  INSERT INTO batch_row (batch_id, number, programme_id, programme_name, recipe, portion, brief, reason)
  SELECT $1, (one->>'number')::integer, one->>'programmeId', one->>'programmeName', one->'recipe',
         nullif(one->'portion', 'null'), nullif(one->'brief', 'null'), nullif(one->'reason', 'null')
  FROM jsonb_array_elements($2::jsonb) AS one`;

export const FIND_BATCH = `SELECT id, name, asked_at, promised_seconds FROM batch WHERE id = $1`;

/** The newest first. */
export const LIST_BATCHES = `
  SELECT batch.id, batch.name, batch.asked_at, count(*) AS asked,
         count(*) FILTER (WHERE rendition.state = 'done') AS made,
         count(*) FILTER (WHERE rendition.state = 'failed') AS failed,
         count(*) FILTER (WHERE rendition.state = 'stopped') AS stopped,
         count(*) FILTER (WHERE rendition.id IS NULL AND batch_row.reason IS NOT NULL) AS left_out
  FROM batch JOIN batch_row ON batch_row.batch_id = batch.id
  LEFT JOIN rendition ON rendition.id = batch_row.rendition_id
  GROUP BY batch.id ORDER BY batch.asked_at DESC, batch.id LIMIT $1`;

export const LIST_BATCH_ROWS = `
  SELECT batch_row.number, batch_row.programme_id, batch_row.programme_name, batch_row.recipe, batch_row.rendition_id,
         batch_row.reason, rendition.state, rendition.problem - 'detail' AS problem, rendition.name, rendition.path,
         rendition.bytes, rendition.expected_bytes, rendition.quality, rendition.outline, rendition.encode_seconds,
         rendition.check_seconds, rendition.fraction, rendition.finished_at, rendition.has_file,
         (SELECT held FROM job WHERE kind = 'rendition' AND subject = rendition.id) AS held,
         (programme.facts->>'bytes')::bigint AS source_bytes,
         (programme.facts->>'durationSeconds')::double precision AS source_seconds
  FROM batch_row
  LEFT JOIN rendition ON rendition.id = batch_row.rendition_id
  LEFT JOIN programme ON programme.id = batch_row.programme_id
  WHERE batch_row.batch_id = $1 ORDER BY batch_row.number`;

/** The next row that nothing was ordered of yet. */
export const NEXT_BATCH_ROW = `
  SELECT number, programme_id, recipe, portion, brief FROM batch_row
  WHERE batch_id = $1 AND rendition_id IS NULL AND reason IS NULL ORDER BY number LIMIT 1`;

export const ORDER_BATCH_ROW = `UPDATE batch_row SET rendition_id = $3 WHERE batch_id = $1 AND number = $2`;

export const REFUSE_BATCH_ROW = `UPDATE batch_row SET reason = $3 WHERE batch_id = $1 AND number = $2`;

/** Every row that nothing was ordered of yet. */
export const REFUSE_REST_OF_BATCH = `
  UPDATE batch_row SET reason = $2 WHERE batch_id = $1 AND rendition_id IS NULL AND reason IS NULL`;

/** Renditions of a batch that wait or run, the last in the line first. */
export const UNDERWAY_OF_BATCH = `
  SELECT rendition.id FROM batch_row
  JOIN rendition ON rendition.id = batch_row.rendition_id
  LEFT JOIN job ON job.kind = 'rendition' AND job.subject = rendition.id
  WHERE batch_row.batch_id = $1 AND rendition.state IN ('planned', 'queued', 'running', 'checking')
  ORDER BY job.runner IS NOT NULL, job.priority DESC, job.position DESC`;

/**
 * What failed, was stopped or could not be is asked for once more; $2 is the code of what someone left out, which stays so.
 * With $3 that row alone, whyever it is not there.
 */
export const REOPEN_BATCH_ROWS = `
  UPDATE batch_row SET rendition_id = NULL, reason = NULL
  WHERE batch_id = $1 AND ($3::integer IS NULL OR number = $3) AND (
    (rendition_id IS NULL AND (reason->>'code' IS DISTINCT FROM $2 OR number = $3))
    OR rendition_id IN (SELECT id FROM rendition WHERE batch_id = $1 AND state IN ('failed', 'stopped')))
  RETURNING number`;

/** A rendition that is made once more stands in its place. */
export const REPLACE_IN_BATCH = `UPDATE batch_row SET rendition_id = $2, reason = NULL WHERE rendition_id = $1`;
