import type { OpenedFile } from './openedFile.ts';

/** A file to be answered with; whoever answers closes it. */
export interface FileAnswer {
  readonly file: OpenedFile;
  /** What a download is called. */
  readonly name: string;
  readonly type: string;
}
