import type { MeasuredSound } from './measured.ts';
import { SOUND_STEP_SECONDS } from './measured.ts';
import { findRuns } from './stretches.ts';

/** Below this in every channel nobody hears anything (common practice, no source). */
export const SILENT_DBFS = -60;
const LEAST_SILENCE_STEPS = 5;

/** A channel that never gets louder carries nothing. */
const EMPTY_CHANNEL_DBFS = -70;

/** Difference of two channels this far below their sum: they are the same but for rounding. */
const IDENTICAL_DB = 50;

/** Difference this far above the sum: played in mono, they cancel out. */
const OUT_OF_PHASE_DB = 10;

/** ITU-R BS.1770: absolute and relative gate in LU; EBU Tech 3342: relative gate and percentiles of the range. */
const ABSOLUTE_GATE = -70;
const RELATIVE_GATE = -10;
const RANGE_GATE = -20;
const RANGE_PERCENTILES = [0.1, 0.95] as const;

/** A momentary value needs 400 ms behind it, a short-term one three seconds. */
const MOMENTARY_LEAD = 3;
const SHORT_TERM_LEAD = 29;

export interface Loudness {
  /** LUFS (ITU-R BS.1770). */
  readonly integratedLufs: number;
  /** LU (EBU Tech 3342). */
  readonly rangeLu: number;
  readonly truePeakDbtp: number;
}

/** Silence in seconds from the sound's start. */
export interface Silence {
  readonly startSeconds: number;
  readonly endSeconds: number;
}

/** How two channels stand to each other, and which carry nothing. */
export interface ChannelFindings {
  /** Highest sample of each channel in dBFS. */
  readonly peaks: readonly number[];
  /** Channels from 0 that carry nothing. */
  readonly silent: readonly number[];
  readonly identical: boolean;
  readonly outOfPhase: boolean;
}

/**
 * Programme loudness with both gates of ITU-R BS.1770, from momentary values ten times a second.
 *
 * @returns null when nothing passes the absolute gate.
 */
export function integrateLoudness(sound: MeasuredSound): Loudness | null {
  const powers = sound.momentary
    .slice(MOMENTARY_LEAD)
    .filter((level) => level > ABSOLUTE_GATE)
    .map(toPower);
  if (powers.length === 0) return null;
  const gate = toLevel(meanOf(powers)) + RELATIVE_GATE;
  const kept = powers.filter((power) => toLevel(power) > gate);
  return {
    integratedLufs: toLevel(meanOf(kept)),
    rangeLu: loudnessRange(sound.shortTerm.slice(SHORT_TERM_LEAD)),
    truePeakDbtp: sound.truePeak,
  };
}

/** Loudness range of EBU Tech 3342: between the 10th and the 95th percentile of gated short-term values. */
function loudnessRange(shortTerm: readonly number[]): number {
  const heard = shortTerm.filter((level) => level > ABSOLUTE_GATE);
  if (heard.length === 0) return 0;
  const gate = toLevel(meanOf(heard.map(toPower))) + RANGE_GATE;
  const kept = heard.filter((level) => level > gate).sort((a, b) => a - b);
  const [low, high] = RANGE_PERCENTILES.map((share) => kept[Math.round(share * (kept.length - 1))] ?? 0);
  return (high ?? 0) - (low ?? 0);
}

/** Stretches of at least half a second in which no channel is heard. */
export function findSilence(sound: MeasuredSound): Silence[] {
  const length = sound.peaks[0]?.length ?? 0;
  const isSilent = (step: number) => sound.peaks.every((channel) => (channel[step] ?? -Infinity) < SILENT_DBFS);
  return findRuns(length, isSilent, LEAST_SILENCE_STEPS).map((run) => ({
    startSeconds: run.inFrame * SOUND_STEP_SECONDS,
    endSeconds: (run.outFrame + 1) * SOUND_STEP_SECONDS,
  }));
}

/** What is wrong with the channels, if anything. */
export function judgeChannels(sound: MeasuredSound): ChannelFindings {
  const peaks = sound.peaks.map((channel) => channel.reduce((high, level) => Math.max(high, level), -Infinity));
  const silent = Array.from(peaks.keys()).filter((channel) => (peaks[channel] ?? 0) < EMPTY_CHANNEL_DBFS);
  const isPair = peaks.length === 2 && silent.length === 0 && sound.sum.length > 0;
  const [sum, difference] = [sound.sum, sound.difference].map((levels) => 10 * Math.log10(meanOf(levels.map(asPower))));
  const apart = (sum ?? 0) - (difference ?? 0);
  return { peaks, silent, identical: isPair && apart > IDENTICAL_DB, outOfPhase: isPair && apart < -OUT_OF_PHASE_DB };
}

/** Offset of ITU-R BS.1770 between mean square and LUFS. */
const LUFS_OFFSET = -0.691;

function toPower(level: number): number {
  return 10 ** ((level - LUFS_OFFSET) / 10);
}

function toLevel(power: number): number {
  return LUFS_OFFSET + 10 * Math.log10(power);
}

function asPower(decibels: number): number {
  return Number.isFinite(decibels) ? 10 ** (decibels / 10) : 0;
}

function meanOf(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
}
