/** What lies in the database is of no version this application knows, or damaged. */
export class StoredUnreadable extends Error {
  constructor(what: string, why: string) {
    super(`${what} in the database cannot be read: ${why} It may be of a newer Linstock; start that one.`);
    this.name = 'StoredUnreadable';
  }
}
