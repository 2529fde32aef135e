import { readdir, realpath, stat } from 'node:fs/promises';
import path from 'node:path';
import type { MediaListing } from '../../contract/views.ts';
import { NotOpened, openFile, type OpenedFile } from '../files/openedFile.ts';
import { Refusal } from '../refusal.ts';

/**
 * Resolves a path to a regular file inside the media folders, symbolic links followed first.
 *
 * @returns The real path.
 * @throws Refusal `outside-media-folders`, `file-not-found`, `not-a-file`.
 */
export async function resolveMediaFile(folders: readonly string[], typed: string): Promise<string> {
  const real = await resolveMediaPath(folders, typed);
  const facts = await stat(real);
  if (!facts.isFile())
    throw new Refusal('not-a-file', `${typed} is not a file; choose a film or sound file.`, { field: 'path' });
  return real;
}

/**
 * Opens a file that was resolved before, as long as no link was put on its way since.
 *
 * @throws Refusal `file-not-found`, `not-a-file`, `file-unreadable`, or `outside-media-folders` for a link.
 */
export async function openMediaFile(real: string): Promise<OpenedFile> {
  try {
    return await openFile(real, true);
  } catch (error) {
    if (error instanceof NotOpened) throw refuseToOpen(real, error);
    throw error;
  }
}

function refuseToOpen(real: string, error: NotOpened): Refusal {
  const details = { field: 'path', cause: error };
  switch (error.reason) {
    case 'link':
      return new Refusal(
        'outside-media-folders',
        `${real} was replaced by a link meanwhile, which is not followed.`,
        details,
      );
    case 'not-a-file':
      return new Refusal('not-a-file', `${real} is not a file; choose a film or sound file.`, details);
    case 'unreadable':
      return new Refusal(
        'file-unreadable',
        'This file may not be read; give the server read permission on it.',
        details,
      );
    case 'missing':
      return new Refusal(
        'file-not-found',
        'This file went away while it was looked at; is its disk still connected?',
        details,
      );
  }
}

/** Lists what a media folder holds: folders first, then files, by name. Hidden files are left out. */
export async function listMediaFolder(
  folders: readonly string[],
  folder: string | null,
): Promise<
  Omit<MediaListing, 'entries'> & {
    entries: { name: string; path: string; kind: 'folder' | 'file'; bytes: number | null }[];
  }
> {
  if (folder === null) {
    const entries = folders.map((path) => ({ name: path, path, kind: 'folder' as const, bytes: null }));
    return { folder: null, parent: null, entries };
  }
  const real = await resolveMediaPath(folders, folder);
  const roots = await realRoots(folders);
  const names = await readdir(real, { withFileTypes: true }).catch((error: NodeJS.ErrnoException) => {
    throw error.code === 'ENOTDIR'
      ? new Refusal('not-a-file', `${folder} is a file, not a folder.`, { field: 'folder' })
      : new Refusal('file-unreadable', `${folder} cannot be read; check its permissions.`, { field: 'folder' });
  });
  const found = await Promise.all(
    names.filter((name) => !name.name.startsWith('.')).map((name) => describe(roots, path.join(real, name.name))),
  );
  const entries = found.filter((entry) => entry !== null);
  entries.sort((a, b) =>
    a.kind === b.kind ? a.name.localeCompare(b.name, 'en', { numeric: true }) : a.kind === 'folder' ? -1 : 1,
  );
  return { folder: real, parent: roots.includes(real) ? null : path.dirname(real), entries };
}

async function describe(roots: readonly string[], file: string) {
  try {
    const real = await realpath(file);
    if (!roots.some((root) => isWithin(root, real))) return null;
    const facts = await stat(real);
    if (!facts.isFile() && !facts.isDirectory()) return null;
    const kind = facts.isDirectory() ? ('folder' as const) : ('file' as const);
    return { name: path.basename(file), path: real, kind, bytes: kind === 'file' ? facts.size : null };
  } catch {
    // A link to nowhere, or a file that went while the folder was read: neither can be taken in.
    return null;
  }
}

/**
 * Resolves a path to whatever lies there inside the media folders, symbolic links followed first.
 *
 * @throws Refusal `outside-media-folders` or `file-not-found`.
 */
export async function resolveMediaPath(folders: readonly string[], typed: string): Promise<string> {
  const outside = new Refusal(
    'outside-media-folders',
    `${typed} is outside the media folders. Put the file in one of them, or add its folder to LINSTOCK_MEDIA.`,
    { field: 'path' },
  );
  if (!path.isAbsolute(typed) || typed.includes('\0')) throw outside;
  const roots = await realRoots(folders);
  let real: string;
  try {
    real = await realpath(typed);
  } catch (error) {
    // What lies outside is not told apart from what does not exist.
    if (![...folders, ...roots].some((root) => isWithin(root, path.resolve(typed)))) throw outside;
    throw new Refusal('file-not-found', `There is no file at ${typed}.`, { field: 'path', cause: error });
  }
  if (!roots.some((root) => isWithin(root, real))) throw outside;
  return real;
}

async function realRoots(folders: readonly string[]): Promise<string[]> {
  return Promise.all(folders.map((folder) => realpath(folder).catch(() => path.resolve(folder))));
}

function isWithin(root: string, file: string): boolean {
  const relative = path.relative(root, file);
  return relative === '' || (!relative.startsWith('..') && !path.isAbsolute(relative));
}
