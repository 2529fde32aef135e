import { isRated, RATED_CODECS, type RatedCodec } from '../../core/video/codecs.ts';
import {
  HARDWARE_KINDS,
  hardwareArguments,
  hardwareDevice,
  hardwarePath,
  SIMULATED_CODECS,
  type HardwareKind,
} from '../encoders/hardware.ts';
import { hardwareMissing } from '../../core/video/hardware.ts';
import { bitsPerSecond } from '../../core/units.ts';
import type { HardwareEncoder } from '../engine.ts';
import { EngineError, isEngineError } from '../engineError.ts';
import { runProcess } from '../process/runProcess.ts';
import { ASKING_LIMITS, type EnginePaths } from './limits.ts';

/** How hardware encoders are told in the engine's list: a codec and a kind. */
const NAME = new RegExp(`\\b(${RATED_CODECS.join('|')})_(${HARDWARE_KINDS.join('|')})\\b`, 'g');

/**
 * Which hardware encoders the engine knows, and whether each encodes a few frames on this machine: being listed says nothing, since
 * they need a device and its driver.
 */
export async function probeHardware(paths: EnginePaths): Promise<HardwareEncoder[]> {
  const listed = await runProcess({
    ...ASKING_LIMITS,
    file: paths.ffmpeg,
    arguments: ['-hide_banner', '-encoders'],
  }).catch((error: unknown) => {
    if (isEngineError(error)) return null;
    throw error;
  });
  if (!listed) return [];
  const found: HardwareEncoder[] = [];
  for (const [codec, kind] of [...(paths.simulatesHardware ? SIMULATED : []), ...namesIn(listed.stdout)]) {
    found.push({ codec, kind, works: await encodesAnything(paths, kind, codec) });
  }
  return found;
}

/**
 * The way to an encoder of a codec in hardware.
 *
 * @throws EngineError `hardware-missing`.
 */
export function kindFor(codec: RatedCodec, found: readonly HardwareEncoder[]): HardwareKind {
  const one = found.find((encoder) => encoder.codec === codec && encoder.works);
  if (one) return one.kind;
  throw new EngineError('hardware-missing', hardwareMissing(codec));
}

type Named = readonly [codec: RatedCodec, kind: HardwareKind];

const SIMULATED = SIMULATED_CODECS.map((codec): Named => [codec, 'simulated']);

function namesIn(list: Buffer): Named[] {
  return [...list.toString('utf8').matchAll(NAME)].flatMap(([, codec = '', name]): Named[] => {
    const kind = HARDWARE_KINDS.find((one) => one === name);
    return kind && isRated(codec) ? [[codec, kind]] : [];
  });
}

/** Frames and a rate that every encoder should take. */
const TRIED = {
  frames: 'color=gray:s=320x240:r=25:d=0.4',
  keyframeInterval: 5,
  target: { kind: 'rate', rate: bitsPerSecond(500_000) },
} as const;

/** A few frames, asked for as those of a rendition are, into a file that nobody keeps. */
async function encodesAnything(paths: EnginePaths, kind: HardwareKind, codec: RatedCodec): Promise<boolean> {
  const { frames, keyframeInterval } = TRIED;
  const result = await runProcess({
    ...ASKING_LIMITS,
    file: paths.ffmpeg,
    arguments: [
      ...['-hide_banner', '-nostdin', '-v', 'error', ...hardwareDevice(kind)],
      ...['-f', 'lavfi', '-i', frames, '-vf', hardwarePath(kind)],
      ...hardwareArguments(kind, { codec, keyframeInterval }, TRIED),
      ...['-f', 'nut', 'pipe:1'],
    ],
  }).catch((error: unknown) => {
    if (isEngineError(error)) return null;
    throw error;
  });
  return result?.exitCode === 0;
}
