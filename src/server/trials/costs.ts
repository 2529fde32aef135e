import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { bitsBetween } from '../../core/analysis/busyness.ts';
import type { Cost, CostedGroup } from '../../core/excerpts/costedGroup.ts';
import { guessCosts, type MaybeWeighed } from '../../core/excerpts/guessCosts.ts';
import { busiestBeside, spreadRuns, type GroupRun } from '../../core/excerpts/weighedRuns.ts';
import type { EncodedPicture } from '../../core/plan/encodePlan.ts';
import { framesOf } from '../../core/plan/planPicture.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import { toNumber } from '../../core/timing/rational.ts';
import { WEIGHED_AT } from '../../engine/arguments/quickGroups.ts';
import type { QuickGroup } from '../../engine/engine.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { readFindings } from '../analysis/readAnalysis.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { takeSpan } from '../runner/pictureEncoder.ts';
import { surround } from './surround.ts';
import { costKey, findMeasured, keepMeasured, type MeasuredGroup } from './measured.ts';

/** A programme with what it is known by, which measurements are kept under. */
export type KnownProgramme = ProgrammeRow & { readonly fingerprint: string };

/**
 * What all groups of a picture take in two quick encodes, guessed where it is long and they were not weighed; null before
 * enough of them were.
 */
export async function findCosts(
  context: Context,
  programme: KnownProgramme,
  picture: EncodedPicture,
): Promise<CostedGroup[] | null> {
  const groups = await findWeighed(context, programme, picture);
  const isThere = ({ first, count }: GroupRun) => groups.slice(first, first + count).every(({ costs }) => costs);
  if (!runsOf(programme, picture, groups).every(isThere)) return null;
  const isWhole = groups.every(({ costs }) => costs);
  return guessCosts(groups, isWhole ? null : await readBusyness(context, programme, picture, groups));
}

/** So many seconds of a picture are weighed, and at least so many groups: by 200 of 600 a forecast was still 4 % off (measured). */
const WEIGHED_SECONDS = 600;
const FEWEST_WEIGHED = 60;

/** A master whose frames cannot be sought is read from its beginning for each run; then all are weighed in one go. */
function runsOf(
  { facts }: KnownProgramme,
  { out, do: { keyframeInterval } }: EncodedPicture,
  groups: readonly GroupFrames[],
): GroupRun[] {
  const groupSeconds = keyframeInterval / toNumber(out.frameRate);
  if (!facts.video?.seeksExactly) return spreadRuns(groups.length, groups.length);
  return spreadRuns(groups.length, Math.max(FEWEST_WEIGHED, Math.ceil(WEIGHED_SECONDS / groupSeconds)));
}

/** Frames of a picture that have yet to be weighed before its groups can be told apart. */
export async function framesToWeigh(
  context: Context,
  programme: KnownProgramme,
  picture: EncodedPicture,
): Promise<number> {
  const groups = await findWeighed(context, programme, picture);
  const runs = runsOf(programme, picture, groups).map(({ first, count }) => groups.slice(first, first + count));
  return sumFrames(runs.filter((own) => own.some(({ costs }) => !costs)).flat());
}

async function findWeighed(
  context: Context,
  { fingerprint }: KnownProgramme,
  picture: EncodedPicture,
): Promise<MaybeWeighed[]> {
  const keys = WEIGHED_AT.map((quality) => costKey(picture, picture.do.keyframeInterval, quality));
  const found = await findMeasured(context, fingerprint, keys);
  const [fines, coarses] = keys.map((key) => byPlace(found.get(key) ?? []));
  return groupsOf(picture).map((group) => {
    const [fine, coarse] = [fines?.get(placeOf(group)), coarses?.get(placeOf(group))];
    return { ...group, costs: fine && coarse ? { fine, coarse } : null };
  });
}

/** How busy the programme is in each group; null while it is not analysed. */
async function readBusyness(
  context: Context,
  programme: KnownProgramme,
  picture: EncodedPicture,
  groups: readonly GroupFrames[],
): Promise<number[] | null> {
  const busyness = (await readFindings(context, programme.id))?.busyness;
  if (!busyness) return null;
  const clock = await readClock(context, programme);
  const frames = framesOf(picture, clock);
  const secondsOf = (frame: number) => clock.secondsOf(frames.toSource(frame - picture.from.inFrame));
  return groups.map(({ inFrame, frameCount }) => {
    const last = secondsOf(inFrame + frameCount - 1);
    return bitsBetween(busyness, secondsOf(inFrame), last + 1 / toNumber(picture.out.frameRate));
  });
}

/**
 * Frames of each group of a picture, as encodes with keyframes at fixed places have them: the result's, counted on from the
 * first frame that is taken of the programme.
 */
