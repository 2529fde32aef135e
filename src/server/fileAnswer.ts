/** A file to be answered with. */
export interface FileAnswer {
  readonly path: string;
  readonly type: string;
  /** Said when the file is not there. */
  readonly missing: string;
}
