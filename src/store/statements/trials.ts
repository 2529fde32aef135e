/** Statements about trials, and what was measured in them. */

export const INSERT_TRIAL = `
  INSERT INTO trial (id, programme_id, recipe, portion, grid, share, pinned, dropped, state, asked_at)
  VALUES ($1, $2, $3, $4, $5, $6, $7, $8, 'waiting', $9)`;

export const FIND_TRIAL = `SELECT * FROM trial WHERE id = $1`;

/** The newest first; $2: as many. */
export const TRIALS_OF = `SELECT * FROM trial WHERE programme_id = $1 ORDER BY asked_at DESC, id LIMIT $2`;

export const BEGIN_TRIAL = `UPDATE trial SET state = 'running' WHERE id = $1 AND state IN ('waiting', 'running')`;

export const CHOOSE_EXCERPTS = `UPDATE trial SET excerpts = $2 WHERE id = $1`;

export const TRIAL_PROGRESS = `UPDATE trial SET fraction = $2, seconds_left = $3, gaps = $4 WHERE id = $1`;

export const END_TRIAL = `
  UPDATE trial SET state = $2, problem = $3, fraction = CASE WHEN $2 = 'done' THEN 1 ELSE fraction END, seconds_left = NULL,
         gaps = coalesce($4, gaps), work_seconds = coalesce($5, work_seconds), finished_at = $6
  WHERE id = $1 AND state IN ('waiting', 'running') RETURNING id`;

export const REQUEUE_TRIAL = `UPDATE trial SET state = 'waiting' WHERE id = $1 AND state = 'running'`;

/** What was measured once stays; the same again says nothing new, but for quality that was not looked at before. */
export const SAVE_MEASURED = `
  INSERT INTO measured_group (source, settings, in_frame, frame_count, bytes, seconds, frames)
  VALUES ($1, $2, $3, $4, $5, $6, $7)
  ON CONFLICT (source, settings, in_frame, frame_count)
  DO UPDATE SET frames = excluded.frames
  WHERE length(coalesce(excluded.frames, '')) > length(coalesce(measured_group.frames, ''))`;

/** Of one source at several settings, separated by commas. */
export const FIND_MEASURED = `
  SELECT settings, in_frame, frame_count, bytes, seconds, frames FROM measured_group
  WHERE source = $1 AND settings = ANY (string_to_array($2, ','))`;

export const SAVE_OUTCOME = `
  INSERT INTO forecast_outcome (rendition_id, codec, foreseen, error, bytes, at) VALUES ($1, $2, $3, $4, $5, $6)
  ON CONFLICT (rendition_id) DO NOTHING`;

/** The newest first. */
export const OUTCOMES_OF = `SELECT foreseen, error, bytes FROM forecast_outcome WHERE codec = $1 ORDER BY at DESC LIMIT 60`;
