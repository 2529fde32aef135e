import type { Query } from '../../src/store/database.ts';

/** As many as a year of nights leaves, and as a night begins with. */
export const MADE = 10_000;
export const WAITING = 2000;

/** Fills the ledger and the queue with copies of one rendition. */
export async function copyRendition(
  query: Query,
  id: string,
  { made, waiting }: { readonly made: number; readonly waiting: number },
): Promise<void> {
  const columns = await columnsOf(query, 'rendition', ['id', 'path', 'name', 'state', 'queue_order', 'frames']);
  const copy = (state: string, count: number) =>
    query(
      `INSERT INTO rendition (id, path, name, state, ${columns.join(', ')})
       SELECT '${state}' || n, path || '${state}' || n, n || ' ' || name, '${state}', ${columns.join(', ')}
       FROM rendition, generate_series(1, ${count}) AS n WHERE id = $1`,
      [id],
    );
  await copy('done', made);
  await copy('queued', waiting);
  await query(
    `INSERT INTO job (kind, subject, payload, priority, position)
     SELECT 'rendition', id, '{}', 30, nextval('job_position') FROM rendition WHERE state = 'queued'`,
  );
}

/** The columns of a table that are copied as they are, all but those that are given anew. */
export async function columnsOf(query: Query, table: string, without: readonly string[]): Promise<string[]> {
  const columns = await query<{ column_name: string }>(
    `SELECT column_name FROM information_schema.columns WHERE table_name = $1 AND is_generated = 'NEVER'`,
    [table],
  );
  return columns.map(({ column_name }) => column_name).filter((column) => !without.includes(column));
}
