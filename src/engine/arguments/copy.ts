import type { Container } from '../../core/container/names.ts';
import type { PictureStream, SoundStream } from '../../core/plan/encodePlan.ts';
import { pictureTag } from '../encoders/encoders.ts';
import { resultFile } from '../muxers/muxers.ts';
import { labelInputs, type WrittenLabels } from './labels.ts';
import { inputArguments, inputFrom, soundInput, type SoundFile } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** A part of a picture that begins and ends where its groups of pictures do. */
export interface CopiedPart {
  /** When its first frame is shown, from the file's earliest stream. */
  readonly atSeconds: number;
  readonly seconds: number;
  readonly frameCount: number;
}

/** What is copied out of a master as it is. */
export interface CopyRequest {
  /** null copies sound alone. */
  readonly picture: PictureStream | null;
  /** The master's own. */
  readonly sounds: readonly SoundStream[];
  /** Sound that is put beside the picture otherwise; or null. */
  readonly made: SoundFile | null;
  /** null copies the whole. */
  readonly part: CopiedPart | null;
  /** How much earlier than in the master everything is shown, in seconds; of a part all times are from its first frame. */
  readonly earlierSeconds: number;
  readonly container: Container;
  readonly labels: WrittenLabels | null;
  readonly source: string;
  readonly output: string;
}

/** Arguments that put a master's own streams into a file of another kind, untouched. */
export function copyArguments(request: CopyRequest): string[] {
  const { picture, sounds, made, part, earlierSeconds, container, labels, source, output } = request;
  return [
    ...QUIET_WITH_PROGRESS,
    ...(part ? openBefore(part.atSeconds) : []),
    ...(earlierSeconds > 0 ? ['-itsoffset', (-earlierSeconds).toFixed(6)] : []),
    ...inputArguments(source),
    ...(made ? soundInput(made) : []),
    ...labelInputs(labels),
    ...(picture ? ['-map', `0:${picture.from.streamIndex}`] : []),
    ...mapSounds(sounds),
    ...(made ? ['-map', '1:a'] : []),
    ...['-dn', '-c', 'copy', ...(picture ? pictureTag(container, picture.do.codec) : [])],
    ...(part ? leavePart(part) : []),
    ...resultFile(container, output, labels, made ? 2 : 1),
  ];
}

/** More than containers round by, and less than any frame lasts. */
const ROUNDING_SECONDS = 0.002;

/** A moment before the first frame, since stamps are rounded. */
function openBefore(seconds: number): string[] {
  return seconds > ROUNDING_SECONDS ? ['-ss', (seconds - ROUNDING_SECONDS).toFixed(6)] : [];
}

/** A little longer than the part: nothing more has to be read. */
const SPARE_SECONDS = 2;

/**
 * Groups before the first frame are left out. Packets are counted, since those of the next group may be due before the
 * last of this one is shown, and all times are from the first.
 */
function leavePart({ seconds, frameCount }: CopiedPart): string[] {
  const counted = `noise=drop=gte(n\\,${frameCount}),setts=pts=PTS-STARTPTS:dts=DTS-STARTPTS`;
  return ['-copypriorss:v', '0', '-t', (seconds + SPARE_SECONDS).toFixed(6), '-bsf:v', counted];
}

function mapSounds(sounds: readonly SoundStream[]): string[] {
  return sounds.flatMap(({ from }) => from.flatMap(({ streamIndex }) => ['-map', `0:${streamIndex}`]));
}

/** Which of a master's sounds are taken, and from where. */
export interface SoundCopy {
  readonly streams: readonly number[];
  /** From the file's earliest stream. */
  readonly atSeconds: number;
  /** null for all that follows. */
  readonly seconds: number | null;
  /** How long packets are: the one that is underway there is taken as well. */
  readonly packetSeconds: number;
  /** Whether every sample is kept. */
  readonly isWhole: boolean;
}

/** A file may lead to a place behind the packet that is underway at a moment, so it is opened so much earlier. */
const SOUND_LEAD_SECONDS = 1;

/** In the working folder: when each packet of a copied sound is due, and what it weighs. */
export const COPIED_PACKETS = 'copied-packets.txt';

/**
 * Arguments that take sounds of a master out, untouched. Times are counted from `copiedLead` before the place, and are
 * listed: a file by itself does not keep when it begins.
 */
export function soundCopyArguments(sound: SoundCopy, source: string, output: string): string[] {
  const { streams, atSeconds, seconds } = sound;
  const opened = Math.max(0, atSeconds - SOUND_LEAD_SECONDS);
  const lead = copiedLead(sound);
  const begins = atSeconds - lead - opened;
  const taken = [
    ...streams.flatMap((stream) => ['-map', `0:${stream}`]),
    ...['-c', 'copy', ...(begins > 0 ? ['-ss', begins.toFixed(6)] : [])],
    ...(seconds === null ? [] : ['-t', (seconds + lead).toFixed(6)]),
  ];
  return [
    ...QUIET_WITH_PROGRESS,
    ...inputFrom(source, opened),
    // MP4 keeps how long each packet is, and NUT takes what MP4 does not.
    ...[...taken, '-f', sound.isWhole ? 'nut' : 'mp4', '-y', `file:${output}`],
    ...[...taken, '-f', 'framecrc', '-y', COPIED_PACKETS],
  ];
}

/** How long before the place a copy of sound is counted from, in seconds. */
export function copiedLead({ atSeconds, packetSeconds }: SoundCopy): number {
  return Math.min(atSeconds, packetSeconds);
}