export function groupsOf({ from, out, do: { keyframeInterval } }: EncodedPicture): GroupFrames[] {
  return Array.from({ length: Math.ceil(out.frameCount / keyframeInterval) }, (_, index) => ({
    inFrame: from.inFrame + index * keyframeInterval,
    frameCount: Math.min(keyframeInterval, out.frameCount - index * keyframeInterval),
  }));
}

/** Frames of a group of pictures. */
export interface GroupFrames {
  readonly inFrame: number;
  readonly frameCount: number;
}

function placeOf({ inFrame, frameCount }: GroupFrames): string {
  return `${inFrame}+${frameCount}`;
}

function byPlace(measured: readonly MeasuredGroup[]): Map<string, Cost> {
  return new Map(
    measured.flatMap((group) => {
      const [means] = group.frames ?? [];
      const cost = means && { bytes: group.bytes, ssimLoss: 1 - means.ssimLuma, mse: means.mseLuma };
      return cost ? [[placeOf(group), cost]] : [];
    }),
  );
}

/**
 * What each group takes in two quick encodes, run by run; what was measured before is not encoded again.
 *
 * @param onFraction - From 0 to 1.
 */
export async function measureCosts(
  context: Context,
  programme: KnownProgramme,
  picture: EncodedPicture,
  onFraction: (fraction: number) => void,
  signal: AbortSignal,
): Promise<CostedGroup[]> {
  const groups = await findWeighed(context, programme, picture);
  const spread = runsOf(programme, picture, groups);
  const busyness = spread.length > 1 ? await readBusyness(context, programme, picture, groups) : null;
  const runs = [...spread, ...(busyness ? busiestBeside(spread, busyness) : [])];
  const open = runs
    .map(({ first, count }) => groups.slice(first, first + count))
    .filter((own) => own.some(({ costs }) => !costs));
  const weighing = { programme, picture, clock: await readClock(context, programme) };
  const all = sumFrames(open.flat());
  let done = 0;
  for (const own of open) {
    await weighRun(context, weighing, own, (frame) => onFraction(Math.min(1, (done + frame) / all)), signal);
    done += sumFrames(own);
  }
  const measured = await findCosts(context, programme, picture);
  if (!measured) throw new Error('What was measured of a picture is not there.');
  return measured;
}

function sumFrames(groups: readonly GroupFrames[]): number {
  return groups.reduce((sum, { frameCount }) => sum + frameCount, 0);
}

/** Whose groups are weighed. */
interface Weighing {
  readonly programme: KnownProgramme;
  readonly picture: EncodedPicture;
  readonly clock: FrameClock;
}

async function weighRun(
  context: Context,
  { programme, picture, clock }: Weighing,
  groups: readonly GroupFrames[],
  onFrame: (frame: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const { keyframeInterval } = picture.do;
  const count = sumFrames(groups);
  const { lead, span } = surround(picture, groups[0]!.inFrame, count);
  const workingFolder = path.join(context.config.dataFolder, 'work', `costs-${context.newId()}`);
  await mkdir(workingFolder, { recursive: true });
  const onProgress = ({ frame }: { frame: number }) => onFrame(Math.min(count, frame));
  try {
    const part = takeSpan({ facts: programme.facts, clock }, picture, span);
    const encodes = await withMaster(identityOf(programme), (source) =>
      context.engine.weighGroups(part, { keyframeInterval, lead }, source, { workingFolder, signal, onProgress }),
    );
    for (const [index, quality] of WEIGHED_AT.entries()) {
      const key = costKey(picture, keyframeInterval, quality);
      await keepMeasured(context, programme.fingerprint, key, measuredOf(groups, encodes[index] ?? []));
    }
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
}

/** As they are kept: the means of a group stand for its frames. */
function measuredOf(groups: readonly GroupFrames[], quick: readonly QuickGroup[]): MeasuredGroup[] {
  return groups.flatMap((group, index) => {
    const told = quick[index];
    if (!told) return [];
    const ssim = 1 - told.ssimLoss;
    // An all but perfect group must not divide by nothing.
    const mse = Math.max(1e-4, told.mse);
    const means = { ssimLuma: ssim, ssimAll: ssim, mseLuma: mse, mseAll: mse };
    return [{ ...group, bytes: Math.max(1, told.bytes), seconds: null, frames: [means] }];
  });
}

/** Costs are measured at the largest frame size up to these lines: what is hard stays hard, and larger takes hours. */
const MOST_LINES = 720;

/** The picture of several points at which their groups are told apart. */
export function costPictureOf(pictures: readonly EncodedPicture[]): EncodedPicture {
  const area = ({ out: { size } }: EncodedPicture) => size.width * size.height;
  const sorted = pictures.toSorted((a, b) => area(b) - area(a));
  const told = sorted.find(({ out }) => out.size.height <= MOST_LINES) ?? sorted.at(-1)!;
  // What is drawn in tells no groups apart.
  return { ...told, chain: told.chain.filter(({ step }) => step !== 'captions' && step !== 'mark') };
}
