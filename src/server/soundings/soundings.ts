import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import type { SoundingRequest, SoundingStanding } from '../../contract/sounding.ts';
import { isBeyond } from '../../core/geometry/frameSize.ts';
import { croppedSize, namePreparation } from '../../core/geometry/preparation.ts';
import { planPicture } from '../../core/plan/planPicture.ts';
import { gaugedRate, type GaugedStretch, type Sounding } from '../../core/sounding/sounding.ts';
import { KEYFRAME_SECONDS, VIDEO } from '../../core/video/codecs.ts';
import { chooseSoundedSpans, type SoundedSpan } from '../../core/sounding/soundedSpans.ts';
import { toNumber } from '../../core/timing/rational.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import * as statements from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal, Refusal } from '../refusal.ts';

/** Measurements that wait at most; whoever drags a portion about wants the last, not all that lie on the way. */
const MOST_WAITING = 6;

/** A measurement that takes longer than this is given up, so that the others get their turn. */
const LIMIT_MS = 10 * 60_000;

/** A sounding that was measured, or null. */
export async function findSounding(
  context: Context,
  programmeId: string,
  facts: ProgrammeFacts,
  request: SoundingRequest,
): Promise<Sounding | null> {
  const { codec, width, height } = request;
  const { inFrame, frameCount } = spanOf(facts, request);
  const values = [programmeId, codec, width, height, namePreparation(request), inFrame, frameCount];
  const [row] = await context.database.query<{ points: Sounding['points'] }>(statements.FIND_SOUNDING, values);
  return row ? { codec, size: { width, height }, points: row.points } : null;
}

function spanOf(facts: ProgrammeFacts, { portion }: SoundingRequest): SoundedSpan {
  if (!portion) return { inFrame: 0, frameCount: facts.frameCount };
  return { inFrame: portion.inFrame, frameCount: portion.outFrame - portion.inFrame + 1 };
}

/** Measures soundings one after another in the background, the one asked for last first. */
export interface SoundingDesk {
  /** The sounding, or how it stands; measures nothing. */
  find(programmeId: string, request: SoundingRequest): Promise<Sounding | SoundingStanding>;
  /** Has it measured; an event tells when it is there, or that it could not be. */
  ask(programmeId: string, request: SoundingRequest): Promise<Sounding | SoundingStanding>;
  stop(): Promise<void>;
}

interface Wanted {
  readonly key: string;
  readonly programme: ProgrammeRow;
  readonly request: SoundingRequest;
}

export function createSoundingDesk(context: Context): SoundingDesk {
  const stopping = new AbortController();
  /** The next to be measured last. */
  const waiting: Wanted[] = [];
  /** Why a measurement could not be made, until it is asked for again. */
  const failures = new Map<string, Refusal>();
  let current: Wanted | null = null;
  let loop: Promise<void> | null = null;

  const work = async () => {
    for (let next = waiting.pop(); next && !stopping.signal.aborted; next = waiting.pop()) {
      current = next;
      const limit = AbortSignal.timeout(LIMIT_MS);
      const signal = AbortSignal.any([stopping.signal, limit]);
      await measure(context, next.programme, next.request, signal).catch((error: unknown) => {
        if (stopping.signal.aborted) return;
        context.logger.warn({ programmeId: next.programme.id, err: error }, 'a sounding failed');
        failures.set(next.key, explain(error));
      });
      current = null;
      context.events.publish({ type: 'sounding', programmeId: next.programme.id });
    }
  };
  const standingOf = (key: string): SoundingStanding => {
    if (current?.key === key) return { state: 'measuring', ahead: 0 };
    const place = waiting.findIndex((one) => one.key === key);
    if (place === -1) return { state: 'not-measured', ahead: 0 };
    return { state: 'waiting', ahead: waiting.length - 1 - place + (current ? 1 : 0) };
  };
  const look = async (programmeId: string, request: SoundingRequest) => {
    const programme = await findProgramme(context, programmeId);
    requireSensible(programme.facts, request);
    const key = keyOf(programmeId, request);
    return { programme, key, known: await findSounding(context, programmeId, programme.facts, request) };
  };
  return {
    find: async (programmeId, request) => {
      const { key, known } = await look(programmeId, request);
      const failure = failures.get(key);
      if (!known && failure) throw failure;
      return known ?? standingOf(key);
    },
    ask: async (programmeId, request) => {
      const { programme, key, known } = await look(programmeId, request);
      if (known) return known;
      failures.delete(key);
      if (current?.key !== key) {
        const place = waiting.findIndex((one) => one.key === key);
        if (place !== -1) waiting.splice(place, 1);
        waiting.push({ key, programme, request });
        waiting.splice(0, waiting.length - MOST_WAITING);
        loop ??= work().finally(() => (loop = null));
      }
      return standingOf(key);
    },
    stop: async () => {
      stopping.abort();
      await loop;
    },
  };
}

