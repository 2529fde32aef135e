import { constants } from 'node:fs';
import { copyFile, link, mkdir, readdir, readFile, rm, stat, statfs } from 'node:fs/promises';
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

/** Uploads nobody went on with for this long are thrown away, and what belongs to them. */
const KEPT_MS = 24 * 3600 * 1000;

/** They are looked for at the start and then this often. */
const TIDY_EVERY_MS = 24 * 3600 * 1000;

/** Takes files that are not on the server's disks, piece by piece (tus 1.0), into a media folder. */
export interface Uploads {
  handle(request: Request): Promise<Response>;
  stop(): void;
}

export function createUploads(context: Context): Uploads {
  const directory = path.join(context.config.dataFolder, 'uploads');
  const store = new FileStore({ directory });
  const server = new Server({
    path: '/api/upload',
    datastore: store,
    relativeLocation: true,
    // Of an upload that does not say how long it is, no more is taken than there is room for; 0 sets no limit.
    maxSize: async (request, id) => {
      const known = id === null || request.method === 'POST' ? null : await store.getUpload(id).catch(() => null);
      const isDeferred = known ? known.size === undefined : request.headers.has('upload-defer-length');
      if (!isDeferred) return 0;
      return (known?.offset ?? 0) + Math.max(1, await roomIn(directory));
    },
    onUploadCreate: async (_request, upload) => {
      if (!upload.metadata?.['filename']) throw answer(400, 'The upload has no name; send one as “filename”.');
      if (upload.size === 0) throw answer(422, 'This file is empty (0 bytes); copy or export it again.');
      const folder = await folderOf(context, upload.metadata['folder'] ?? null);
      const promised = await promisedBytes(directory);
      await requireRoom([directory, folder], (upload.size ?? 0) + promised);
      return {};
    },
    onUploadFinish: async (_request, upload) => {
      const file = path.join(directory, upload.id);
      try {
        const folder = await folderOf(context, upload.metadata?.['folder'] ?? null);
        const target = await moveInto(folder, makeSafeName(upload.metadata?.['filename'] ?? ''), file);
        const outcome = encodeURIComponent(JSON.stringify(await settle(context, target)));
        return { headers: { 'Linstock-Outcome': outcome } };
      } finally {
        // Nothing is left of it here, nor of what was noted of it: the package removes the note only with the file.
        await Promise.all([file, `${file}.json`].map((one) => rm(one, { force: true })));
      }
    },
  });
  const tidy = () => {
    tidyUp(directory, context.now().getTime() - KEPT_MS).catch((error: unknown) =>
      context.logger.warn({ err: error }, 'old uploads could not be thrown away'),
    );
  };
  const timer = setInterval(tidy, TIDY_EVERY_MS);
  timer.unref();
  tidy();
  return {
    handle: async (request) => {
      await mkdir(directory, { recursive: true });
      return server.handleWeb(request);
    },
    stop: () => clearInterval(timer),
  };
}

/** Everything that nobody has written to since: halves of files, and what the protocol noted of them. */
async function tidyUp(directory: string, beforeMs: number): Promise<void> {
  for (const name of await readdir(directory).catch(() => [])) {
    const file = path.join(directory, name);
    const facts = await stat(file).catch(() => null);
    if (!facts || facts.mtimeMs >= beforeMs) continue;
    // What is noted of an upload is not touched while it goes on.
    const upload = await stat(path.join(directory, path.parse(name).name)).catch(() => null);
    if (upload && upload.mtimeMs >= beforeMs) continue;
    await rm(file, { force: true });
  }
}

/** Bytes of unfinished uploads that are still to come: the room for them is spoken for. */
async function promisedBytes(directory: string): Promise<number> {
  let promised = 0;
  for (const name of await readdir(directory).catch(() => [])) {
    if (!name.endsWith('.json')) continue;
    const noted = await readFile(path.join(directory, name), 'utf8').catch(() => '{}');
    const { size } = JSON.parse(noted) as { size?: number };
    const arrived = await stat(path.join(directory, path.parse(name).name)).catch(() => null);
    promised += Math.max(0, (size ?? 0) - (arrived?.size ?? 0));
  }
  return promised;
}

/**
 * What became of a file that arrived: a programme, or the reason why not. One that is refused is not left in the media
 * folder; one that met a fault of ours stays, since sending it again may take hours.
 */
async function settle(
  context: Context,
  file: string,
): Promise<{ programmeId?: string; message?: string; path: string }> {
  try {
    return { path: file, programmeId: (await takeIn(context, file)).id };
  } catch (error) {
    if (isRefusal(error)) {
      await rm(file, { force: true });
      return { path: file, message: error.message };
    }
    context.logger.error({ file, err: error }, 'an upload could not be taken in');
    return { path: file, message: 'It arrived, but could not be taken in.' };
  }
}

async function folderOf(context: Context, typed: string | null): Promise<string> {
  const [first] = context.config.mediaFolders;
  if (!first) throw answer(422, 'There is no media folder to upload into; set LINSTOCK_MEDIA.');
  try {
    const folder = await resolveMediaPath(context.config.mediaFolders, typed ?? first);
    if (!(await stat(folder)).isDirectory()) throw answer(422, `${folder} is a file, not a folder; choose a folder.`);
    return folder;
  } catch (error) {
    throw isRefusal(error) ? answer(error.status, error.message) : error;
  }
}

async function requireRoom(folders: readonly string[], bytes: number): Promise<void> {
  for (const folder of folders) {
    const free = await roomIn(folder);
    if (free < bytes) {
      throw answer(
        507,
        `The disk has ${free.toLocaleString('en')} bytes left and this file needs ${bytes.toLocaleString('en')}; free some space first.`,
      );
    }
  }
}

/** Bytes that may still be written to a folder. */
async function roomIn(folder: string): Promise<number> {
  await mkdir(folder, { recursive: true });
  const { bavail, bsize } = await statfs(folder);
  return Math.max(0, bavail * bsize - ROOM_TO_SPARE_BYTES);
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
