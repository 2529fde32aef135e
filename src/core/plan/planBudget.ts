import { addEstimates, bytesAtRate, estimateAround, exactly, type Estimate } from '../budget/projections.ts';
import { aimedVideoRate, splitBudget } from '../budget/splitBudget.ts';
import { FILLED_SHARE, USUAL_SHARE } from '../budget/weighed.ts';
import { SURE } from '../excerpts/foresee.ts';
import type { FrameSize } from '../geometry/frameSize.ts';
import { correctionOf, type CameOut, type Correction } from '../forecast/sizeRecord.ts';
import { bufferOf, type RateBuffer } from '../rate/bufferModel.ts';
import { averageRate, bitsPerSecond, bytes, type BitsPerSecond, type Bytes } from '../units.ts';
import type { PictureRate, PlannedBudget } from './encodePlan.ts';
import type { PlanProblem } from './planProblem.ts';
import type { RateChoice } from '../recipe/recipe.ts';
import { isRated, RATED } from '../video/codecs.ts';
import type { PixelWeight } from '../video/definition.ts';
import {
  floorRate,
  qualityOfRate,
  saturatingRate,
  soundedRate,
  soundingAt,
  SOUNDING_ERROR,
  type Sounding,
} from '../sounding/sounding.ts';

interface BudgetRequest {
  readonly picture: BudgetedPicture;
  /** All tracks together. */
  readonly sound: Estimate;
  /** The container's bytes for a payload of so many bytes. */
  readonly containerBytes: (payload: number) => Bytes;
  /** What the portion takes in the master, all streams together. */
  readonly sourceBytes: Bytes;
  readonly durationSeconds: number;
  /** 0 without a picture. */
  readonly frameCount: number;
  readonly sounding: Sounding | null;
  readonly cameOut: readonly CameOut[];
  readonly size: FrameSize | null;
}

/** The picture as far as its bytes go. */
export type BudgetedPicture =
  | { readonly kind: 'none' }
  /** Of a part nobody knows beforehand how much of it lies there. */
  | { readonly kind: 'copied'; readonly bytes: Bytes; readonly isPart: boolean }
  | { readonly kind: 'encoded'; readonly rate: RateChoice; readonly hardware: boolean }
  | { readonly kind: 'master'; readonly bitsPerPixel: PixelWeight };

type BudgetOutcome =
  | { readonly ok: true; readonly budget: PlannedBudget; readonly rate: PictureRate | null }
  | { readonly ok: false; readonly problems: readonly PlanProblem[] };

/** How far encoders miss an average rate: [below, above], one pass and two (measured on short programmes). */
const RATE_MISS = { 1: [0.1, 0.22], 2: [0.03, 0.07] } as const;

/** Encoders in hardware are many, and none was measured: as wide as a size is worth telling. */
const HARDWARE_MISS = [0.25, 0.25] as const;

/** A rate that is held steadily is padded up to it (measured); what the buffer holds at first comes on top. */
const STEADY_MISS = 0.03;

/** A cap is refused beforehand only when it is this far below the sounded floor; nearer, the encoder decides. */
const HOPELESS_SHARE_OF_FLOOR = 0.5;

/** Below this no encoder opens. */
const LEAST_VIDEO_RATE = 1000;

/**
 * Splits what a rendition is expected to weigh, and turns the rate choice into what the encoder is asked for.
 *
 * @returns Refused when a cap leaves nothing for the picture, with the smallest cap that would.
 */
export function planBudget(request: BudgetRequest): BudgetOutcome {
  const { picture } = request;
  switch (picture.kind) {
    case 'none':
      return { ok: true, budget: planSoundOnly(request), rate: null };
    case 'copied':
      return {
        ok: true,
        budget: planCopied(request, picture.bytes, picture.isPart ? PART_MISS : COPY_MISS),
        rate: null,
      };
    case 'encoded':
      return withNeed(request, planEncoded(request, picture));
    case 'master':
      return { ok: true, budget: planMaster(request, picture.bitsPerPixel), rate: null };
  }
}

/** What the picture would take at the usual quality stands beside what it is given. */
function withNeed({ sounding }: BudgetRequest, outcome: BudgetOutcome): BudgetOutcome {
  if (!outcome.ok || !sounding || !isRated(sounding.codec)) return outcome;
  const neededRate = soundedRate(sounding, RATED[sounding.codec].quality.usual);
  return { ...outcome, budget: { ...outcome.budget, neededRate } };
}

