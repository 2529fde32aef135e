import type { EncodePlan } from '../plan/encodePlan.ts';
import type { VideoCodec } from '../video/codecs.ts';
import { densityOf, workOf, workOfPlan, type EncodeKind, type PixelsWorked } from './encodeWork.ts';

/** How fast this machine was at one kind of encode. */
export interface MeasuredSpeed extends EncodeKind {
  /** Work a second while it encoded (`workOf`): the slowest, the middle and the fastest seen. */
  readonly workPerSecond: { readonly slowest: number; readonly usual: number; readonly fastest: number };
  /** The middle of what those results took. */
  readonly bitsPerPixel: number;
  readonly encodes: number;
}

/** How encodes of one programme in one codec went against others of their kinds. */
export interface ProgrammePace {
  readonly programmeId: string;
  readonly codec: VideoCodec;
  /** So many times as fast as usual, as far as that is believed. */
  readonly pace: number;
}

/** How fast this machine was lately. */
export interface MachineSpeeds {
  readonly encoding: readonly MeasuredSpeed[];
  readonly programmes: readonly ProgrammePace[];
  /** Pixels of masters that were compared with results, and all else that is checked, a second; null before the first. */
  readonly checkedPixelsPerSecond: number | null;
}

/** An encode that was finished here. */
export interface FinishedEncode {
  readonly programmeId: string;
  readonly kind: EncodeKind;
  readonly pixels: PixelsWorked;
  readonly bitsPerPixel: number;
  readonly encodeSeconds: number;
  readonly checkSeconds: number | null;
  /** Of both, the share in which the cores were shared with other work, from 0 to 1. */
  readonly besideShare: number;
}

/** Seconds an encode should take, checks included. */
export interface TimeEstimate {
  readonly low: number;
  readonly likely: number;
  readonly high: number;
  /** What the checks at its end are of the likely ones. */
  readonly checking: number;
}

/**
 * What finished encodes say of the speed of each kind, and of the checks of all.
 *
 * @param finished - The latest first; of each kind the latest few count, since machines and programmes change.
 */
export function learnSpeeds(finished: readonly FinishedEncode[]): MachineSpeeds {
  const byKind = new Map<string, KnownKind>();
  for (const { kind, programmeId, pixels, bitsPerPixel, ...took } of finished) {
    const encodeSeconds = took.encodeSeconds * aloneOf(took);
    const key = JSON.stringify([kind.codec, kind.effort, kind.way]);
    const known = byKind.get(key) ?? { kind, programmes: [], rates: [], densities: [] };
    byKind.set(key, known);
    if (pixels.own <= 0 || encodeSeconds <= 0 || known.rates.length >= REMEMBERED) continue;
    known.programmes.push(programmeId);
    known.rates.push(workOf(kind, pixels, bitsPerPixel) / withoutStart(encodeSeconds, startingSeconds(kind)));
    known.densities.push(bitsPerPixel);
  }
  const checked = finished.flatMap(({ pixels, checkSeconds, ...took }) =>
    checkSeconds && pixels.masters > 0
      ? [pixels.masters / withoutStart(checkSeconds * aloneOf(took), STARTING_CHECKS_SECONDS)]
      : [],
  );
  const kinds = [...byKind.values()].filter(({ rates }) => rates.length > 0);
  return {
    encoding: kinds.map((one) => {
      const { kind, rates, densities } = one;
      const usual = usualOf(one, kinds);
      const workPerSecond = { slowest: Math.min(usual, ...rates), usual, fastest: Math.max(usual, ...rates) };
      return { ...kind, workPerSecond, bitsPerPixel: middleOf(densities), encodes: rates.length };
    }),
    programmes: learnPaces(kinds),
    checkedPixelsPerSecond: checked.length > 0 ? middleOf(checked.slice(0, REMEMBERED)) : null,
  };
}

/**
 * Beside other work an encode takes so many times as long as by itself (measured on two cores, beside analyses and soundings: 1.3 to 1.6 in
 * H.264, HEVC and VP9, checks 1.3).
 */
const BESIDE = 1.5;

/** What it would have taken by itself, of what it took. */
function aloneOf({ besideShare }: Pick<FinishedEncode, 'besideShare'>): number {
  return 1 - besideShare * (1 - 1 / BESIDE);
}

/** Encodes of one kind, each with its programme. */
interface KnownKind {
  readonly kind: EncodeKind;
  readonly programmes: string[];
  readonly rates: number[];
  readonly densities: number[];
}

/**
 * What was seen of a codec and effort in other ways counts as so many sizes that were filled: one may take one encode of the whole or
 * three, so that the first says little of the next (one clip's took 2.5 times as long as its other encodes let expect, and foresaw the
 * next at twice what it took; measured).
 */
const IN_OTHER_WAYS = 2;

function usualOf({ kind, rates }: KnownKind, kinds: readonly KnownKind[]): number {
  const own = middleOf(rates);
  if (kind.way !== 'filling') return own;
  const others = kinds.filter((one) => unlike(one.kind, kind) === UNLIKE.way).flatMap((one) => one.rates);
  if (others.length === 0) return own;
  const share = rates.length / (rates.length + IN_OTHER_WAYS);
  return own ** share * middleOf(others) ** (1 - share);
}

/** So much of an encode stands against what it says of its programme: one is believed by three fifths (measured, see `speedsOf`). */
const DOUBT = 0.67;

