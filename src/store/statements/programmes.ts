/** Statements about programmes; all but what is large: the engine's own report and what the picture spends. */
const COLUMNS = `
  id, path, name, state, problem, facts, modified_at, added_at, fingerprint, master,
  (SELECT findings->'black'->0 FROM analysis WHERE programme_id = programme.id) AS first_black,
  EXISTS (SELECT 1 FROM rendition WHERE rendition.programme_id = programme.id AND rendition.state = 'done') AS is_made`;

export const INSERT_PROGRAMME = `
  INSERT INTO programme (id, path, name, state, facts, modified_at, added_at, fingerprint, spent, raw, frame_times)
  VALUES ($1, $2, $3, 'ready', $4, $5, $6, $7, $8, $9, $10)
  ON CONFLICT (path) WHERE hidden_at IS NULL DO NOTHING
  RETURNING ${COLUMNS}`;

/** A page of at most $3, in the order they came in, after the one that came at $1 and has the id $2. */
export const LIST_PROGRAMMES = `
  SELECT ${COLUMNS} FROM programme
  WHERE hidden_at IS NULL AND ($1::timestamptz IS NULL OR (added_at, id) > ($1, $2))
  ORDER BY added_at, id LIMIT $3`;

/** As much of every programme as tells whether its master is still the file that was looked at. */
export const LIST_MASTERS = `
  SELECT id, state, path, (facts->'bytes')::bigint AS bytes, modified_at, fingerprint, master
  FROM programme WHERE hidden_at IS NULL AND state = 'ready'`;

export const FIND_PROGRAMME = `SELECT ${COLUMNS} FROM programme WHERE id = $1 AND hidden_at IS NULL`;

/** Forgotten or not. */
export const FIND_ANY_PROGRAMME = `SELECT ${COLUMNS} FROM programme WHERE id = $1`;

export const FIND_PROGRAMME_BY_PATH = `SELECT ${COLUMNS} FROM programme WHERE path = $1 AND hidden_at IS NULL`;

/** A file that was forgotten is known again by its size and ends, wherever it is now. */
export const FIND_HIDDEN_BY_FINGERPRINT = `
  SELECT ${COLUMNS} FROM programme
  WHERE fingerprint = $1 AND hidden_at IS NOT NULL
  ORDER BY hidden_at DESC LIMIT 1`;

export const READ_SPENT = `SELECT spent FROM programme WHERE id = $1`;

export const READ_FRAME_TIMES = `SELECT frame_times FROM programme WHERE id = $1`;

export const READ_CUTS = `SELECT cuts FROM programme WHERE id = $1`;

export const SAVE_CUTS = `UPDATE programme SET cuts = $2 WHERE id = $1`;

export const READ_RAW = `SELECT raw FROM programme WHERE id = $1`;

export const UNLOOKED_PROGRAMMES = `SELECT ${COLUMNS} FROM programme WHERE state = 'looking' AND hidden_at IS NULL ORDER BY added_at`;

/** The master was looked at (again), maybe at another place. */
export const SAVE_LOOK = `
  UPDATE programme
  SET path = $2, name = $3, state = 'ready', problem = NULL, facts = $4, modified_at = $5, fingerprint = $6, spent = $7,
      raw = $8, frame_times = $9, cuts = NULL, master = 'there'
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
  UPDATE programme SET hidden_at = $2
  WHERE id = $1 AND hidden_at IS NULL
    AND NOT EXISTS (
      SELECT 1 FROM rendition WHERE programme_id = $1 AND state IN ('planned', 'queued', 'running', 'checking'))
  RETURNING id`;

/** Zero rows back means that its path is another programme's by now. */
export const RESTORE_PROGRAMME = `
  UPDATE programme SET hidden_at = NULL
  WHERE id = $1 AND NOT EXISTS (
    SELECT 1 FROM programme AS other WHERE other.path = programme.path AND other.id <> $1 AND other.hidden_at IS NULL)
  RETURNING ${COLUMNS}`;

/** What would go with each forgotten programme if it were taken away for good. */
export const LIST_HIDDEN = `
  SELECT programme.id, programme.name, programme.path, programme.hidden_at,
         (SELECT count(*) FROM rendition WHERE programme_id = programme.id) AS renditions,
         (SELECT count(*) FROM portion WHERE programme_id = programme.id) AS portions,
         EXISTS (SELECT 1 FROM analysis WHERE programme_id = programme.id AND state = 'done') AS analysed
  FROM programme WHERE hidden_at IS NOT NULL ORDER BY hidden_at DESC, name`;

/** Only what is hidden goes, with everything that was kept of it. */
export const REMOVE_HIDDEN = `DELETE FROM programme WHERE id = $1 AND hidden_at IS NOT NULL RETURNING id`;

export const SAVE_SOUNDING = `
  INSERT INTO sounding (programme_id, codec, width, height, preparation, in_frame, frame_count, points, error, is_rough, measured_at)
  SELECT id, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11 FROM programme WHERE id = $1
  ON CONFLICT (programme_id, codec, width, height, preparation, in_frame, frame_count)
    DO UPDATE SET points = $8, error = $9, is_rough = $10, measured_at = $11, problem = NULL`;

/** Why it could not be measured, until it is asked for again. */
export const FAIL_SOUNDING = `
  INSERT INTO sounding (programme_id, codec, width, height, preparation, in_frame, frame_count, problem, measured_at)
  SELECT id, $2, $3, $4, $5, $6, $7, $8, $9 FROM programme WHERE id = $1
  ON CONFLICT (programme_id, codec, width, height, preparation, in_frame, frame_count)
    DO UPDATE SET problem = $8, measured_at = $9`;

const THAT_SOUNDING = `
  programme_id = $1 AND codec = $2 AND width = $3 AND height = $4 AND preparation = $5 AND in_frame = $6
  AND frame_count = $7`;

export const FIND_SOUNDING_PROBLEM = `SELECT problem FROM sounding WHERE ${THAT_SOUNDING} AND problem IS NOT NULL`;

export const DROP_SOUNDING_PROBLEM = `DELETE FROM sounding WHERE ${THAT_SOUNDING} AND points IS NULL`;

export const FIND_SOUNDING = `SELECT points, error, is_rough, problem IS NOT NULL AS has_failed FROM sounding WHERE ${THAT_SOUNDING} AND points IS NOT NULL`;

/** What was measured of another file says nothing about this one. */
export const DROP_SOUNDINGS = `DELETE FROM sounding WHERE programme_id = $1`;

export const LIST_PATHS = `SELECT id, path FROM programme WHERE hidden_at IS NULL`;
