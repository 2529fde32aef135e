import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { COPIED_PACKETS, copiedLead, soundCopyArguments, type SoundCopy } from '../arguments/copy.ts';
import type { RunOptions, WeighedCopy } from '../engine.ts';
import { readCopiedPackets } from '../parsing/copiedPackets.ts';
import { encode } from './encode.ts';
import type { EnginePaths } from './limits.ts';

/** Takes sounds of a master out, untouched, and tells when they begin and what they weigh. */
export async function copySounds(
  paths: EnginePaths,
  sound: SoundCopy,
  source: string,
  output: string,
  options: RunOptions,
): Promise<WeighedCopy> {
  await encode(paths, soundCopyArguments(sound, source, output), options);
  const listing = await readFile(path.join(options.workingFolder, COPIED_PACKETS), 'utf8');
  const { bytes, firstSeconds } = readCopiedPackets(listing);
  return { bytes, delaySeconds: firstSeconds - copiedLead(sound) };
}
