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
    listen: (channel, hear) => listenOn(url, channel, hear),
    notify: async (channel, text) => {
      await pool.query('SELECT pg_notify($1, $2)', [channel, text]);
    },
    copyTo: null,
    close: () => pool.end(),
  };
}

/** A line that broke is opened again after this. */
const LISTEN_AGAIN_MS = 1000;

/** A line of its own, since a listener must not go back into the pool; opened again whenever it breaks. */
async function listenOn(url: string, channel: string, hear: (text: string) => void): Promise<() => Promise<void>> {
  let isWanted = true;
  let client: pg.Client | null = null;
  let again: NodeJS.Timeout | undefined;
  const open = async () => {
    const line = new pg.Client({ connectionString: url });
    client = line;
    line.on('notification', ({ payload = '' }) => hear(payload));
    line.on('error', () => undefined);
    line.on('end', () => {
      if (isWanted) again = setTimeout(() => void open().catch(() => undefined), LISTEN_AGAIN_MS);
    });
    await line.connect();
    // A channel is a name, not a value, and these are our own.
    await line.query(`LISTEN ${pg.escapeIdentifier(channel)}`);
  };
  await open();
  return async () => {
    isWanted = false;
    clearTimeout(again);
    await client?.end();
  };
}

function toParameter(value: SqlValue): unknown {
  return value instanceof Uint8Array ? Buffer.from(value) : value;
}
