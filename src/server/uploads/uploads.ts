import { constants } from 'node:fs';
import { copyFile, link, mkdir, rm, statfs } from 'node:fs/promises';
import path from 'node:path';
import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import { makeSafeName } from '../../core/naming/safeName.ts';
import { numberName } from '../../core/naming/outputName.ts';
import type { Context } from '../context.ts';
import { resolveMediaPath } from '../programmes/mediaFolders.ts';
import { takeIn } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';

/** Left on the disk beside an upload, so that everything else can go on. */
const ROOM_TO_SPARE_BYTES = 100_000_000;

/** Uploads nobody went on with for this long are thrown away. */
const KEPT_MS = 7 * 24 * 3600 * 1000;

/** Takes files that are not on the server's disks, piece by piece (tus 1.0), into a media folder. */
export interface Uploads {
  handle(request: Request): Promise<Response>;
}

export function createUploads(context: Context): Uploads {
  const directory = path.join(context.config.dataFolder, 'uploads');
  const store = new FileStore({ directory, expirationPeriodInMilliseconds: KEPT_MS });
  const server = new Server({
    path: '/api/upload',
    datastore: store,
    relativeLocation: true,
    onUploadCreate: async (_request, upload) => {
      if (!upload.metadata?.['filename']) throw answer(400, 'The upload has no name; send one as “filename”.');
      const folder = await folderOf(context, upload.metadata['folder'] ?? null);
      await requireRoom([directory, folder], upload.size ?? 0);
      return {};
    },
    onUploadFinish: async (_request, upload) => {
      const file = path.join(directory, upload.id);
      const folder = await folderOf(context, upload.metadata?.['folder'] ?? null);
      const target = await moveInto(folder, makeSafeName(upload.metadata?.['filename'] ?? ''), file);
      // Only its bookkeeping is left of it.
      await store.remove(upload.id).catch(() => undefined);
      return { headers: { 'Linstock-Outcome': encodeURIComponent(JSON.stringify(await settle(context, target))) } };
    },
  });
  return {
    handle: async (request) => {
      await mkdir(directory, { recursive: true });
      return server.handleWeb(request);
    },
  };
}

/** What became of a file that arrived: a programme, or the reason why not; the file stays either way. */
async function settle(
  context: Context,
  file: string,
): Promise<{ programmeId?: string; message?: string; path: string }> {
  try {
    return { path: file, programmeId: (await takeIn(context, file)).id };
  } catch (error) {
    if (!isRefusal(error)) context.logger.error({ file, err: error }, 'an upload could not be taken in');
    return { path: file, message: isRefusal(error) ? error.message : 'It arrived, but could not be taken in.' };
  }
}

async function folderOf(context: Context, typed: string | null): Promise<string> {
  const [first] = context.config.mediaFolders;
  if (!first) throw answer(422, 'There is no media folder to upload into; set LINSTOCK_MEDIA.');
  try {
    return await resolveMediaPath(context.config.mediaFolders, typed ?? first);
  } catch (error) {
    throw isRefusal(error) ? answer(error.status, error.message) : error;
  }
}

async function requireRoom(folders: readonly string[], bytes: number): Promise<void> {
  for (const folder of folders) {
    await mkdir(folder, { recursive: true });
    const { bavail, bsize } = await statfs(folder);
    const free = bavail * bsize;
    if (free < bytes + ROOM_TO_SPARE_BYTES) {
      throw answer(
        507,
        `The disk has ${free.toLocaleString('en')} bytes left and this file needs ${bytes.toLocaleString('en')}; free some space first.`,
      );
    }
  }
}

/** Gives a file its name in a folder, with a number when the name is taken: nothing is ever replaced. */
async function moveInto(folder: string, wanted: string, file: string): Promise<string> {
  for (let number = 1; ; number += 1) {
    const target = path.join(folder, number === 1 ? wanted : numberName(wanted, number));
    try {
      // A link is made or refused at once; between two disks only copying is left.
      await link(file, target).catch((error: NodeJS.ErrnoException) => {
        if (!['EXDEV', 'EPERM', 'ENOTSUP'].includes(error.code ?? '')) throw error;
        return copyFile(file, target, constants.COPYFILE_EXCL);
      });
      await rm(file, { force: true });
      return target;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
  }
}

/** The package answers what is thrown with these two fields. */
function answer(status: number, message: string): { status_code: number; body: string } {
  return { status_code: status, body: JSON.stringify({ error: { code: 'upload-refused', message } }) };
}
