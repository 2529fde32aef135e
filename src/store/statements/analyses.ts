/** Statements about analyses of programmes. */

/** Asks for an analysis; one that is there already stays. */
export const ASK_ANALYSIS = `
  INSERT INTO analysis (programme_id, state, asked_at)
  SELECT id, 'waiting', $2 FROM programme WHERE id = $1
  ON CONFLICT (programme_id) DO NOTHING`;

/** The next programme whose analysis is not finished: $1 first, then what was begun, then in the order asked. */
export const NEXT_ANALYSIS = `
  SELECT programme_id FROM analysis
  JOIN programme ON programme.id = analysis.programme_id
  WHERE analysis.state IN ('waiting', 'running') AND programme.state = 'ready' AND programme.master = 'there'
    AND programme.hidden_at IS NULL
  ORDER BY (analysis.programme_id = $1) DESC NULLS LAST, (analysis.state = 'running') DESC, asked_at, programme_id
  LIMIT 1`;

export const BEGIN_ANALYSIS = `UPDATE analysis SET state = 'running' WHERE programme_id = $1`;

export const SAVE_STRETCH = `
  INSERT INTO analysis_stretch (programme_id, position, measured, cost_seconds)
  SELECT programme_id, $2, $3, $4 FROM analysis WHERE programme_id = $1
  ON CONFLICT (programme_id, position) DO NOTHING`;

export const LIST_STRETCHES = `
  SELECT position, measured, cost_seconds FROM analysis_stretch WHERE programme_id = $1 ORDER BY position`;

export const COUNT_STRETCHES = `SELECT position FROM analysis_stretch WHERE programme_id = $1 ORDER BY position`;

/** What was measured has been understood; only what it means is kept. */
export const FINISH_ANALYSIS = `
  UPDATE analysis SET state = 'done', findings = $2, cost_seconds = $3, problem = NULL WHERE programme_id = $1`;

export const FAIL_ANALYSIS = `UPDATE analysis SET state = 'failed', problem = $2 WHERE programme_id = $1`;

/** What was measured before it failed is kept. */
export const RETRY_ANALYSIS = `
  UPDATE analysis SET state = 'waiting', problem = NULL WHERE programme_id = $1 AND state = 'failed'`;

export const DROP_STRETCHES = `DELETE FROM analysis_stretch WHERE programme_id = $1`;

export const DROP_ANALYSIS = `DELETE FROM analysis WHERE programme_id = $1`;

export const FIND_ANALYSIS = `SELECT state, problem, findings, cost_seconds FROM analysis WHERE programme_id = $1`;

export const FIND_SCAN = `SELECT findings->'scan' AS scan FROM analysis WHERE programme_id = $1`;

/** Programmes that nobody has asked an analysis for. */
export const PROGRAMMES_NOT_ANALYSED = `
  SELECT id FROM programme
  WHERE state = 'ready' AND hidden_at IS NULL AND NOT EXISTS (SELECT 1 FROM analysis WHERE programme_id = programme.id)
  ORDER BY added_at`;
