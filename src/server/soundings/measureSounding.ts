import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { TRANSPARENT, type SoundingRequest } from '../../contract/sounding.ts';
import { bitsBetween } from '../../core/analysis/busyness.ts';
import { planPicture } from '../../core/plan/planPicture.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { chooseSampledSpans, chooseSoundedSpans, type SoundedSpan } from '../../core/sounding/soundedSpans.ts';
import { gaugedRate, sampledRate, type GaugedStretch, type Sounding } from '../../core/sounding/sounding.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import { toNumber } from '../../core/timing/rational.ts';
import { isRated, KEYFRAME_SECONDS } from '../../core/video/codecs.ts';
import type { GaugeRequest } from '../../engine/engine.ts';
import { readFindings } from '../analysis/readAnalysis.ts';
import type { Context } from '../context.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';

/** What was measured of a sounding. */
export interface MeasuredSounding {
  readonly points: Sounding['points'];
  /** As a share, where it was measured; null for quick encodes. */
  readonly error: number | null;
  /** Whether nobody knew yet how busy the programme is where: it lies further off, and is made again. */
  readonly is_rough: boolean;
}

/** The frames it is about. */
export function spanOf(facts: ProgrammeFacts, { portion }: SoundingRequest): SoundedSpan {
  if (!portion) return { inFrame: 0, frameCount: facts.frameCount };
  return { inFrame: portion.inFrame, frameCount: portion.outFrame - portion.inFrame + 1 };
}

/**
 * What it takes at each quality, or as a master.
 *
 * @param qualities - From fine to coarse; a codec for masters has none.
 */
export async function measureSounding(
  context: Context,
  programme: ProgrammeRow,
  request: SoundingRequest,
  qualities: readonly number[],
  signal: AbortSignal,
): Promise<MeasuredSounding> {
  const { facts } = programme;
  const { codec, stored } = request;
  const span = spanOf(facts, request);
  const sourceRate = toNumber(facts.frameRate);
  const clock = await readClock(context, programme);
  // Frames of a varying rate are counted by how long they are shown.
  const seconds = clock.secondsOf(span.inFrame + span.frameCount) - clock.secondsOf(span.inFrame);
  const framesPerSecond = request.frameRate ? toNumber(request.frameRate) : span.frameCount / seconds;
  const isWhole = ([first]: readonly SoundedSpan[]) => first?.frameCount === span.frameCount;
  if (!isRated(codec)) {
    const places = chooseSampledSpans(span, sourceRate);
    const master = { kind: 'master', codec, flavour: stored?.flavour ?? '' } as const;
    const [sizes = []] = await gauge(context, { programme, request, clock }, places, { master }, signal);
    const { bitsPerSecond, error } = sampledRate(sizes, framesPerSecond, isWhole(places));
    return { points: [{ quality: 0, bitsPerSecond: Math.round(bitsPerSecond) }], error, is_rough: false };
  }
  const keyframeInterval = Math.max(1, Math.round(toNumber(request.frameRate ?? facts.frameRate) * KEYFRAME_SECONDS));
  const findings = await readFindings(context, programme.id);
  const busyness = findings?.busyness ?? null;
  const busyOf = ({ inFrame, frameCount }: SoundedSpan) =>
    busyness ? bitsBetween(busyness, clock.secondsOf(inFrame), clock.secondsOf(inFrame + frameCount)) : 0;
  const stretches = chooseSoundedSpans(span, sourceRate, busyness && busyOf);
  const sizes = await gauge(
    context,
    { programme, request, clock },
    stretches,
    { codec, qualities, keyframeInterval },
    signal,
  );
  const rateOf = (index: number) =>
    gaugedRate(sizes[index] ?? [], framesPerSecond, keyframeInterval, isWhole(stretches));
  return {
    points: qualities.map((quality, index) => ({ quality, bitsPerSecond: Math.round(rateOf(index)) })),
    error: null,
    is_rough: !findings && !isWhole(stretches),
  };
}

/** What is sounded, and when its frames are shown. */
interface Sounded {
  readonly programme: ProgrammeRow;
  readonly request: SoundingRequest;
  readonly clock: FrameClock;
}

/** What frames of some stretches take, for each way they are encoded. */
async function gauge(
  context: Context,
  { programme, request, clock }: Sounded,
  stretches: readonly SoundedSpan[],
  how: GaugeRequest,
  signal: AbortSignal,
): Promise<GaugedStretch[][]> {
  const { facts } = programme;
  const { video } = facts;
  if (!video) throw new Refusal('no-picture', 'This programme has sound only.');
  const { width, height, stored, alpha, frameRate: rate } = request;
  const common = { facts, video, clock, size: { width, height }, rate };
  const gauged: GaugedStretch[][] = [];
  const workingFolder = path.join(context.config.dataFolder, 'work', `sounding-${context.newId()}`);
  await mkdir(workingFolder, { recursive: true });
  try {
    for (const frames of stretches) {
      const format = stored?.format ?? (alpha ? TRANSPARENT : '420p8');
      const picture = planPicture({ ...common, frames, preparation: request, format });
      const options = { workingFolder, signal, onProgress: () => undefined };
      const sizes = await withMaster(identityOf(programme), (source) =>
        context.engine.gauge(picture, how, source, options),
      );
      sizes.forEach((value, index) => (gauged[index] ??= []).push(value));
    }
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
  return gauged;
}
