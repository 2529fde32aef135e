import { constants } from 'node:fs';
import { open, readlink, type FileHandle } from 'node:fs/promises';

/**
 * A file that was opened once and is used by that alone. Names can be made to mean another file between two looks (a
 * link put in their place); an open file stays the one that was checked.
 */
export interface OpenedFile {
  readonly handle: FileHandle;
  /**
   * A path to the open file itself, for this process and its children: whatever happens to its name, this is the file
   * that was checked. It holds no character that means anything to anyone.
   */
  readonly path: string;
  readonly bytes: number;
  readonly modifiedAt: Date;
  readonly close: () => Promise<void>;
}

/** Why a file was not opened. */
export class NotOpened extends Error {
  override name = 'NotOpened';
  readonly reason: 'missing' | 'link' | 'not-a-file' | 'unreadable';

  constructor(reason: NotOpened['reason'], file: string, cause?: unknown) {
    super(`${file}: ${reason}`, { cause });
    this.reason = reason;
  }
}

/**
 * Opens a regular file without following a link in its place.
 *
 * @param file - As it was resolved before.
 * @param isWhole - Whether the whole path has to be the file's real one, no folder on the way being a link by now.
 * @throws NotOpened
 */
export async function openFile(file: string, isWhole: boolean): Promise<OpenedFile> {
  let handle: FileHandle;
  try {
    // Without O_NONBLOCK a pipe in the file's place would be waited for.
    const flags = constants.O_RDONLY | constants.O_NOFOLLOW | constants.O_NONBLOCK;
    handle = await open(/* turbopackIgnore: true */ file, flags);
  } catch (error) {
    throw new NotOpened(reasonOf(error), file, error);
  }
  try {
    const path = `/proc/${process.pid}/fd/${handle.fd}`;
    const facts = await handle.stat();
    if (!facts.isFile()) throw new NotOpened('not-a-file', file);
    if (isWhole && (await readlink(path)) !== file) throw new NotOpened('link', file);
    return {
      handle,
      path,
      bytes: facts.size,
      modifiedAt: facts.mtime,
      close: () => handle.close(),
    };
  } catch (error) {
    await handle.close();
    throw error;
  }
}

/** Works with an opened file, by a path that stays that file's, and closes it in the end. */
export async function withOpened<Result>(file: OpenedFile, work: (path: string) => Promise<Result>): Promise<Result> {
  try {
    return await work(file.path);
  } finally {
    await file.close();
  }
}

function reasonOf(error: unknown): NotOpened['reason'] {
  switch ((error as NodeJS.ErrnoException).code) {
    case 'ELOOP':
      return 'link';
    case 'EACCES':
    case 'EPERM':
      return 'unreadable';
    case 'EISDIR':
    case 'ENXIO':
      return 'not-a-file';
    default:
      return 'missing';
  }
}
