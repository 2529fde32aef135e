/** Statements about jobs. The database's clock counts, so that processes on several machines agree. */

/** $5: what was asked for last comes first, also when it is asked for again. */
export const ENQUEUE_JOB = `
  INSERT INTO job (kind, subject, payload, priority, position)
  VALUES ($1, $2, $3, $4, nextval('job_position') * CASE WHEN $5 THEN -1 ELSE 1 END)
  ON CONFLICT (kind, subject) DO UPDATE SET position = excluded.position WHERE $5 AND job.runner IS NULL`;

/** Of a kind and a priority, only the $2 that come first are left waiting. */
export const TRIM_JOBS = `
  DELETE FROM job WHERE kind = $1 AND priority = $3 AND runner IS NULL AND id NOT IN (
    SELECT id FROM job WHERE kind = $1 AND priority = $3 AND runner IS NULL ORDER BY position, id LIMIT $2)`;

/**
 * Takes the next job of the kinds in $3 (separated by commas) for a runner and $2 milliseconds: one that waits, or one
 * whose runner let its lease run out; none of a lower priority than $4. The attempt number fences every later write.
 */
export const CLAIM_JOB = `
  UPDATE job
  SET attempt = attempt + 1, runner = $1, lease_until = now() + $2 * interval '1 millisecond',
      lost = lost + CASE WHEN runner IS NULL THEN 0 ELSE 1 END
  WHERE id = (
    SELECT id FROM job
    WHERE kind = ANY (string_to_array($3, ',')) AND not held AND priority <= $4 AND not_before <= now() AND (runner IS NULL OR lease_until < now())
    ORDER BY priority, position, id
    LIMIT 1
    FOR UPDATE SKIP LOCKED)
  RETURNING id, kind, subject, payload, attempt, lost, checkpoint`;

/** Zero rows back means that the job was withdrawn, or that another attempt owns it. */
export const HOLD_JOB = `
  UPDATE job SET lease_until = now() + $3 * interval '1 millisecond' WHERE id = $1 AND attempt = $2 RETURNING id`;

/** The same, and writes nothing else: the fence of a statement in the same transaction. */
export const LOCK_JOB = `SELECT id FROM job WHERE id = $1 AND attempt = $2 FOR UPDATE`;

/** Its outcome is written in the same transaction. Zero rows back means that it is not ours. */
export const SETTLE_JOB = `DELETE FROM job WHERE id = $1 AND attempt = $2 RETURNING id`;

/** Back in the line, with what the next attempt has to know, and not before so many seconds from now. */
export const RETRY_JOB = `
  UPDATE job SET runner = NULL, lease_until = NULL, checkpoint = $3, not_before = now() + $4 * interval '1 second' WHERE id = $1 AND attempt = $2 RETURNING id`;

/** A server that is stopped in order gives its work back; that is nobody's fault. */
export const RELEASE_JOB = `
  UPDATE job SET runner = NULL, lease_until = NULL WHERE id = $1 AND attempt = $2 RETURNING id`;

/**
 * At start a runner gives back what its last life left unfinished when it died. What was lost three times goes behind all others of its
 * priority, and again after each three: whatever ends the server, the rest is not kept waiting by it, nor used up by the same kills.
 */
export const RELEASE_JOBS_OF = `
  UPDATE job SET runner = NULL, lease_until = NULL, lost = lost + 1,
                 position = CASE WHEN (lost + 1) % 3 = 0 THEN nextval('job_position') ELSE position END
  WHERE runner = $1 RETURNING kind, subject`;

export const WITHDRAW_JOB = `DELETE FROM job WHERE kind = $1 AND subject = $2 RETURNING id`;

/** Moves what waits to the head of a priority. */
export const PREFER_JOB = `
  UPDATE job SET priority = $3, position = -nextval('job_position')
  WHERE kind = $1 AND subject = $2 AND runner IS NULL`;

/** Where a job stands: whether it is being done, and how many of its kind come before it. */
export const FIND_STANDING = `
  SELECT runner IS NOT NULL AND lease_until >= now() AS is_underway,
         (SELECT count(*) FROM job AS other
          WHERE other.kind = job.kind AND other.id <> job.id
            AND (other.runner IS NOT NULL OR (other.priority, other.position) < (job.priority, job.position))) AS ahead
  FROM job WHERE kind = $1 AND subject = $2`;

/** Not begun, or frozen where it is; or let go on, and at once where it was put off. */
export const SET_HELD = `
  UPDATE job SET held = $3, not_before = CASE WHEN $3 THEN not_before ELSE now() END WHERE kind = $1 AND subject = $2`;

export const HELD_JOBS = `SELECT subject FROM job WHERE kind = $1 AND held`;

/** What waits of a kind, in the order it comes to its turn. */
export const WAITING_JOBS = `
  SELECT id, subject, priority, position FROM job WHERE kind = $1 AND runner IS NULL ORDER BY priority, position, id`;

/** $1: ids in their new order; $2 and $3: what priority and position each gets. Lists separated by commas. */
export const REORDER_JOBS = `
  UPDATE job SET priority = given.priority, position = given.position
  FROM (SELECT unnest(string_to_array($1, ','))::bigint AS id, unnest(string_to_array($2, ','))::integer AS priority,
               unnest(string_to_array($3, ','))::bigint AS position) AS given
  WHERE job.id = given.id AND job.runner IS NULL`;
