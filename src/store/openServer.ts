import pg from 'pg';
import type { Database, Query, Row, SqlValue } from './database.ts';

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
  const queryOn =
    (client: Pick<pg.Pool, 'query'>): Query =>
    async <Result extends Row>(text: string, values: readonly SqlValue[] = []) =>
      (await client.query<Result>(text, values.map(toParameter))).rows;
  const transaction = async <Result>(work: (client: pg.PoolClient) => Promise<Result>): Promise<Result> => {
    const client = await pool.connect();
    try {
      await client.query('BEGIN');
      const result = await work(client);
      await client.query('COMMIT');
      return result;
    } catch (error) {
      await client.query('ROLLBACK');
      throw error;
    } finally {
      client.release();
    }
  };
  return {
    kind: 'server',
    query: queryOn(pool),
    transaction: (work) => transaction((client) => work(queryOn(client))),
    script: async (text) => {
      await transaction((client) => client.query(text));
    },
    copyTo: null,
    close: () => pool.end(),
  };
}

function toParameter(value: SqlValue): unknown {
  return value instanceof Uint8Array ? Buffer.from(value) : value;
}
