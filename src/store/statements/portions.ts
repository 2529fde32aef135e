/** Statements about portions of programmes; a programme without any is taken whole. */

export const LIST_PORTIONS = `
  SELECT id, name, in_frame, out_frame FROM portion WHERE programme_id = $1 ORDER BY position`;

/**
 * Replaces all portions of a programme at once.
 *
 * $2 is a JSON list of {id, name, inFrame, outFrame}.
 */
export const REPLACE_PORTIONS = `
  WITH gone AS (DELETE FROM portion WHERE programme_id = $1 AND NOT (id IN (SELECT value->>'id' FROM jsonb_array_elements($2::jsonb)))),
       wanted AS (
         SELECT value->>'id' AS id, ordinality AS position, value->>'name' AS name,
                (value->>'inFrame')::integer AS in_frame, (value->>'outFrame')::integer AS out_frame
         FROM jsonb_array_elements($2::jsonb) WITH ORDINALITY)
  INSERT INTO portion (id, programme_id, position, name, in_frame, out_frame)
  SELECT id, $1, position, name, in_frame, out_frame FROM wanted
  ON CONFLICT (id) DO UPDATE
    SET position = excluded.position, name = excluded.name, in_frame = excluded.in_frame, out_frame = excluded.out_frame
    WHERE portion.programme_id = excluded.programme_id
  RETURNING id`;
