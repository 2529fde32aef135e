import { soundedRate, type Sounding } from '../sounding/sounding.ts';
import type { QualityScale } from '../video/definition.ts';
import { toStep } from '../video/qualityStep.ts';
import type { WeighedPass } from './weighed.ts';

/** From an encode that was answered to the next in one go at most, as the logarithm of the size. */
const MOST_SIZE_STEP = Math.log(10);

/** What a size was foreseen by, from fine to coarse; only how one compares with the next counts here. */
export type ForeseenCurve = Sounding['points'];

/**
 * The constant quality at which the picture should come to so many bytes: on from what was weighed as the sounding's own
 * curve goes, which knows where the programme drops its grain; without one as is usual of the codec. Between two encodes
 * the curve is bent to go through both.
 *
 * @param wanted - Bytes of the picture.
 * @param passes - At least one.
 * @param foreseen - Empty, or of one point, where nothing was sounded.
 * @returns null when every quality between the tried ones around it was tried.
 */
export function aimPass(
  scale: QualityScale,
  wanted: number,
  passes: readonly WeighedPass[],
  foreseen: ForeseenCurve,
): number | null {
  const [finer, nextFiner] = passes
    .filter((pass) => pass.videoBytes > wanted)
    .toSorted((a, b) => b.quality - a.quality);
  const [coarser, nextCoarser] = passes
    .filter((pass) => pass.videoBytes <= wanted)
    .toSorted((a, b) => a.quality - b.quality);
  const stepOf = (quality: number) => Math.round(quality / scale.step);
  const first = finer ? stepOf(finer.quality) + 1 : stepOf(scale.finestSensible);
  const last = coarser ? stepOf(coarser.quality) - 1 : stepOf(scale.worst);
  if (first > last) return null;
  const nearest = (finer ?? coarser)!;
  const near = Math.max(-MOST_SIZE_STEP, Math.min(MOST_SIZE_STEP, Math.log(wanted / nearest.videoBytes)));
  const isBetween = finer !== undefined && coarser !== undefined;
  const other = isBetween ? coarser : finer ? nextFiner : nextCoarser;
  const logOf = curveThrough(scale, foreseen, nearest, other, isBetween ? BETWEEN : BEYOND);
  const distance = (step: number) => Math.abs(logOf(step * scale.step) - near);
  let best = first;
  for (let step = first + 1; step <= last; step += 1) {
    if (distance(step) < distance(best)) best = step;
  }
  return toStep(scale, best * scale.step);
}

/** How much of a curve is believed to be answered to, at least and at most: between two encodes it goes through both, whatever that takes. */
type Answered = readonly [least: number, most: number];
const BETWEEN: Answered = [-Infinity, Infinity];
/**
 * Beyond both of two on the same side. At an encoder's floor little is answered to, and an encode that went by the curve again would be one
 * more that misses; however little it is, the next goes no further than four times what the curve says.
 */
const BEYOND: Answered = [1 / 4, 1];

/**
 * What the picture should come to at a quality.
 *
 * @param other - Another encode, which tells how much of the curve is answered to; none after the first.
 * @returns Logarithm of the bytes, against those of the encode it goes through.
 */
function curveThrough(
  { slope }: QualityScale,
  foreseen: ForeseenCurve,
  through: WeighedPass,
  other: WeighedPass | undefined,
  [least, most]: Answered,
): (quality: number) => number {
  const usual = (quality: number) => slope * (quality - through.quality);
  const own = foreseen.length > 1 ? (quality: number) => fallOf(foreseen, through.quality, quality) : usual;
  if (!other) return own;
  const came = Math.log(Math.max(1, other.videoBytes) / Math.max(1, through.videoBytes));
  // Where the programme's own curve is flat between them, it says nothing of that.
  const shape = own(other.quality) / usual(other.quality) > 0 ? own : usual;
  const answered = Math.min(most, Math.max(least, came / shape(other.quality)));
  return (quality) => shape(quality) * answered;
}

/** So far to either side of a quality its slope is looked at: about what a group is asked for. */
const AROUND = Math.log(1.25);

/**
 * Logarithm of the size for each step of quality around one: as the programme's own curve goes there, at a cliff several times as steep
 * as is usual of the codec; never flatter than that.
 */
export function slopeAround(
  { slope, finestSensible, worst }: QualityScale,
  foreseen: ForeseenCurve,
  quality: number,
): number {
  const reach = AROUND / -slope;
  const [finer, coarser] = [Math.max(finestSensible, quality - reach), Math.min(worst, quality + reach)];
  if (foreseen.length < 2 || finer >= coarser) return slope;
  return Math.min(slope, fallOf(foreseen, finer, coarser) / (coarser - finer));
}

/** From one quality to another, as the logarithm of the rate; of two points at least. */
function fallOf(points: ForeseenCurve, from: number, to: number): number {
  return Math.log(soundedRate({ points }, to) / soundedRate({ points }, from));
}
