import type { Query, Row } from '../../store/database.ts';
import type { Context } from '../context.ts';

/**
 * The same context, in which whatever is asked of the database a second time is known: for work that only reads, and asks of
 * each programme as often as files are made of it. It is not to outlast that work.
 */
export function remembering(context: Context): Context {
  const known = new Map<string, Promise<Row[]>>();
  const query = ((text, values = []) => {
    const key = JSON.stringify([text, values]);
    const answer = known.get(key) ?? context.database.query(text, values);
    known.set(key, answer);
    return answer;
  }) as Query;
  return { ...context, database: { ...context.database, query } };
}
