/** Statements about analyses of programmes. */

/** Asks for an analysis; one that is there already stays. */
export const ASK_ANALYSIS = `
  INSERT INTO analysis (programme_id, state, asked_at)
  SELECT id, 'waiting', $2 FROM programme WHERE id = $1
  ON CONFLICT (programme_id) DO NOTHING`;

/** Whether a programme's analysis is still to be done, and its master there to do it with. */
export const IS_ANALYSIS_OPEN = `
  SELECT 1 FROM analysis JOIN programme ON programme.id = analysis.programme_id
  WHERE programme_id = $1 AND analysis.state IN ('waiting', 'running') AND programme.state = 'ready'
    AND programme.master = 'there' AND programme.hidden_at IS NULL`;

export const BEGIN_ANALYSIS = `UPDATE analysis SET state = 'running' WHERE programme_id = $1`;

/** Back in the line. */
export const PAUSE_ANALYSIS = `UPDATE analysis SET state = 'waiting' WHERE programme_id = $1 AND state = 'running'`;

export const SAVE_STRETCH = `
  INSERT INTO analysis_stretch (programme_id, position, measured, cost_seconds)
  SELECT programme_id, $2, $3, $4 FROM analysis WHERE programme_id = $1
  ON CONFLICT (programme_id, position) DO NOTHING`;

export const LIST_STRETCHES = `
  SELECT position, measured, cost_seconds FROM analysis_stretch WHERE programme_id = $1 ORDER BY position`;

export const COUNT_STRETCHES = `SELECT position FROM analysis_stretch WHERE programme_id = $1 ORDER BY position`;

/** What was measured has been understood; only what it means is kept. */
export const FINISH_ANALYSIS = `
  UPDATE analysis SET state = 'done', findings = $2, series = $3, cost_seconds = $4, problem = NULL WHERE programme_id = $1`;

export const FAIL_ANALYSIS = `UPDATE analysis SET state = 'failed', problem = $2 WHERE programme_id = $1`;

/** What was measured before it failed is kept. */
export const RETRY_ANALYSIS = `
  UPDATE analysis SET state = 'waiting', problem = NULL WHERE programme_id = $1 AND state = 'failed'
  RETURNING programme_id`;

export const DROP_STRETCHES = `DELETE FROM analysis_stretch WHERE programme_id = $1`;

export const DROP_ANALYSIS = `DELETE FROM analysis WHERE programme_id = $1`;

export const FIND_ANALYSIS = `SELECT state, problem, findings, cost_seconds FROM analysis WHERE programme_id = $1`;

/** With all that is as long as the programme. */
export const FIND_WHOLE_FINDINGS = `
  SELECT findings || series AS findings FROM analysis WHERE programme_id = $1 AND findings IS NOT NULL`;

export const FIND_FOUND = `SELECT findings->'scan' AS scan, findings->'loudness' AS loudness, findings->'opaque' AS opaque FROM analysis WHERE programme_id = $1`;

/** Programmes that nobody has asked an analysis for. */
export const PROGRAMMES_NOT_ANALYSED = `
  SELECT id FROM programme
  WHERE state = 'ready' AND hidden_at IS NULL AND NOT EXISTS (SELECT 1 FROM analysis WHERE programme_id = programme.id)
  ORDER BY added_at`;
