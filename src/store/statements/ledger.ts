/** Statements about everything that was ever made. */

/** What has ended: in state $1 or any. */
const ENDED = `rendition.state IN ('done', 'failed', 'stopped') AND ($1::text IS NULL OR rendition.state = $1)`;

/** The same, with words that are all to be found, each anywhere in names, recipe, codec and batch. Without words nothing is read for them. */
const FOUND = `
  FROM rendition JOIN programme ON programme.id = rendition.programme_id
  WHERE ${ENDED} AND NOT EXISTS (
    SELECT 1 FROM unnest(string_to_array($2, ' ')) AS word
    WHERE position(word IN rendition.words || ' ' || lower(programme.name)) = 0)`;
const ALL = `FROM rendition WHERE ${ENDED} AND $2 = ''`;

const from = (hasWords: boolean) => (hasWords ? FOUND : ALL);

const ORDERS = {
  newest: 'rendition.finished_at DESC NULLS LAST, rendition.id',
  largest: 'rendition.bytes DESC NULLS LAST, rendition.id',
  smallest: 'rendition.bytes ASC NULLS LAST, rendition.id',
  best: `(rendition.quality->'ssim'->>'mean')::double precision DESC NULLS LAST, rendition.id`,
  worst: `(rendition.quality->'ssim'->>'mean')::double precision ASC NULLS LAST, rendition.id`,
  slowest: 'rendition.encode_seconds DESC NULLS LAST, rendition.id',
} as const;

export type LedgerOrder = keyof typeof ORDERS;

/** A page of at most $4 from the $3rd on: chosen first, so that only what is shown is read whole. */
export const listLedger = (order: LedgerOrder, hasWords: boolean): string => `
  SELECT rendition.id, rendition.programme_id, programme.name AS programme_name, programme.hidden_at IS NOT NULL AS hidden,
         rendition.recipe, rendition.outline, rendition.name, rendition.path, rendition.state,
         rendition.problem->>'message' AS problem, rendition.finished_at, rendition.bytes, rendition.encode_seconds,
         rendition.check_seconds, rendition.quality, rendition.has_file, rendition.batch_id, rendition.batch_name,
         (programme.facts->>'bytes')::bigint AS source_bytes,
         (programme.facts->>'durationSeconds')::double precision AS source_seconds
  FROM (SELECT rendition.id ${from(hasWords)} ORDER BY ${ORDERS[order]} OFFSET $3 LIMIT $4) AS chosen
  JOIN rendition ON rendition.id = chosen.id JOIN programme ON programme.id = rendition.programme_id
  ORDER BY ${ORDERS[order]}`;

export const sumLedger = (hasWords: boolean): string => `
  SELECT count(*) AS count, coalesce(sum(rendition.bytes) FILTER (WHERE rendition.state = 'done'), 0) AS bytes,
         coalesce(sum(rendition.encode_seconds), 0) AS seconds ${from(hasWords)}`;

/** The file is not there any more, or goes by another name. */
export const MOVE_FILE = `UPDATE rendition SET path = $2, name = $3 WHERE id = $1 RETURNING id`;

export const LOSE_FILE = `UPDATE rendition SET has_file = false WHERE id = $1 RETURNING id`;
