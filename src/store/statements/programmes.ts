/** Statements about programmes. */

export const INSERT_PROGRAMME = `
  INSERT INTO programme (id, path, name, state, facts, modified_at, added_at)
  VALUES ($1, $2, $3, 'ready', $4, $5, $6)
  ON CONFLICT (path) DO NOTHING
  RETURNING *`;

export const LIST_PROGRAMMES = `SELECT * FROM programme ORDER BY added_at, name`;

export const FIND_PROGRAMME = `SELECT * FROM programme WHERE id = $1`;

export const FIND_PROGRAMME_BY_PATH = `SELECT * FROM programme WHERE path = $1`;

/** Nothing is forgotten while one of its renditions is on its way. */
export const FORGET_PROGRAMME = `
  DELETE FROM programme
  WHERE id = $1
    AND NOT EXISTS (
      SELECT 1 FROM rendition WHERE programme_id = $1 AND state IN ('planned', 'queued', 'running', 'checking'))
  RETURNING id`;

export const SAVE_SOUNDING = `
  INSERT INTO sounding (programme_id, codec, width, height, points, measured_at)
  SELECT id, $2, $3, $4, $5, $6 FROM programme WHERE id = $1
  ON CONFLICT (programme_id, codec, width, height) DO UPDATE SET points = $5, measured_at = $6`;

export const FIND_SOUNDING = `
  SELECT points FROM sounding WHERE programme_id = $1 AND codec = $2 AND width = $3 AND height = $4`;
