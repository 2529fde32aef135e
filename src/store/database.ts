export type SqlValue = string | number | boolean | Date | Uint8Array | null;
export type Row = Record<string, unknown>;

/** What the application needs of PostgreSQL, embedded or served. */
export interface Database {
  readonly kind: 'embedded' | 'server';
  /**
   * Runs one statement.
   *
   * @param text - With $1, $2 … for every value.
   * @returns The rows; whole numbers of any width as numbers, times as Date, jsonb parsed.
   */
  query<Result extends Row = Row>(text: string, values?: readonly SqlValue[]): Promise<Result[]>;
  /** Runs several statements without values as one unit; nothing stays of it when one fails. */
  script(text: string): Promise<void>;
  close(): Promise<void>;
}
