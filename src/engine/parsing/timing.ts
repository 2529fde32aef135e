import { isUsualRate, snapFrameRate, usualRatesNear } from '../../core/timing/frameRate.ts';
import { framesToSeconds, parseRational, rational, toNumber, type Rational } from '../../core/timing/rational.ts';
import { EngineError } from '../engineError.ts';
import type { PacketTally } from './packets.ts';
import type { ProbeStream } from './report.ts';

/** How a picture's frames follow one another. */
export interface Timing {
  readonly rate: Rational;
  readonly constant: boolean;
  readonly durationSeconds: number;
  /** Of every frame, in seconds from the first, never falling; null at a constant rate. */
  readonly frameTimes: readonly number[] | null;
}

/**
 * Measures the rate from the packets' times. Header rates are believed only where the timestamps bear them out.
 *
 * @throws EngineError `file-absurd` when no time passes between the frames.
 */
export function measureTiming(stream: ProbeStream, tally: PacketTally): Timing {
  const claimed =
    parseRational(stream.r_frame_rate ?? '') ?? parseRational(stream.avg_frame_rate ?? '') ?? rational(25, 1);
  const { times } = tally;
  if (times.length < 2 || times.length < tally.packets) {
    const rate = snapFrameRate(toNumber(parseRational(stream.avg_frame_rate ?? '') ?? claimed));
    return { rate, constant: true, durationSeconds: framesToSeconds(tally.packets, rate), frameTimes: null };
  }
  const length = times.at(-1)! - times[0]!;
  if (length <= 0) {
    throw new EngineError(
      'file-absurd',
      `All ${times.length} frames of this file are shown at one moment: its times are damaged. Export it again.`,
    );
  }
  const mean = (times.length - 1) / length;
  // 23.98 is near enough to 24000/1001 to be taken for it, and far enough to drift; then it is what it claims to be.
  // Times that were brought to the places of another rate are off by up to a frame at either end, and so is their mean.
  const usual = usualRatesNear(mean, 1 / times.length);
  for (const rate of [snapFrameRate(toNumber(claimed)), snapFrameRate(mean), ...usual, claimed]) {
    if (isConstantAt(times, rate)) {
      return { rate, constant: true, durationSeconds: framesToSeconds(tally.packets, rate), frameTimes: null };
    }
  }
  const durationSeconds = lengthOfVariable(stream, tally, mean);
  return {
    rate: snapFrameRate(times.length / durationSeconds),
    constant: false,
    durationSeconds,
    frameTimes: times.map((time) => time - times[0]!),
  };
}

/**
 * Every frame lies within half a frame of its place. At a rate the trade does not use each follows the one before it within one and a half as
 * well: where one of several was dropped, the others lie near the places of a slower rate, but not even. The same pattern at a rate the trade
 * uses is that rate, brought to the places of another.
 */
function isConstantAt(times: readonly number[], rate: Rational): boolean {
  const first = times[0]!;
  const half = 0.5 / toNumber(rate);
  const longest = isUsualRate(rate) ? Infinity : 3 * half;
  return times.every(
    (time, index) =>
      Math.abs(time - first - framesToSeconds(index, rate)) < half &&
      (index === 0 || time - times[index - 1]! < longest),
  );
}

/** To the end of the last frame, which only the file's index may know; without one it is as long as the mean. */
function lengthOfVariable(stream: ProbeStream, { times, endSeconds }: PacketTally, mean: number): number {
  const length = times.at(-1)! - times[0]!;
  const known = Math.max((endSeconds ?? 0) - times[0]!, Number(stream.duration) || 0);
  return known > length ? known : length + 1 / mean;
}