function planEncoded(
  request: BudgetRequest,
  { rate, hardware }: Extract<BudgetedPicture, { readonly kind: 'encoded' }>,
): BudgetOutcome {
  switch (rate.mode) {
    case 'size':
      return planFill(request, bytes(rate.bytes));
    case 'share':
      return planFill(request, bytes(rate.ofSource * request.sourceBytes));
    case 'average':
      return planAverage(request, rate.kbps, hardware ? HARDWARE_MISS : RATE_MISS[rate.passes], {
        passes: rate.passes,
        buffer: null,
      });
    case 'variable':
      return planAverage(request, rate.kbps, RATE_MISS[rate.passes], {
        passes: rate.passes,
        buffer: bufferOf(rate.maxKbps, rate.bufferKbit),
      });
    case 'constant': {
      const steady = bitsPerSecond(rate.kbps * 1000);
      const buffer = bufferOf(rate.kbps, rate.bufferKbit, 'steady');
      const around = estimateAround(bytesAtRate(steady, request.durationSeconds), STEADY_MISS, STEADY_MISS);
      const video = { ...around, high: bytes(around.high + buffer.bits / 8) };
      return {
        ok: true,
        budget: planFree(request, video, steady, 'rate'),
        rate: { kind: 'constant', rate: steady, buffer },
      };
    }
    case 'quality': {
      const buffer = rate.maxKbps === null ? null : bufferOf(rate.maxKbps, rate.bufferKbit);
      const budget = planQuality(request, rate.value, buffer?.highest ?? null);
      return { ok: true, budget, rate: { kind: 'quality', value: rate.value, buffer } };
    }
  }
}

function planAverage(
  request: BudgetRequest,
  kbps: number,
  [below, above]: readonly [number, number],
  how: { readonly passes: 1 | 2; readonly buffer: RateBuffer | null },
): BudgetOutcome {
  const rate = bitsPerSecond(kbps * 1000);
  const video = estimateAround(bytesAtRate(rate, request.durationSeconds), below, above);
  return { ok: true, budget: planFree(request, video, rate, 'rate'), rate: { kind: 'average', rate, ...how } };
}

function planSoundOnly({ sound, containerBytes }: BudgetRequest): PlannedBudget {
  const container = containerBytes(sound.likely);
  return {
    cap: null,
    split: { video: bytes(0), audio: sound.likely, container },
    headroom: null,
    videoRate: null,
    expected: addEstimates([sound, exactly(container)]),
    binds: 'sound',
  };
}

/** Index tables foreseen and real differ by less than this share of a copied file. */
const COPY_MISS = 0.005;

/** A part of a master may have as many times more or less than its average (common practice, no source). */
const PART_MISS = 0.5;

/** Every frame by itself: as a few of them came out, or before any was looked at, at so many bits for each pixel. */
function planMaster(request: BudgetRequest, bitsPerPixel: PixelWeight): PlannedBudget {
  const [sampled] = request.sounding?.points ?? [];
  if (sampled && request.sounding?.error) {
    const rate = bitsPerSecond(sampled.bitsPerSecond);
    const { below, above } = request.sounding.error;
    const video = estimateAround(bytesAtRate(rate, request.durationSeconds), below, above);
    return planFree(request, video, rate, 'quality');
  }
  const pixels = (request.size?.width ?? 0) * (request.size?.height ?? 0) * request.frameCount;
  const weigh = (bits: number) => bytes((bits * pixels) / 8);
  const { least, likely, most } = bitsPerPixel;
  const video = { low: weigh(least), likely: weigh(likely), high: weigh(most) };
  return { ...planFree(request, video, averageRate(video.likely, request.durationSeconds), 'quality'), isGuess: true };
}

/** A copy weighs what its streams weigh. */
function planCopied(request: BudgetRequest, weight: Bytes, miss: number): PlannedBudget {
  const rate = averageRate(weight, request.durationSeconds);
  return planFree(request, estimateAround(weight, miss, miss), rate, 'source');
}

/** @param highest - The rate that hard parts are held down to, or null. */
function planQuality(request: BudgetRequest, quality: number, highest: BitsPerSecond | null): PlannedBudget {
  const sounding = request.sounding && soundingAt(request.sounding, quality);
  if (sounding === null) {
    return {
      cap: null,
      split: { video: null, audio: request.sound.likely, container: request.containerBytes(0) },
      headroom: null,
      videoRate: null,
      expected: null,
      binds: 'quality',
    };
  }
  const sounded = soundedRate(sounding, quality);
  const { factor, below, above } = correctionFor(request, sounding);
  const rate = bitsPerSecond(Math.min(sounded * factor, highest ?? Infinity));
  const video = estimateAround(bytesAtRate(rate, request.durationSeconds), below, above);
  const free = planFree(request, video, rate, 'quality');
  const budget: PlannedBudget = sounding.between ? { ...free, isGuess: true } : free;
  // What is held down says nothing about soundings, and of a rough one more will be measured.
  if (highest !== null || sounding.isRough) return budget;
  return sounding.error
    ? { ...budget, triedError: Math.log(1 + above) / SURE }
    : { ...budget, soundedBytes: bytesAtRate(sounded, request.durationSeconds) };
}

