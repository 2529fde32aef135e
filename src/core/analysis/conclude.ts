import type { Edges } from '../geometry/preparation.ts';
import type { Portion } from '../programme/facts.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import { toNumber, type Rational } from '../timing/rational.ts';
import {
  STEP_SECONDS,
  SOUND_STEP_SECONDS,
  type MeasuredPicture,
  type MeasuredSound,
  type MeasuredStretch,
} from './measured.ts';
import { findBlack, findFrozen, findSceneChanges, judgeBars, judgeScan, type Scan } from './pictureFindings.ts';
import {
  findSilence,
  integrateLoudness,
  judgeChannels,
  type ChannelFindings,
  type Loudness,
  type Silence,
} from './soundFindings.ts';

/** What the analysis of a programme found; null for what it has not or what could not be told. */
export interface Findings {
  readonly scan: Scan | null;
  readonly bars: Edges | null;
  /** Whether every pixel of a picture with transparency is opaque all the same. */
  readonly opaque: boolean | null;
  readonly black: readonly Portion[];
  readonly frozen: readonly Portion[];
  readonly silence: readonly Silence[];
  /** First frames of new scenes. */
  readonly sceneChanges: readonly number[];
  readonly loudness: Loudness | null;
  readonly channels: ChannelFindings | null;
  /** Stretches around frames that did not decode cleanly. */
  readonly damaged: readonly Portion[];
  /** Bits this picture needs in each step, from a fast encode at one quality. */
  readonly busyness: { readonly stepSeconds: number; readonly bits: readonly number[] } | null;
  /** Loudest sample of any channel in dBFS, and momentary loudness in LUFS, for each step. */
  readonly sound: {
    readonly stepSeconds: number;
    readonly peaks: readonly number[];
    readonly momentary: readonly number[];
  } | null;
}

/** What of it is as long as the programme. */
export type Series = Pick<Findings, 'busyness' | 'sound'>;

/** All else. */
export type Conclusions = Omit<Findings, keyof Series>;

/** Frames that begin a step must not fall into the one before. */
const ROUNDING = 1e-6;

/** Damaged frames this near to one another are told as one stretch. */
const DAMAGE_GAP_SECONDS = 1;

/**
 * Joins measured stretches and says what they mean.
 *
 * @param stretches - In order, without gaps.
 * @param rate - Frames per second, the mean where it varies; unused for sound only.
 * @param clock - When the frames are shown.
 */
export function concludeFindings(stretches: readonly MeasuredStretch[], rate: Rational, clock: FrameClock): Findings {
  const picture = joinPictures(stretches.map((stretch) => stretch.picture).filter((part) => part !== null));
  const sound = joinSounds(stretches.map((stretch) => stretch.sound).filter((part) => part !== null));
  return {
    scan: picture && judgeScan(picture.fields),
    bars: picture && judgeBars(picture.bars),
    opaque: picture && picture.opaque,
    black: picture ? findBlack(picture, clock) : [],
    frozen: picture ? findFrozen(picture, clock) : [],
    silence: sound ? findSilence(sound) : [],
    sceneChanges: picture ? findSceneChanges(picture) : [],
    loudness: sound && integrateLoudness(sound),
    channels: sound && judgeChannels(sound),
    damaged: picture ? groupDamage(picture.damaged, toNumber(rate)) : [],
    busyness: picture && { stepSeconds: STEP_SECONDS, bits: addUpSteps(picture.bits, rate, clock) },
    sound: sound && {
      stepSeconds: SOUND_STEP_SECONDS,
      peaks: loudestOf(sound.peaks).map((level) => Math.round(level * 10) / 10),
      momentary: sound.momentary.map((level) => Math.round(level * 10) / 10),
    },
  };
}

/**
 * Bits of each half second, with the keyframe that begins each second shared out over that second: where it falls says
 * nothing about the picture.
 *
 * @param bits - For every frame.
 */
export function addUpSteps(bits: readonly number[], rate: Rational, clock: FrameClock): number[] {
  const second = Math.max(1, Math.round(toNumber(rate)));
  const steps: number[] = [];
  bits.forEach((own, frame) => {
    const first = frame - (frame % second);
    const sharers = Math.min(second, bits.length - first);
    const shared = (bits[first] ?? 0) / sharers;
    const step = Math.floor(clock.secondsOf(frame) / STEP_SECONDS + ROUNDING);
    steps[step] = (steps[step] ?? 0) + shared + (frame === first ? 0 : own);
  });
  return Array.from(steps, (step) => Math.round(step ?? 0));
}

function joinPictures(parts: readonly MeasuredPicture[]): MeasuredPicture | null {
  if (parts.length === 0) return null;
  const total = (field: keyof MeasuredPicture['fields']) => parts.reduce((sum, part) => sum + part.fields[field], 0);
  return {
    black: parts.flatMap((part) => part.black),
    difference: parts.flatMap((part) => part.difference),
    change: parts.flatMap((part) => part.change),
    bits: parts.flatMap((part) => part.bits),
    fields: {
      progressive: total('progressive'),
      topFirst: total('topFirst'),
      bottomFirst: total('bottomFirst'),
      undetermined: total('undetermined'),
    },
    bars: parts.flatMap((part) => part.bars),
    // What was measured before 0.17 says nothing of it.
    opaque: parts.every((part) => typeof part.opaque === 'boolean') ? parts.every((part) => part.opaque) : null,
    damaged: parts.flatMap((part) => part.damaged),
  };
}

function joinSounds(parts: readonly MeasuredSound[]): MeasuredSound | null {
  const [first] = parts;
  if (!first) return null;
  return {
    momentary: parts.flatMap((part) => part.momentary),
    shortTerm: parts.flatMap((part) => part.shortTerm),
    peaks: first.peaks.map((_, channel) => parts.flatMap((part) => part.peaks[channel] ?? [])),
    sum: parts.flatMap((part) => part.sum),
    difference: parts.flatMap((part) => part.difference),
    truePeak: parts.reduce((high, part) => Math.max(high, part.truePeak), -Infinity),
  };
}

function loudestOf(channels: readonly (readonly number[])[]): number[] {
  const [first = []] = channels;
  return first.map((_, step) =>
    channels.reduce((high, channel) => Math.max(high, channel[step] ?? -Infinity), -Infinity),
  );
}

function groupDamage(frames: readonly number[], framesPerSecond: number): Portion[] {
  const gap = Math.max(1, Math.round(DAMAGE_GAP_SECONDS * framesPerSecond));
  const groups: Portion[] = [];
  for (const frame of frames.toSorted((a, b) => a - b)) {
    const last = groups.at(-1);
    if (last && frame - last.outFrame <= gap) groups[groups.length - 1] = { ...last, outFrame: frame };
    else groups.push({ inFrame: frame, outFrame: frame });
  }
  return groups;
}
