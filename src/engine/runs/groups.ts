import { rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { SAFE_READING } from '../arguments/input.ts';
import { filesOf, JOIN_LIST, joinArguments, joinList, joinPart, partArguments } from '../arguments/join.ts';
import type { JoinRequest, RunOptions } from '../engine.ts';
import { EngineError } from '../engineError.ts';
import { createGroupReader, type GroupListing } from '../parsing/groups.ts';
import { runProcess } from '../process/runProcess.ts';
import { encode } from './encode.ts';
import { READING_LIMITS, type EnginePaths } from './limits.ts';

/** The groups of pictures of a file. */
export async function listGroups(paths: EnginePaths, file: string, signal: AbortSignal): Promise<GroupListing> {
  const reader = createGroupReader();
  const result = await runProcess({
    file: paths.ffprobe,
    arguments: [
      ...['-hide_banner', '-loglevel', 'error', ...SAFE_READING, '-select_streams', 'v:0', '-show_data_hash', 'md5'],
      ...['-show_entries', 'stream=extradata_hash:packet=pts_time,dts_time,size,flags', '-of', 'compact'],
      `file:${file}`,
    ],
    onLine: reader.read,
    ...READING_LIMITS,
    signal,
  });
  if (result.exitCode !== 0) {
    throw new EngineError('engine-failed', 'A finished pass could not be read back.', { stderr: result.stderr });
  }
  return reader.finish();
}

/** One file of the groups of several. */
export async function joinGroups(paths: EnginePaths, request: JoinRequest, options: RunOptions): Promise<void> {
  const { out, container, sources, groups, sound, labels, output } = request;
  const files = filesOf(sources);
  const inFolder = (name: string) => path.join(options.workingFolder, name);
  const quiet = { ...options, onProgress: () => undefined };
  try {
    for (const [index, file] of files.entries()) {
      await encode(paths, partArguments(file, container, joinPart(index, container)), quiet);
    }
    await writeFile(inFolder(JOIN_LIST), joinList(sources, groups, container));
    await encode(paths, joinArguments(out, container, sound, output, labels), options);
  } finally {
    await Promise.all(
      [JOIN_LIST, ...files.map((_, index) => joinPart(index, container))].map((name) =>
        rm(inFolder(name), { force: true }),
      ),
    );
  }
}
