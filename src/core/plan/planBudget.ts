import { estimateAround, bytesAtRate, type Estimate } from '../budget/projections.ts';
import { aimedVideoRate, splitBudget } from '../budget/splitBudget.ts';
import { FILLED_SHARE, USUAL_SHARE } from '../budget/weighed.ts';
import type { FrameSize } from '../geometry/frameSize.ts';
import { bitsPerSecond, bytes, type BitsPerSecond, type Bytes } from '../units.ts';
import type { PictureRate, PlannedBudget } from './encodePlan.ts';
import type { PlanProblem } from './planProblem.ts';
import type { RateChoice } from '../recipe/recipe.ts';
import {
  floorRate,
  qualityOfRate,
  saturatingRate,
  soundedRate,
  SOUNDING_ERROR,
  type Sounding,
} from '../sounding/sounding.ts';

interface BudgetRequest {
  /** null for a sound-only rendition. */
  readonly rate: RateChoice | null;
  readonly audioBytes: Bytes;
  /** The container's bytes for a payload of so many bytes. */
  readonly containerBytes: (payload: number) => Bytes;
  readonly durationSeconds: number;
  readonly sounding: Sounding | null;
  readonly size: FrameSize | null;
}

type BudgetOutcome =
  | { readonly ok: true; readonly budget: PlannedBudget; readonly rate: PictureRate | null }
  | { readonly ok: false; readonly problems: readonly PlanProblem[] };

/** How far encoders miss an average rate: [below, above], one pass and two (measured on short programmes). */
const RATE_MISS = { 1: [0.1, 0.22], 2: [0.03, 0.07] } as const;

/** Sound comes out at its nominal rate or, where it is quiet, at as little as this much less (measured on speech). */
const SOUND_MISS = { below: 0.65, above: 0.03 } as const;

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
  const { rate } = request;
  if (rate === null) return { ok: true, budget: planSoundOnly(request), rate: null };
  switch (rate.mode) {
    case 'size':
      return planFill(request, bytes(rate.bytes));
    case 'average': {
      const asked = bitsPerSecond(rate.kbps * 1000);
      const [below, above] = RATE_MISS[rate.passes];
      const video = estimateAround(bytesAtRate(asked, request.durationSeconds), below, above);
      const budget = planFree(request, video, asked, 'rate');
      return { ok: true, budget, rate: { kind: 'average', rate: asked, passes: rate.passes } };
    }
    case 'quality': {
      const budget = planQuality(request, rate.value);
      return { ok: true, budget, rate: { kind: 'quality', value: rate.value } };
    }
  }
}

function planSoundOnly(request: BudgetRequest): PlannedBudget {
  const container = request.containerBytes(request.audioBytes);
  return {
    cap: null,
    split: { video: bytes(0), audio: request.audioBytes, container },
    headroom: null,
    videoRate: null,
    expected: estimateAround(request.audioBytes + container, SOUND_MISS.below, SOUND_MISS.above),
    binds: 'sound',
  };
}

function planQuality(request: BudgetRequest, quality: number): PlannedBudget {
  if (request.sounding === null) {
    return {
      cap: null,
      split: { video: null, audio: request.audioBytes, container: request.containerBytes(0) },
      headroom: null,
      videoRate: null,
      expected: null,
      binds: 'quality',
    };
  }
  const rate = soundedRate(request.sounding, quality);
  const { below, above } = SOUNDING_ERROR;
  const video = estimateAround(bytesAtRate(rate, request.durationSeconds), below, above);
  return planFree(request, video, rate, 'quality');
}

/** No cap: the parts add up to whatever they come to. */
function planFree(
  request: BudgetRequest,
  video: Estimate,
  videoRate: BitsPerSecond,
  binds: PlannedBudget['binds'],
): PlannedBudget {
  const container = request.containerBytes(video.likely + request.audioBytes);
  const audio = estimateAround(request.audioBytes, SOUND_MISS.below, SOUND_MISS.above);
  return {
    cap: null,
    split: { video: video.likely, audio: request.audioBytes, container },
    headroom: null,
    videoRate,
    expected: {
      low: bytes(audio.low + container + video.low),
      likely: bytes(audio.likely + container + video.likely),
      high: bytes(audio.high + container + video.high),
    },
    binds,
  };
}

function planFill(request: BudgetRequest, cap: Bytes): BudgetOutcome {
  const container = request.containerBytes(cap);
  const split = splitBudget(cap, request.audioBytes, container);
  const rate = aimedVideoRate(split.video, request.durationSeconds);
  const floor = request.sounding ? floorRate(request.sounding) * HOPELESS_SHARE_OF_FLOOR : LEAST_VIDEO_RATE;
  if (rate < Math.max(LEAST_VIDEO_RATE, floor)) {
    return { ok: false, problems: [capTooSmall(request, cap, container)] };
  }
  const saturation = request.sounding ? saturatingRate(request.sounding) : null;
  const isSaturated = saturation !== null && rate > saturation * (1 + SOUNDING_ERROR.above);
  const video = isSaturated
    ? bytesAtRate(saturation, request.durationSeconds)
    : bytes(Math.max(0, cap * USUAL_SHARE - split.audio - container));
  const likely = bytes(video + split.audio + container);
  const expected = isSaturated
    ? {
        low: bytes(likely * (1 - SOUNDING_ERROR.below)),
        likely,
        high: bytes(Math.min(cap, likely * (1 + SOUNDING_ERROR.above))),
      }
    : {
        // Before anything was measured nobody knows whether the picture needs so much.
        low: request.sounding ? bytes(cap * FILLED_SHARE) : bytes(split.audio + container),
        likely,
        high: cap,
      };
  return {
    ok: true,
    rate: { kind: 'fill', cap, rate, quality: request.sounding && qualityOfRate(request.sounding, rate) },
    budget: {
      cap,
      split: { video, audio: split.audio, container },
      headroom: bytes(Math.max(0, cap - likely)),
      videoRate: isSaturated ? saturation : rate,
      expected,
      binds: isSaturated ? 'finest-quality' : 'cap',
    },
  };
}

function capTooSmall(request: BudgetRequest, cap: Bytes, container: Bytes): PlanProblem {
  const seconds = request.durationSeconds;
  const floor = request.sounding ? floorRate(request.sounding) : bitsPerSecond(LEAST_VIDEO_RATE * 20);
  const needed = request.audioBytes + container + bytesAtRate(floor, seconds);
  const fixed = request.audioBytes + container;
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
