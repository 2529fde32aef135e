import { SOUND_STEP_SECONDS, type MeasuredPicture, type MeasuredSound } from '../../core/analysis/measured.ts';
import { BLACK_SHARE } from '../../core/analysis/pictureFindings.ts';
import type { AnalysisStretch } from '../../core/analysis/planAnalysis.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { Edges } from '../../core/geometry/preparation.ts';
import { FIELD_BURST, FIELD_BURST_LEAD } from '../arguments/analyse.ts';

/** What the decoder says when a frame is spoilt or lost. */
const DAMAGE =
  /corrupt decoded frame|error while decoding|concealing \d+|Invalid data found when processing input|Error submitting packet|Error splitting the input/i;

const LINE = /^\[a?metadata@(frame|field|dark|dim|clear|sound) @ [^\]]+\] (?:frame:(\d+)|lavfi\.(\S+?)=(\S+))/;

/** Where silence is written as minus infinity. */
const FLOOR_DB = -120;

export interface AnalysisReader {
  /** Takes a line of the log; false when it is none of a measurement. */
  readonly readLog: (line: string) => boolean;
  /** Takes a line about one packet of the fast encode. */
  readonly readPacket: (line: string) => void;
  /** Frames measured so far. */
  readonly framesRead: () => number;
  /** @param interval - Frames from one look at the edges to the next. */
  readonly picture: (size: FrameSize, interval: number) => MeasuredPicture;
  readonly sound: () => MeasuredSound;
}

/**
 * Reads the measurements of one stretch as the engine writes them, frame by frame, without the lead before it.
 *
 * @param channels - Of the sound; 0 without.
 */
export function createAnalysisReader(stretch: AnalysisStretch, channels: number): AnalysisReader {
  const frames: Record<string, number>[] = [];
  const dark: Record<string, number>[] = [];
  const dim: Record<string, number>[] = [];
  const clear: Record<string, number>[] = [];
  const steps: Record<string, number>[] = [];
  const fields = { progressive: 0, topFirst: 0, bottomFirst: 0, undetermined: 0 };
  const damaged = new Set<number>();
  const bits: number[] = [];
  let fieldFrame = 0;
  const leadSteps = Math.round(stretch.leadSeconds / SOUND_STEP_SECONDS);

  const lists: Readonly<Record<string, Record<string, number>[]>> = { frame: frames, dark, dim, clear, sound: steps };

  const begin = (kind: string, frame: number) => {
    if (kind === 'field') fieldFrame = frame;
    else lists[kind]?.push({});
  };
  const set = (kind: string, key: string, text: string) => {
    if (kind === 'field') return countField(text);
    const target = lists[kind]?.at(-1);
    if (target) target[key] = text.includes('inf') || text.includes('nan') ? FLOOR_DB : Number(text);
  };
  const countField = (text: string) => {
    if (fieldFrame % FIELD_BURST < FIELD_BURST_LEAD) return;
    if (text === 'progressive') fields.progressive += 1;
    else if (text === 'tff') fields.topFirst += 1;
    else if (text === 'bff') fields.bottomFirst += 1;
    else fields.undetermined += 1;
  };
  const valuesOf = (key: string) => frames.slice(stretch.leadFrames).map((frame) => frame[key] ?? 0);
  const heard = () => steps.slice(leadSteps);
  const levelsOf = (key: string) => heard().map((step) => Math.max(FLOOR_DB, step[key] ?? FLOOR_DB));

  return {
    readLog: (line) => {
      const match = LINE.exec(line);
      if (match) {
        const [, kind = '', frame, key, value = ''] = match;
        if (key === undefined) begin(kind, Number(frame));
        else set(kind, key, value);
        return true;
      }
      // Where a stretch begins between two keyframes, what comes before the first frame is no fault of the file.
      if (DAMAGE.test(line) && (frames.length > 0 || stretch.inFrame === 0)) {
        damaged.add(stretch.inFrame + Math.max(0, frames.length - stretch.leadFrames));
        return false;
      }
      return line.startsWith('[Parsed_blackframe');
    },
    readPacket: (line) => {
      const parts = line.split(',');
      if (parts.length >= 6 && parts[0] === '0') bits.push(Number(parts[4]) * 8);
    },
    framesRead: () => frames.length,
    picture: (size, interval) => {
      const black = valuesOf('blackframe.pblack');
      return {
        black,
        // The detector gives per cent of the whole scale.
        difference: valuesOf('scd.mafd').map((percent) => round(percent * 2.56, 3)),
        change: valuesOf('scd.score').map((score) => round(score, 2)),
        bits,
        fields,
        bars: dark.flatMap((edge, sample) => {
          // A black frame shows no edges.
          if ((black[sample * interval] ?? 100) >= BLACK_SHARE) return [];
          const [low, high] = [barsOf(edge, size), barsOf(dim[sample] ?? {}, size)];
          return low && high ? [{ dark: low, dim: high }] : [];
        }),
        opaque: clear.length === 0 ? null : clear.every((frame) => frame['blackframe.pblack'] === 100),
        damaged: Array.from(damaged),
      };
    },
    sound: () => ({
      momentary: levelsOf('r128.M'),
      shortTerm: levelsOf('r128.S'),
      peaks: Array.from({ length: channels }, (_, channel) => levelsOf(`astats.${channel + 1}.Peak_level`)),
      sum: channels >= 2 ? levelsOf('astats.1.RMS_level') : [],
      difference: channels >= 2 ? levelsOf('astats.2.RMS_level') : [],
      truePeak: truePeakOf(heard()),
    }),
  };
}

/** What lies outside the rows and columns that show something; null when the frame shows nothing. */
function barsOf(edge: Record<string, number>, size: FrameSize): Edges | null {
  const [left, right, top, bottom] = ['x1', 'x2', 'y1', 'y2'].map((side) => edge[`cropdetect.${side}`] ?? NaN);
  if (left === undefined || right === undefined || top === undefined || bottom === undefined) return null;
  if (!(right > left && bottom > top)) return null;
  return { top, bottom: size.height - 1 - bottom, left, right: size.width - 1 - right };
}

/** Three decimals of a linear value say nothing about quiet sound, so the samples' own peak is the floor. */
function truePeakOf(steps: readonly Record<string, number>[]): number {
  let peak = FLOOR_DB;
  for (const step of steps) {
    for (const [key, value] of Object.entries(step)) {
      if (key.startsWith('r128.true_peaks_ch') && value > 0) peak = Math.max(peak, 20 * Math.log10(value));
      if (key.endsWith('.Peak_level')) peak = Math.max(peak, value);
    }
  }
  return round(peak, 2);
}

function round(value: number, digits: number): number {
  return Number(value.toFixed(digits));
}
