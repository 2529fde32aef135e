/** Statements about programmes; all but what is large: the engine's own report and what the picture spends. */
const COLUMNS = `
  id, path, name, state, problem, facts, modified_at, added_at, fingerprint, master`;

export const INSERT_PROGRAMME = `
  INSERT INTO programme (id, path, name, state, facts, modified_at, added_at, fingerprint, spent, raw, frame_times)
  VALUES ($1, $2, $3, 'ready', $4, $5, $6, $7, $8, $9, $10)
  ON CONFLICT (path) DO NOTHING
  RETURNING ${COLUMNS}`;

export const LIST_PROGRAMMES = `SELECT ${COLUMNS} FROM programme ORDER BY added_at, name`;

export const FIND_PROGRAMME = `SELECT ${COLUMNS} FROM programme WHERE id = $1`;

export const FIND_PROGRAMME_BY_PATH = `SELECT ${COLUMNS} FROM programme WHERE path = $1`;

export const READ_SPENT = `SELECT spent FROM programme WHERE id = $1`;

export const READ_FRAME_TIMES = `SELECT frame_times FROM programme WHERE id = $1`;

export const READ_RAW = `SELECT raw FROM programme WHERE id = $1`;

export const UNLOOKED_PROGRAMMES = `SELECT ${COLUMNS} FROM programme WHERE state = 'looking' ORDER BY added_at`;

/** The master was looked at (again), maybe at another place. */
export const SAVE_LOOK = `
  UPDATE programme
  SET path = $2, name = $3, state = 'ready', problem = NULL, facts = $4, modified_at = $5, fingerprint = $6, spent = $7,
      raw = $8, frame_times = $9, master = 'there'
  WHERE id = $1
  RETURNING ${COLUMNS}`;

export const FAIL_LOOK = `
  UPDATE programme SET state = 'failed', problem = $2 WHERE id = $1 RETURNING ${COLUMNS}`;

/** The same file under another name or with another time. */
export const MOVE_MASTER = `
  UPDATE programme SET path = $2, name = $3, modified_at = $4, master = 'there' WHERE id = $1 RETURNING ${COLUMNS}`;

/** The file was touched, and its content is the same. */
export const NOTE_TOUCH = `UPDATE programme SET modified_at = $2 WHERE id = $1`;

export const MARK_MASTER = `
  UPDATE programme SET master = $2 WHERE id = $1 AND master <> $2 RETURNING ${COLUMNS}`;

/** Nothing is forgotten while one of its renditions is on its way. */
export const FORGET_PROGRAMME = `
  DELETE FROM programme
  WHERE id = $1
    AND NOT EXISTS (
      SELECT 1 FROM rendition WHERE programme_id = $1 AND state IN ('planned', 'queued', 'running', 'checking'))
  RETURNING id`;

export const SAVE_SOUNDING = `
  INSERT INTO sounding (programme_id, codec, width, height, preparation, in_frame, frame_count, points, measured_at)
  SELECT id, $2, $3, $4, $5, $6, $7, $8, $9 FROM programme WHERE id = $1
  ON CONFLICT (programme_id, codec, width, height, preparation, in_frame, frame_count)
    DO UPDATE SET points = $8, measured_at = $9`;

export const FIND_SOUNDING = `
  SELECT points FROM sounding
  WHERE programme_id = $1 AND codec = $2 AND width = $3 AND height = $4 AND preparation = $5
    AND in_frame = $6 AND frame_count = $7`;

/** What was measured of another file says nothing about this one. */
export const DROP_SOUNDINGS = `DELETE FROM sounding WHERE programme_id = $1`;

export const LIST_PATHS = `SELECT path FROM programme`;
