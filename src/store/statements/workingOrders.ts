/** Statements about the order line of a programme as it was left. */

export const FIND_WORKING_ORDER = `SELECT recipe, brief_id FROM working_order WHERE programme_id = $1`;

export const KEEP_WORKING_ORDER = `
  INSERT INTO working_order (programme_id, recipe, brief_id, changed_at)
  SELECT id, $2, $3, $4 FROM programme WHERE id = $1
  ON CONFLICT (programme_id) DO UPDATE SET recipe = $2, brief_id = $3, changed_at = $4`;
