import { createHash } from 'node:crypto';
import { mkdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import type { EncodedPicture, EncodePlan } from '../../core/plan/encodePlan.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import { bitsPerSecond } from '../../core/units.ts';
import { RATED } from '../../core/video/codecs.ts';
import type { ComparedResult } from '../../engine/arguments/compare.ts';
import type { PictureRun } from '../../engine/encoders/encoder.ts';
import { MUXERS } from '../../engine/muxers/muxers.ts';
import type { PictureGroup } from '../../engine/parsing/groups.ts';
import { findDrawn } from '../drawn/findDrawn.ts';
import { placeDrawn } from '../drawn/readDrawn.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import { openJournal } from '../runner/journal.ts';
import { createPictureEncoder, markedLevel, takeSpan } from '../runner/pictureEncoder.ts';
import type { GroupFrames, KnownProgramme } from './costs.ts';
import { keepMeasured, settingsKey, type MeasuredGroup } from './measured.ts';
import { surround } from './surround.ts';

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
 * Encodes one group of pictures as a fill would, in one way or in several that are alike, weighs it, compares it with its
 * master and keeps what was found.
 *
 * @param ways - Of one programme, each alike the others (`areAlike`).
 * @returns In the order of the ways.
 * @throws EngineError as the engine does.
 */
export async function tryGroup(
  context: Context,
  ways: readonly Trying[],
  group: GroupFrames,
  signal: AbortSignal,
): Promise<MeasuredGroup[]> {
  const [first] = ways;
  if (!first) return [];
  const workingFolder = path.join(context.config.dataFolder, 'work', `trial-${context.newId()}`);
  await mkdir(workingFolder, { recursive: true });
  await mkdir(triedFolder(context), { recursive: true });
  try {
    await placeDrawn(await findDrawn(context, first.programme, first.plan, first.picture.chain, signal), workingFolder);
    return await withMaster(identityOf(first.programme), async (source) => {
      const place: Place = {
        ...group,
        source,
        workingFolder,
        around: surround(first.picture, group.inFrame, group.frameCount),
      };
      const began = context.now().getTime();
      await encodeGroup(context, ways, place, signal);
      const seconds = (context.now().getTime() - began) / 1000;
      const pixels = ways.map(({ picture: { out } }) => out.size.width * out.size.height);
      const all = pixels.reduce((sum, one) => sum + one, 0);
      const encoded = ways.map((trying, index) => ({
        ...{ trying, file: outputOf(place, trying, index) },
        seconds: (seconds * pixels[index]!) / all,
      }));
      return measureGroups(context, encoded, place, signal);
    });
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
}

/** Whether two ways can be tried in one decode: encoders of one kind, with the same frames around a group. */
export function areAlike(one: EncodedPicture, other: EncodedPicture): boolean {
  const [a, b] = [one.do, other.do];
  const isAlike = a.codec === b.codec && a.effort === b.effort && a.keyframeInterval === b.keyframeInterval;
  return isAlike && RATED[a.codec].quality.passes === 1;
}

interface Place extends GroupFrames {
  readonly source: string;
  readonly workingFolder: string;
  readonly around: ReturnType<typeof surround>;
}

function outputOf({ workingFolder }: Place, { plan }: Trying, index: number): string {
  return path.join(workingFolder, `group-${index}.${MUXERS[plan.container].extension}`);
}

async function encodeGroup(
  context: Context,
  ways: readonly Trying[],
  place: Place,
  signal: AbortSignal,
): Promise<void> {
  const { engine } = context;
  const { around, source, workingFolder } = place;
  const keyframeAt = around.keyframeAt ? { keyframeAt: around.keyframeAt } : {};
  const fillOf = ({ picture }: Trying) => ({ level: markedLevel(picture, bitsPerSecond(1)) });
  const [first] = ways as readonly [Trying];
  if (RATED[first.picture.do.codec].quality.passes === 1) {
    const runOf = (trying: Trying): PictureRun => ({
      target: { kind: 'quality', value: trying.quality },
      ...{ buffer: null, pass: 'only' },
      fill: fillOf(trying),
      ...keyframeAt,
    });
    const asWay = (trying: Trying, index: number) => ({
      picture: takeSpan({ facts: trying.programme.facts, clock: trying.clock }, trying.picture, around.span),
      run: runOf(trying),
      container: trying.plan.container,
      output: outputOf(place, trying, index),
    });
    return engine.encodeWays(ways.map(asWay), source, { workingFolder, signal, onProgress: () => undefined });
  }
  for (const [index, trying] of ways.entries()) {
    const { programme, clock, plan, picture, quality } = trying;
    const output = outputOf(place, trying, index);
    const job = {
      ...{ engine, source, facts: programme.facts, clock, workingFolder, signal, container: plan.container },
      labels: null,
      temporary: () => output,
      journal: await openJournal(path.join(workingFolder, `journal-${index}.json`), ''),
      hold: null,
      enter: () => () => undefined,
    };
    const how = { fill: fillOf(trying), ...keyframeAt };
    await createPictureEncoder(job, picture, null).encodeSpan(around.span, quality, how, output);
  }
}

/** A way of a group, encoded. */
interface EncodedWay {
  readonly trying: Trying;
  readonly file: string;
  readonly seconds: number;
}

async function measureGroups(
  context: Context,
  encoded: readonly EncodedWay[],
  { inFrame, frameCount, source, workingFolder, around: { lead, span } }: Place,
  signal: AbortSignal,
): Promise<MeasuredGroup[]> {
  const { engine } = context;
  const own = { first: span.first + lead, count: frameCount };
  const results = encoded.map(({ trying: { programme, clock, picture }, file }): ComparedResult => {
    const shown = takeSpan({ facts: programme.facts, clock }, picture, own);
    return { picture: shown, file, only: { first: lead, count: frameCount } };
  });
  const options = { workingFolder, signal, onProgress: () => undefined };
  const compared = await engine.compare(source, results as [ComparedResult, ...ComparedResult[]], options);
  return Promise.all(
    encoded.map(async ({ trying, file, seconds }, index): Promise<MeasuredGroup> => {
      const bytes = weighOwn((await engine.listGroups(file, signal)).groups, lead, frameCount);
      const frames = compared[index] ?? [];
      if (frames.length !== frameCount) {
        throw new Error(`Of ${frameCount} frames that were tried ${frames.length} came back.`);
      }
      const measured = { inFrame, frameCount, bytes, seconds, frames };
      const key = settingsKey(trying.picture, trying.quality);
      await keepMeasured(context, trying.programme.fingerprint, key, [measured]);
      await rename(file, triedFile(context, trying, inFrame)).catch(() => undefined);
      return measured;
    }),
  );
}

/** @throws When the group does not begin, or does not end, with a keyframe of its own. */
function weighOwn(groups: readonly PictureGroup[], lead: number, frameCount: number): number {
  const own = { frames: 0, bytes: 0 };
  let first = 0;
  for (const group of groups) {
    if (first >= lead && first < lead + frameCount) {
      own.frames += group.frames;
      own.bytes += group.bytes;
    }
    first += group.frames;
  }
  if (own.frames !== frameCount) throw new Error('A group that was tried has no keyframes of its own.');
  return own.bytes;
}