function keyOf(programmeId: string, request: SoundingRequest): string {
  const { codec, width, height, portion } = request;
  return JSON.stringify([programmeId, codec, width, height, namePreparation(request), portion]);
}

/** @throws Refusal for what no order could be about. */
function requireSensible(facts: ProgrammeFacts, { width, height, crop, portion }: SoundingRequest): void {
  if (!facts.video) throw new Refusal('no-picture', 'This programme has sound only.');
  const left = croppedSize(facts, crop);
  if (Math.min(left.width, left.height) < 2 || isBeyond({ width, height }, left, facts.video.pixelAspect)) {
    throw new Refusal(
      'frame-too-large',
      `${width} × ${height} is larger than this programme’s picture; only frame sizes up to its own are measured.`,
      { field: 'width' },
    );
  }
  if (portion && (portion.inFrame > portion.outFrame || portion.outFrame >= facts.frameCount)) {
    throw new Refusal(
      'portion-outside',
      `The portion runs from frame ${portion.inFrame} to ${portion.outFrame}; this programme has frames 0 to ${facts.frameCount - 1}.`,
      { field: 'portion' },
    );
  }
}

function explain(error: unknown): Refusal {
  if (isRefusal(error)) return error;
  const message = 'What this portion would take could not be measured; the master may be damaged there.';
  return new Refusal('sounding-failed', message, { cause: error });
}

async function measure(
  context: Context,
  programme: ProgrammeRow,
  request: SoundingRequest,
  signal: AbortSignal,
): Promise<void> {
  const { facts } = programme;
  const { codec, width, height } = request;
  const { video } = facts;
  if (!video) return;
  const span = spanOf(facts, request);
  const rate = toNumber(facts.frameRate);
  const keyframeInterval = Math.max(1, Math.round(rate * KEYFRAME_SECONDS));
  const qualities = VIDEO[codec].quality.sounded;
  const gauged: GaugedStretch[][] = qualities.map(() => []);
  const clock = await readClock(context, programme);
  const stretches = chooseSoundedSpans(span, rate);
  const workingFolder = path.join(context.config.dataFolder, 'work', `sounding-${programme.id}`);
  await mkdir(workingFolder, { recursive: true });
  try {
    for (const stretch of stretches) {
      const size = { width, height };
      const picture = planPicture({ facts, video, clock, frames: stretch, size, preparation: request });
      const sizes = await withMaster(identityOf(programme), (source) =>
        context.engine.gauge(picture, { codec, qualities, keyframeInterval }, source, {
          workingFolder,
          signal,
          onProgress: () => undefined,
        }),
      );
      sizes.forEach((value, index) => gauged[index]?.push(value));
    }
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
  const isWhole = stretches.length === 1 && stretches[0]?.frameCount === span.frameCount;
  // Frames of a varying rate are counted by how long they are shown.
  const seconds = clock.secondsOf(span.inFrame + span.frameCount) - clock.secondsOf(span.inFrame);
  const points = qualities.map((quality, index) => ({
    quality,
    bitsPerSecond: Math.round(gaugedRate(gauged[index] ?? [], span.frameCount / seconds, keyframeInterval, isWhole)),
  }));
  const where = [namePreparation(request), span.inFrame, span.frameCount];
  const values = [programme.id, codec, width, height, ...where, JSON.stringify(points), context.now()];
  await context.database.query(statements.SAVE_SOUNDING, values);
}
