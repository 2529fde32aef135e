import { execFile } from 'node:child_process';
import { open, rm } from 'node:fs/promises';
import { promisify } from 'node:util';

/** A named pipe, through which bare pictures come without passing the thread that answers requests. */
export interface PicturePipe {
  readonly file: string;
  /** From then on it ends where its writer does. */
  close(): Promise<void>;
}

/**
 * Makes a named pipe that can be opened at both ends without waiting for the other.
 *
 * @param file - Where; what is there from an earlier attempt goes.
 */
export async function openPicturePipe(file: string): Promise<PicturePipe> {
  await rm(file, { force: true });
  await promisify(execFile)('mkfifo', [file]);
  const held = await open(file, 'r+');
  return {
    file,
    close: async () => {
      await held.close();
      await rm(file, { force: true });
    },
  };
}
