import { constants } from 'node:fs';
import { access, mkdir, realpath, stat } from 'node:fs/promises';
import path from 'node:path';
import type { FoldersRequest } from '../../contract/system.ts';
import { changeConfigFile, type Config } from '../config.ts';
import { Refusal } from '../refusal.ts';

/**
 * Changes where masters are looked for and where renditions go: written to the settings file and true at once.
 *
 * @returns The configuration as it is now.
 * @throws Refusal `folder-unusable`, naming the folder, or `set-by-environment`.
 */
export async function changeFolders(config: Config, request: FoldersRequest): Promise<Config> {
  const { mediaFolders, outputFolder } = request;
  if ((mediaFolders && config.fixed.media) || (outputFolder && config.fixed.output)) {
    const name = mediaFolders && config.fixed.media ? 'LINSTOCK_MEDIA' : 'LINSTOCK_OUTPUT';
    throw new Refusal('set-by-environment', `This is set by ${name} in the environment, which wins; change it there.`);
  }
  const known = new Set(config.mediaFolders);
  for (const folder of mediaFolders ?? []) if (!known.has(folder)) await requireMedia(folder, config);
  if (outputFolder) await requireOutput(outputFolder);
  const media = mediaFolders && Array.from(new Set(mediaFolders.map((folder) => path.resolve(folder))));
  const output = outputFolder && path.resolve(outputFolder);
  await changeConfigFile(config.dataFolder, { ...(media ? { media } : {}), ...(output ? { output } : {}) });
  return { ...config, mediaFolders: media ?? config.mediaFolders, outputFolder: output ?? config.outputFolder };
}

async function requireMedia(folder: string, { dataFolder }: Config): Promise<void> {
  const unusable = (reason: string) => new Refusal('folder-unusable', `${folder} ${reason}`, { field: 'mediaFolders' });
  const facts = await stat(folder).catch(() => null);
  if (!facts) throw unusable('is not there; make it first, or check how it is written.');
  if (!facts.isDirectory()) throw unusable('is a file, not a folder.');
  await access(folder, constants.R_OK | constants.X_OK).catch(() => {
    throw unusable('may not be read; give the server permission on it.');
  });
  // What is kept there is nobody's master, and names and paths of it are not for pages.
  const inner = path.relative(await realpath(folder), await realpath(dataFolder));
  if (inner === '' || !inner.startsWith('..')) throw unusable('holds the data folder; choose one beside it.');
}

/** Makes a folder for renditions where there is none. @throws Refusal `folder-unusable`. */
export async function requireOutput(folder: string): Promise<void> {
  try {
    await mkdir(folder, { recursive: true });
    await access(folder, constants.W_OK | constants.X_OK);
  } catch (error) {
    throw new Refusal('folder-unusable', `${folder} cannot be written to; choose another, or change its permissions.`, {
      field: 'outputFolder',
      cause: error,
    });
  }
}
