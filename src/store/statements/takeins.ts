/** Statements about taking in many files at once. */

export const INSERT_TAKEIN = `
  INSERT INTO takein (id, paths, subfolders, state, started_at) VALUES ($1, $2, $3, 'searching', $4)`;

/** All in one statement, so that the refused files told one by one, the first $2, are of the same moment as the numbers. */
export const FIND_TAKEIN = `
  SELECT takein.id, takein.paths, takein.subfolders, takein.state, takein.started_at, takein.ended_at,
         count(file.position)::integer AS found,
         (count(*) FILTER (WHERE file.outcome = 'taken-in'))::integer AS taken_in,
         (count(*) FILTER (WHERE file.outcome = 'already-in'))::integer AS already_in,
         (count(*) FILTER (WHERE file.outcome = 'refused'))::integer AS refused,
         (SELECT coalesce(jsonb_agg(problem || jsonb_build_object('path', path) ORDER BY position), '[]')
          FROM (SELECT path, problem, position FROM takein_file
                WHERE takein_id = $1 AND outcome = 'refused' ORDER BY position LIMIT $2) AS first) AS refused_files
  FROM takein LEFT JOIN takein_file AS file ON file.takein_id = takein.id
  WHERE takein.id = $1
  GROUP BY takein.id`;

export const LATEST_TAKEINS = `
  SELECT id FROM takein WHERE dismissed_at IS NULL ORDER BY started_at DESC LIMIT $1`;

export const DISMISS_TAKEIN = `UPDATE takein SET dismissed_at = $2 WHERE id = $1`;

export const CLEAR_FILES = `DELETE FROM takein_file WHERE takein_id = $1`;

/** $2 is a JSON list of {path, problem?}; a file with a problem is refused at once. */
export const ADD_FILES = `
  INSERT INTO takein_file (takein_id, position, path, outcome, problem)
  SELECT $1, ordinality, value->>'path', CASE WHEN value ? 'problem' THEN 'refused' ELSE 'waiting' END, value->'problem'
  FROM jsonb_array_elements($2::jsonb) WITH ORDINALITY`;

export const WAITING_FILES = `
  SELECT position, path FROM takein_file WHERE takein_id = $1 AND outcome = 'waiting' ORDER BY position`;

export const SETTLE_FILE = `
  UPDATE takein_file SET outcome = $3, problem = $4 WHERE takein_id = $1 AND position = $2 AND outcome = 'waiting'`;

export const ENTER_TAKEIN = `
  UPDATE takein SET state = $2, ended_at = $3 WHERE id = $1 AND state IN ('searching', 'taking') RETURNING id`;
