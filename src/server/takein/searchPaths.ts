import { readdir, realpath, stat } from 'node:fs/promises';
import path from 'node:path';
import { CAPTION_ENDINGS } from '../programmes/captionFiles.ts';
import { isRefusal } from '../refusal.ts';
import { resolveMediaPath } from '../programmes/mediaFolders.ts';

/** A file found, with the reason at once where it can be none. */
export interface FoundFile {
  readonly path: string;
  readonly problem?: { readonly code: string; readonly message: string };
}

/** What stands for bytes of a name that are no characters. */
const UNREADABLE = '\ufffd';

/**
 * Looks through paths for files: a file counts as itself, a folder as the files in it. Links are followed once; a
 * folder that leads back into itself is entered once only. Hidden files are left out.
 *
 * @param typed - As typed, pasted or chosen.
 * @returns Each file once, in the order of the paths and then by name.
 */
export async function searchPaths(
  mediaFolders: readonly string[],
  typed: readonly string[],
  subfolders: boolean,
  signal: AbortSignal,
): Promise<FoundFile[]> {
  const found = new Map<string, FoundFile>();
  const entered = new Set<string>();
  const add = (file: FoundFile) => {
    if (!found.has(file.path)) found.set(file.path, file);
  };

  const visit = async (typedPath: string, depth: number): Promise<void> => {
    signal.throwIfAborted();
    if (typedPath.includes(UNREADABLE)) {
      const message = 'This name is not valid UTF-8, so the file cannot be asked for by it; rename it.';
      add({ path: typedPath, problem: { code: 'name-unreadable', message } });
      return;
    }
    let real: string;
    try {
      real = await resolveMediaPath(mediaFolders, typedPath);
    } catch (error) {
      if (!isRefusal(error)) throw error;
      add({ path: typedPath, problem: { code: error.code, message: error.message } });
      return;
    }
    const facts = await stat(real).catch(() => null);
    if (facts?.isDirectory()) {
      if (depth === 0 || subfolders) await enter(real, depth);
      return;
    }
    if (facts && !facts.isFile()) {
      add({ path: real, problem: { code: 'not-a-file', message: 'This is a device or a pipe, not a file.' } });
      return;
    }
    if (CAPTION_ENDINGS.some((ending) => real.toLowerCase().endsWith(ending))) {
      const message = 'This is a caption file, not a programme; it is noticed beside the programme of its name.';
      add({ path: real, problem: { code: 'caption-file', message } });
      return;
    }
    add({ path: real });
  };

  const enter = async (folder: string, depth: number): Promise<void> => {
    const real = await realpath(folder);
    if (entered.has(real)) return;
    entered.add(real);
    let names: string[];
    try {
      names = await readdir(real);
    } catch {
      const message = 'This folder cannot be read; check its permissions, and that its disk is connected.';
      add({ path: folder, problem: { code: 'file-unreadable', message } });
      return;
    }
    names.sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
    for (const name of names.filter((one) => !one.startsWith('.'))) await visit(path.join(real, name), depth + 1);
  };

  for (const one of typed) await visit(one, 0);
  return Array.from(found.values());
}
