import { createHash } from 'node:crypto';
import { mkdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import type { EncodedPicture, EncodePlan } from '../../core/plan/encodePlan.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import { bitsPerSecond } from '../../core/units.ts';
import { RATED } from '../../core/video/codecs.ts';
import { leastLevel } from '../../core/video/levels.ts';
import { MUXERS } from '../../engine/muxers/muxers.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import { openJournal } from '../runner/journal.ts';
import { createPictureEncoder, takeSpan } from '../runner/pictureEncoder.ts';
import type { KnownProgramme } from './costs.ts';
import { keepMeasured, settingsKey, type MeasuredGroup } from './measured.ts';

/** One setting of a programme, as it is tried. */
export interface Trying {
  readonly programme: KnownProgramme;
  readonly clock: FrameClock;
  readonly plan: EncodePlan;
  readonly picture: EncodedPicture;
  readonly quality: number;
}

/** Where files of tried groups are kept for their pictures; what was measured of them stays without. */
export function triedFile(context: Context, { programme, plan, picture, quality }: Trying, inFrame: number): string {
  const key = JSON.stringify([programme.fingerprint, settingsKey(picture, quality), plan.container, inFrame]);
  const name = createHash('sha1').update(key).digest('hex');
  return path.join(triedFolder(context), `${name}.${MUXERS[plan.container].extension}`);
}

/** The cache of tried groups. */
export function triedFolder({ config }: Context): string {
  return path.join(config.dataFolder, 'cache', 'tried');
}

/**
 * Encodes one group of pictures as a fill would, weighs it, compares it with its master and keeps what was found.
 *
 * @throws EngineError as the engine does.
 */
export async function tryGroup(
  context: Context,
  trying: Trying,
  { inFrame, frameCount }: { readonly inFrame: number; readonly frameCount: number },
  signal: AbortSignal,
): Promise<MeasuredGroup> {
  const { programme, clock, plan, picture, quality } = trying;
  const { engine } = context;
  const { facts } = programme;
  const workingFolder = path.join(context.config.dataFolder, 'work', `trial-${context.newId()}`);
  await mkdir(workingFolder, { recursive: true });
  await mkdir(triedFolder(context), { recursive: true });
  try {
    return await withMaster(identityOf(programme), async (source) => {
      const output = path.join(workingFolder, `group.${MUXERS[plan.container].extension}`);
      const job = {
        ...{ engine, source, facts, clock, workingFolder, signal, container: plan.container },
        temporary: () => output,
        journal: await openJournal(path.join(workingFolder, 'journal.json'), ''),
        hold: null,
        enter: () => () => undefined,
      };
      const span = { first: inFrame - picture.from.inFrame, count: frameCount };
      const began = context.now().getTime();
      await createPictureEncoder(job, picture, null).encodeSpan(span, quality, { level: levelOf(picture) }, output);
      const seconds = (context.now().getTime() - began) / 1000;
      const { groups } = await engine.listGroups(output, signal);
      const options = { workingFolder, signal, onProgress: () => undefined };
      const frames = await engine.measure(takeSpan(job, picture, span), source, output, options);
      if (frames.length !== frameCount) {
        throw new Error(`Of ${frameCount} frames that were tried ${frames.length} came back.`);
      }
      const bytes = groups.reduce((sum, group) => sum + group.bytes, 0);
      const measured = { inFrame, frameCount, bytes, seconds, frames };
      await keepMeasured(context, programme.fingerprint, settingsKey(picture, quality), [measured]);
      await rename(output, triedFile(context, trying, inFrame)).catch(() => undefined);
      return measured;
    });
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
}

/** Only a mark in the headers: the least that the picture's size and rate of frames need. */
function levelOf({ out, do: { codec, effort, fine } }: EncodedPicture): string {
  const { levels, heldFrames } = RATED[codec];
  if (fine.level !== null) return fine.level;
  return leastLevel(levels, {
    size: out.size,
    rate: out.frameRate,
    bits: bitsPerSecond(1),
    heldFrames: heldFrames[effort],
  });
}
