import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { KEYFRAME_SECONDS, type VideoCodec } from '../../core/codec/tables.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import { namePreparation, type Preparation } from '../../core/geometry/preparation.ts';
import { planPicture } from '../../core/rate/planPicture.ts';
import { SOUNDED_QUALITIES, type Sounding } from '../../core/rate/sounding.ts';
import { chooseStretches } from '../../core/rate/stretches.ts';
import { toNumber } from '../../core/timing/rational.ts';
import * as statements from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { identityOf, requireUnchanged } from '../programmes/masters.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';

/** A sounding that was measured, or null. */
export async function findSounding(
  context: Context,
  programmeId: string,
  codec: VideoCodec,
  size: FrameSize,
  preparation: Preparation,
): Promise<Sounding | null> {
  const values = [programmeId, codec, size.width, size.height, namePreparation(preparation)];
  const [row] = await context.database.query<{ points: Sounding['points'] }>(statements.FIND_SOUNDING, values);
  return row ? { codec, size, points: row.points } : null;
}

/** Measures soundings one after another in the background, at the lowest priority. */
export interface SoundingDesk {
  /** The sounding, or null while it is being measured; an event tells when it is there. */
  ask(programmeId: string, codec: VideoCodec, size: FrameSize, preparation: Preparation): Promise<Sounding | null>;
  stop(): Promise<void>;
}

export function createSoundingDesk(context: Context): SoundingDesk {
  const stopping = new AbortController();
  const pending = new Map<string, Promise<void>>();
  let last: Promise<void> = Promise.resolve();
  return {
    ask: async (programmeId, codec, size, preparation) => {
      const known = await findSounding(context, programmeId, codec, size, preparation);
      if (known) return known;
      const programme = await findProgramme(context, programmeId);
      if (!programme.facts.video) throw new Refusal('no-picture', 'This programme has sound only.');
      const key = [programmeId, codec, size.width, size.height, namePreparation(preparation)].join('-');
      if (!pending.has(key)) {
        last = last
          .then(() => measure(context, programme, codec, size, preparation, stopping.signal))
          .catch((error: unknown) => {
            if (!stopping.signal.aborted) context.logger.warn({ programmeId, err: error }, 'a sounding failed');
          })
          .finally(() => pending.delete(key));
        pending.set(key, last);
      }
      return null;
    },
    stop: async () => {
      stopping.abort();
      await last;
    },
  };
}

async function measure(
  context: Context,
  programme: ProgrammeRow,
  codec: VideoCodec,
  size: FrameSize,
  preparation: Preparation,
  signal: AbortSignal,
): Promise<void> {
  signal.throwIfAborted();
  await requireUnchanged(identityOf(programme));
  const { facts } = programme;
  if (!facts.video) return;
  const rate = toNumber(facts.frameRate);
  const qualities = SOUNDED_QUALITIES[codec];
  const bytes = qualities.map(() => 0);
  const clock = await readClock(context, programme);
  const stretches = chooseStretches(facts.frameCount, rate);
  const workingFolder = path.join(context.config.dataFolder, 'work', `sounding-${programme.id}`);
  await mkdir(workingFolder, { recursive: true });
  try {
    for (const stretch of stretches) {
      const picture = planPicture(facts, facts.video, size, preparation, stretch, clock);
      const request = { codec, qualities, keyframeInterval: Math.max(1, Math.round(rate * KEYFRAME_SECONDS)) };
      const sizes = await context.engine.gauge(picture, request, programme.path, {
        workingFolder,
        signal,
        onProgress: () => undefined,
      });
      sizes.forEach((value, index) => (bytes[index] = (bytes[index] ?? 0) + value));
    }
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
  const seconds = stretches.reduce(
    (sum, { inFrame, frameCount }) => sum + clock.secondsOf(inFrame + frameCount) - clock.secondsOf(inFrame),
    0,
  );
  const points = qualities.map((quality, index) => ({
    quality,
    bitsPerSecond: Math.round(((bytes[index] ?? 0) * 8) / seconds),
  }));
  const { width, height } = size;
  const prepared = namePreparation(preparation);
  const values = [programme.id, codec, width, height, prepared, JSON.stringify(points), context.now()];
  await context.database.query(statements.SAVE_SOUNDING, values);
  context.events.publish({ type: 'sounding', programmeId: programme.id });
}