/** What renditions came to puts quick soundings right; trials are of the order's own encoder. */
function correctionFor(
  { cameOut }: BudgetRequest,
  { error, codec }: Sounding,
): Pick<Correction, 'factor' | 'below' | 'above'> {
  return error ? { factor: 1, ...error } : correctionOf(cameOut, codec);
}

/** No cap: the parts add up to whatever they come to. */
function planFree(
  request: BudgetRequest,
  video: Estimate,
  videoRate: BitsPerSecond,
  binds: PlannedBudget['binds'],
): PlannedBudget {
  const container = request.containerBytes(video.likely + request.sound.likely);
  return {
    cap: null,
    split: { video: video.likely, audio: request.sound.likely, container },
    headroom: null,
    videoRate,
    expected: addEstimates([request.sound, exactly(container), video]),
    binds,
  };
}

function planFill(request: BudgetRequest, cap: Bytes): BudgetOutcome {
  const container = request.containerBytes(cap);
  const split = splitBudget(cap, request.sound.likely, container);
  const rate = aimedVideoRate(split.video, request.durationSeconds);
  const floor = request.sounding ? floorRate(request.sounding) * HOPELESS_SHARE_OF_FLOOR : LEAST_VIDEO_RATE;
  if (rate < Math.max(LEAST_VIDEO_RATE, floor)) {
    return { ok: false, problems: [capTooSmall(request, cap, container)] };
  }
  const saturation = request.sounding ? saturatingRate(request.sounding) : null;
  const error = request.sounding?.error ?? SOUNDING_ERROR;
  const isSaturated = saturation !== null && rate > saturation * (1 + error.above);
  const video = isSaturated
    ? bytesAtRate(saturation, request.durationSeconds)
    : bytes(Math.max(0, cap * USUAL_SHARE - split.audio - container));
  const likely = bytes(video + split.audio + container);
  const expected = isSaturated
    ? {
        low: bytes(likely * (1 - error.below)),
        likely,
        high: bytes(Math.min(cap, likely * (1 + error.above))),
      }
    : {
        // Before anything was measured nobody knows whether the picture needs so much.
        low: request.sounding ? bytes(cap * FILLED_SHARE) : bytes(split.audio + container),
        likely,
        high: cap,
      };
  const foreseen = request.sounding && foreseeFill(request, request.sounding, rate);
  return {
    ok: true,
    rate: {
      ...{ kind: 'fill', cap, rate, quality: foreseen?.quality ?? null },
      ...(request.sounding ? { foreseen: request.sounding.points } : {}),
    },
    budget: {
      ...(foreseen && teaches(request.sounding) && !isSaturated ? { soundedBytes: foreseen.soundedBytes } : {}),
      cap,
      split: { video, audio: split.audio, container },
      headroom: bytes(Math.max(0, cap - likely)),
      videoRate: isSaturated ? saturation : rate,
      expected,
      binds: isSaturated ? 'finest-quality' : 'cap',
    },
  };
}

/** Whether what comes out says how far the next sounding will be off: trials are put right by themselves, and rough ones are made again. */
function teaches(sounding: Sounding | null): boolean {
  return sounding !== null && !sounding.error && !sounding.isRough;
}

/** The quality that should come to a rate, and what the sounding alone foresees at it: what then comes out teaches the next. */
function foreseeFill(request: BudgetRequest, sounding: Sounding, rate: BitsPerSecond) {
  const { factor } = correctionFor(request, sounding);
  const quality = qualityOfRate(sounding, bitsPerSecond(rate / factor));
  return { quality, soundedBytes: bytesAtRate(soundedRate(sounding, quality), request.durationSeconds) };
}

function capTooSmall(request: BudgetRequest, cap: Bytes, container: Bytes): PlanProblem {
  const seconds = request.durationSeconds;
  const floor = request.sounding ? floorRate(request.sounding) : bitsPerSecond(LEAST_VIDEO_RATE * 20);
  const needed = request.sound.likely + container + bytesAtRate(floor, seconds);
  const fixed = request.sound.likely + container;
  const lead =
    cap <= fixed
      ? `Sound and container alone take ${fixed.toLocaleString('en')} bytes of this cap of ${cap.toLocaleString('en')}.`
      : `This cap leaves the picture less than the encoder can reach at ${request.size?.width} × ${request.size?.height}.`;
  return {
    code: cap <= fixed ? 'nothing-left' : 'cap-below-floor',
    field: 'video.rate.bytes',
    message: `${lead} About ${roundUp(needed).toLocaleString('en')} bytes would do; or choose a lower sound rate, no sound, or a smaller frame size.`,
  };
}

/** Two significant digits, upward: advice need not look exact. */
function roundUp(value: number): number {
  const unit = 10 ** Math.max(0, Math.floor(Math.log10(value)) - 1);
  return Math.ceil(value / unit) * unit;
}
