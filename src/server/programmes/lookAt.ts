import { stat } from 'node:fs/promises';
import path from 'node:path';
import type { Probed } from '../../engine/engine.ts';
import { isEngineError } from '../../engine/engineError.ts';
import type { Context } from '../context.ts';
import { isRefusalCode, Refusal } from '../refusal.ts';
import { CAPTION_ENDINGS } from './captionFiles.ts';
import { fingerprintFile } from './fingerprint.ts';
import { openMediaFile } from './mediaFolders.ts';

/** A file looked at: what is in it, and by what it is known again. */
export interface Look extends Probed {
  readonly modifiedAt: Date;
  readonly fingerprint: string;
}

/** A header that leads in circles must not hold up a whole folder. */
const LOOK_LIMIT_MS = 10 * 60_000;

/**
 * Looks at a file without decoding it.
 *
 * @throws Refusal with the reason when it is no programme.
 */
export async function lookAt(context: Context, file: string, signal?: AbortSignal): Promise<Look> {
  const limit = AbortSignal.timeout(LOOK_LIMIT_MS);
  const opened = await openMediaFile(file);
  try {
    const probed = await context.engine.probe(opened.path, signal ? AbortSignal.any([signal, limit]) : limit);
    const fingerprint = await fingerprintFile(opened.handle);
    const after = await opened.handle.stat();
    if (opened.bytes !== after.size || opened.modifiedAt.getTime() !== after.mtime.getTime()) {
      throw new Refusal('file-growing', 'This file is still being written; take it in once it is finished.', {
        field: 'path',
      });
    }
    const facts = { ...probed.facts, sidecars: await findSidecars(file) };
    return { ...probed, facts, modifiedAt: after.mtime, fingerprint };
  } catch (error) {
    throw explain(error, limit.aborted);
  } finally {
    await opened.close();
  }
}

/** Caption files beside a master: the same name with another ending. */
async function findSidecars(file: string): Promise<string[]> {
  const { dir, name } = path.parse(file);
  const there = await Promise.all(
    CAPTION_ENDINGS.map(async (ending) => {
      const sidecar = path.join(dir, `${name}${ending}`);
      return (await stat(/* turbopackIgnore: true */ sidecar).catch(() => null))?.isFile()
        ? path.basename(sidecar)
        : null;
    }),
  );
  return there.filter((sidecar) => sidecar !== null);
}

function explain(error: unknown, isTooLong: boolean): unknown {
  if (isTooLong) {
    return new Refusal('file-unreadable', 'Looking at this file took more than ten minutes, so it was given up.', {
      field: 'path',
      cause: error,
    });
  }
  if (isEngineError(error) && isRefusalCode(error.code)) {
    return new Refusal(error.code, error.message, { field: 'path', cause: error });
  }
  const code = (error as NodeJS.ErrnoException).code;
  if (code === 'ESTALE' || code === 'EIO' || code === 'ENOTCONN') {
    return new Refusal('file-not-found', 'This file went away while it was looked at; is its disk still connected?', {
      field: 'path',
      cause: error,
    });
  }
  return error;
}
