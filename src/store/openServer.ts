import pg from 'pg';
import type { Database, Row } from './database.ts';

/** PostgreSQL's type number of 8-byte integers, which the client would hand over as text. */
const INT8 = 20;

/**
 * Connects to a PostgreSQL server.
 *
 * @param url - Connection address, `postgresql://…`.
 */
export function openServer(url: string): Database {
  const pool = new pg.Pool({
    connectionString: url,
    max: 4,
    types: {
      getTypeParser: ((oid: number, format: 'text' | 'binary') =>
        oid === INT8
          ? Number
          : (pg.types.getTypeParser(oid, format as 'text') as unknown)) as typeof pg.types.getTypeParser,
    },
  });
  // An idle connection that breaks is replaced at the next query, which reports what is wrong.
  pool.on('error', () => undefined);
  return {
    kind: 'server',
    query: async <Result extends Row>(text: string, values: readonly unknown[] = []) =>
      (
        await pool.query<Result>(
          text,
          values.map((value) => (value instanceof Uint8Array ? Buffer.from(value) : value)),
        )
      ).rows,
    script: async (text) => {
      const client = await pool.connect();
      try {
        await client.query('BEGIN');
        await client.query(text);
        await client.query('COMMIT');
      } catch (error) {
        await client.query('ROLLBACK');
        throw error;
      } finally {
        client.release();
      }
    },
    close: () => pool.end(),
  };
}
