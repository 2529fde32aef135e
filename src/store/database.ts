export type SqlValue = string | number | boolean | Date | Uint8Array | null;
export type Row = Record<string, unknown>;

/**
 * Runs one statement.
 *
 * @param text - With $1, $2 … for every value.
 * @returns The rows; whole numbers of any width as numbers, times as Date, jsonb parsed.
 */
export type Query = <Result extends Row = Row>(text: string, values?: readonly SqlValue[]) => Promise<Result[]>;

/** What the application needs of PostgreSQL, embedded or served. */
export interface Database {
  readonly kind: 'embedded' | 'server';
  readonly query: Query;
  /** Does several statements as one unit; nothing stays of it when one fails, or the work between them does. */
  transaction<Result>(work: (query: Query) => Promise<Result>): Promise<Result>;
  /** Runs several statements without values as one unit; nothing stays of it when one fails. */
  script(text: string): Promise<void>;
  /**
   * Hears what this process and others on the same database are told on a channel.
   *
   * @returns A function that ends it.
   */
  listen(channel: string, hear: (text: string) => void): Promise<() => Promise<void>>;
  /** Tells everyone who listens on a channel; at most 7,500 bytes. */
  notify(channel: string, text: string): Promise<void>;
  /** Copies everything to a folder of files, which can be put in the place of the database's own; null on a server. */
  readonly copyTo: ((folder: string) => Promise<void>) | null;
  close(): Promise<void>;
}