/** A kind that only one programme was made by says nothing of it. */
function learnPaces(kinds: readonly KnownKind[]): ProgrammePace[] {
  const found = new Map<string, { programmeId: string; codec: VideoCodec; logs: number[] }>();
  for (const { kind, programmes, rates } of kinds) {
    if (new Set(programmes).size < 2) continue;
    const usual = middleOf(rates);
    rates.forEach((rate, index) => {
      const head = { programmeId: programmes[index]!, codec: kind.codec };
      const key = JSON.stringify(head);
      const known = found.get(key) ?? { ...head, logs: [] };
      found.set(key, known);
      known.logs.push(Math.log(rate / usual));
    });
  }
  return Array.from(found.values(), ({ logs, ...head }) => ({
    ...head,
    pace: Math.exp(logs.reduce((sum, one) => sum + one, 0) / (logs.length + DOUBT)),
  }));
}

/** One more encode of a programme lay so many times as far off at most, nine times of ten (measured, see `speedsOf`). */
const OWN_APART = 1.4;

/**
 * The speeds as they are for one programme: what is in its picture makes it quicker or slower than others in every encode. Sixteen
 * scenes in H.264 at medium effort were foreseen from others of the same density 1.12 times off in the middle and 1.6 in the tenth; from
 * one encode of their own at another quality 1.05 and 1.25, in HEVC 1.2 and 1.4 instead of 1.4 and 1.8. Another codec tells little: grain
 * costs more than usual in one, and less in the next.
 */
export function speedsOf(programmeId: string, speeds: MachineSpeeds): MachineSpeeds {
  const own = speeds.programmes.filter((one) => one.programmeId === programmeId);
  if (own.length === 0) return speeds;
  const encoding = speeds.encoding.map((speed) => {
    const pace = own.find(({ codec }) => codec === speed.codec)?.pace;
    if (!pace) return speed;
    const usual = speed.workPerSecond.usual * pace;
    return { ...speed, workPerSecond: { slowest: usual / OWN_APART, usual, fastest: usual * OWN_APART } };
  });
  return { ...speeds, encoding };
}

/** Of several; of two the greater. */
function middleOf(values: readonly number[]): number {
  return values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]!;
}

/**
 * What encoding takes however short it is, in seconds, and checking, for which the engine is started half a dozen times (measured: checks of
 * a clip of 150 frames took 1.1 to 1.9 seconds, of programmes a second for 75 million pixels). What was learned of clips would otherwise
 * promise far too long for programmes.
 */
export const STARTING_SECONDS = 0.6;
export const STARTING_CHECKS_SECONDS = 1.1;

/** For a size half a dozen groups are encoded again, each started and compared by itself (measured: 0.5 to 2 seconds each). */
const STARTING_GROUPS_SECONDS = 6;

/** What encoding takes in one way, however short it is. */
export function startingSeconds({ way }: Pick<EncodeKind, 'way'>): number {
  return STARTING_SECONDS + (way === 'filling' ? STARTING_GROUPS_SECONDS : 0);
}

/** What took no longer than its starts says little, and never that the rest costs nothing. */
function withoutStart(seconds: number, starting: number): number {
  return Math.max(seconds - starting, seconds / 3);
}

/** Encodes of one kind that are remembered. */
const REMEMBERED = 12;

/**
 * One programme takes so many times as long as another, apart from its frames and its bits (measured: half of nine scenes lay
 * within 1.25, the furthest 2 apart); the more were seen, the less is left unseen.
 */
const BY_CONTENT = 1.7;

/** Where only a kind's like was seen it may lie this much further off, and once more where not even that was. */
const UNSEEN = 1.5;

/**
 * How long an encode should take on this machine: by encodes of its kind, or where there were none by those most like it, the
 * same codec and effort first.
 *
 * @returns null while nothing was finished here.
 */
export function foreseeSeconds(
  plan: Pick<EncodePlan, 'streams' | 'budget'>,
  { encoding, checkedPixelsPerSecond }: MachineSpeeds,
): TimeEstimate | null {
  const planned = workOfPlan(plan);
  const { kind } = planned;
  const speed = kind && nearestSpeed(kind, encoding);
  if (!kind || !speed) return null;
  const { slowest, usual, fastest } = speed.workPerSecond;
  const bitsPerPixel = densityOf(planned, plan.budget.expected?.likely ?? null) ?? speed.bitsPerPixel;
  const work = workOf(kind, planned, bitsPerPixel);
  const unseen = BY_CONTENT ** (1 / Math.sqrt(speed.encodes)) * UNSEEN ** Math.min(2, unlike(kind, speed));
  const checking = STARTING_CHECKS_SECONDS + (checkedPixelsPerSecond ? planned.masters / checkedPixelsPerSecond : 0);
  return {
    low: STARTING_SECONDS + work / fastest / unseen + checking / CHECKS_APART,
    likely: startingSeconds(kind) + work / usual + checking,
    high: startingSeconds(kind) + (work / slowest) * unseen + checking * CHECKS_APART,
    checking,
  };
}

/** Checks of one programme take so many times as long as those of another. */
const CHECKS_APART = 1.3;

/** How fast the kind was that is most like another; null where nothing was learned. */
export function nearestSpeed(kind: EncodeKind, encoding: readonly MeasuredSpeed[]): MeasuredSpeed | null {
  return encoding.toSorted((a, b) => unlike(kind, a) - unlike(kind, b) || b.encodes - a.encodes)[0] ?? null;
}

/** What tells kinds apart, the more the further. */
const UNLIKE = { codec: 4, effort: 2, way: 1 } as const;

function unlike(kind: EncodeKind, one: EncodeKind): number {
  return (
    (one.codec === kind.codec ? 0 : UNLIKE.codec) +
    (one.effort === kind.effort ? 0 : UNLIKE.effort) +
    (one.way === kind.way ? 0 : UNLIKE.way)
  );
}
