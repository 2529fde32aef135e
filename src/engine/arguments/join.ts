import type { Container } from '../../core/container/names.ts';
import type { PictureFacts } from '../../core/plan/encodePlan.ts';
import type { PictureGroup } from '../parsing/groups.ts';
import { MUXERS, resultFile } from '../muxers/muxers.ts';
import { inputArguments, soundInput, type SoundFile } from './input.ts';
import { labelInputs, type WrittenLabels } from './labels.ts';
import { heldLastFrame } from './output.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** Where a group of pictures is taken from. */
export interface JoinSource {
  readonly file: string;
  /** A whole pass, or a file of nothing but this group. */
  readonly holds: 'every-group' | 'this-group';
}

/** Files in the working folder while groups are joined: the list, and the picture of each file without its sound. */
export const JOIN_LIST = 'join.txt';
export const joinPart = (index: number, container: Container): string => `join-${index}.${MUXERS[container].extension}`;

/**
 * Arguments that take the picture alone out of a file, untouched: beside sound a file cannot be left in time. Its times stay as
 * they are: Opus begins before 0, and what is moved by that is entered a whole group too early.
 */
export function partArguments(file: string, container: Container, part: string): string[] {
  const { format } = MUXERS[container];
  const copied = ['-map', '0:v:0', '-c', 'copy', '-f', format, part];
  return [...QUIET_WITH_PROGRESS, '-copyts', ...inputArguments(file), ...copied];
}

/** The files that sources name, each once; a file's place here numbers its part. */
export function filesOf(sources: readonly JoinSource[]): string[] {
  return Array.from(new Set(sources.map(({ file }) => file)));
}

/**
 * The list by which parts are read one after another: neighbouring groups of one file in one piece, each entered at its
 * keyframe, left between two packets, and as long as the time to the next.
 *
 * @param sources - One for each group.
 * @param groups - As they lie in every pass.
 */
export function joinList(
  sources: readonly JoinSource[],
  groups: readonly PictureGroup[],
  container: Container,
): string {
  const files = filesOf(sources);
  const lines = ['ffconcat version 1.0'];
  let first = 0;
  sources.forEach(({ file, holds }, index) => {
    if (sources[index + 1]?.file === file) return;
    const [start, next] = [groups[first]!, groups[index + 1]];
    lines.push(`file ${joinPart(files.indexOf(file), container)}`);
    if (first > 0 && holds === 'every-group') lines.push(`inpoint ${start.startSeconds.toFixed(6)}`);
    if (next && holds === 'every-group') lines.push(`outpoint ${(groups[index]!.leaveSeconds ?? 0).toFixed(6)}`);
    if (next) lines.push(`duration ${(next.startSeconds - start.startSeconds).toFixed(6)}`);
    first = index + 1;
  });
  return `${lines.join('\n')}\n`;
}

/** The list itself and what parts are read as. */
const PART_FORMATS = 'concat,mov,mp4,matroska,webm';

/** Arguments that join the listed parts, untouched, and put the sound beside them. */
export function joinArguments(
  out: PictureFacts,
  container: Container,
  sound: SoundFile | null,
  output: string,
  labels: WrittenLabels | null,
): string[] {
  return [
    ...QUIET_WITH_PROGRESS,
    // The list is our own; what it names lies in the working folder. Packets are not to be rewritten on the way.
    ...['-protocol_whitelist', 'file', '-format_whitelist', PART_FORMATS, '-f', 'concat', '-auto_convert', '0'],
    ...['-i', JOIN_LIST],
    ...(sound ? soundInput(sound) : []),
    ...labelInputs(labels),
    ...['-map', '0:v:0', ...(sound ? ['-map', '1:a'] : []), '-c', 'copy'],
    ...heldLastFrame(out, container),
    ...resultFile(container, output, labels, sound ? 2 : 1),
  ];
}
