/** Statements about what is kept on the shelf. */

const COLUMNS = 'id, name, notes, tags, starred, body';

export const LIST_SHELF = `
  SELECT ${COLUMNS} FROM shelf WHERE kind = $1 AND removed_at IS NULL ORDER BY position, id`;

export const FIND_ON_SHELF = `SELECT ${COLUMNS} FROM shelf WHERE kind = $1 AND id = $2 AND removed_at IS NULL`;

/** Behind all others of its kind. */
export const PUT_ON_SHELF = `
  INSERT INTO shelf (id, kind, name, notes, tags, starred, body, changed_at, position)
  VALUES ($1, $2, $3, $4, $5, $6, $7, $8,
          (SELECT coalesce(max(position), 0) + 1 FROM shelf WHERE kind = $2))
  RETURNING ${COLUMNS}`;

export const CHANGE_ON_SHELF = `
  UPDATE shelf SET name = $3, notes = $4, tags = $5, starred = $6, body = $7, changed_at = $8
  WHERE kind = $1 AND id = $2 AND removed_at IS NULL
  RETURNING ${COLUMNS}`;

/** Between the one before $3 and $3; behind all where $3 is null. */
export const MOVE_ON_SHELF = `
  UPDATE shelf SET position = (
    SELECT coalesce((coalesce(max(other.position) FILTER (WHERE other.position < target.position), target.position - 1)
                     + target.position) / 2, max(other.position) + 1)
    FROM shelf AS other LEFT JOIN shelf AS target ON target.id = $3 AND target.kind = $1
    WHERE other.kind = $1 AND other.id <> $2 AND other.removed_at IS NULL
    GROUP BY target.position)
  WHERE kind = $1 AND id = $2 AND EXISTS (SELECT 1 FROM shelf WHERE kind = $1 AND id <> $2 AND removed_at IS NULL)`;

export const REMOVE_FROM_SHELF = `
  UPDATE shelf SET removed_at = $3 WHERE kind = $1 AND id = $2 AND removed_at IS NULL RETURNING id`;

export const RESTORE_TO_SHELF = `
  UPDATE shelf SET removed_at = NULL WHERE kind = $1 AND id = $2 RETURNING ${COLUMNS}`;

export const READ_SETTING = `SELECT value FROM setting WHERE name = $1`;

export const WRITE_SETTING = `
  INSERT INTO setting (name, value) VALUES ($1, $2) ON CONFLICT (name) DO UPDATE SET value = excluded.value`;
