import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import type { Cost, CostedGroup } from '../../core/excerpts/costedGroup.ts';
import type { EncodedPicture } from '../../core/plan/encodePlan.ts';
import type { QuickGroup } from '../../engine/engine.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { costKey, findMeasured, keepMeasured, type MeasuredGroup } from './measured.ts';

/** A programme with what it is known by, which measurements are kept under. */
export type KnownProgramme = ProgrammeRow & { readonly fingerprint: string };

/** Two quick encodes of all groups of a picture; null before they were made. */
export async function findCosts(
  context: Context,
  { fingerprint }: KnownProgramme,
  picture: EncodedPicture,
): Promise<CostedGroup[] | null> {
  const keys = KINDS.map((kind) => costKey(picture, picture.do.keyframeInterval, kind));
  const found = await findMeasured(context, fingerprint, keys);
  const [fine, coarse] = keys.map((key) => byPlace(found.get(key) ?? []));
  const groups = groupsOf(picture);
  const costed = groups.flatMap((group) => {
    const costs = { fine: fine?.get(placeOf(group)), coarse: coarse?.get(placeOf(group)) };
    return costs.fine && costs.coarse ? [{ ...group, fine: costs.fine, coarse: costs.coarse }] : [];
  });
  return costed.length === groups.length ? costed : null;
}

const KINDS = ['fine', 'coarse'] as const;

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
 * What each group takes in two quick encodes of the whole, in one decode; measured once.
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
  const known = await findCosts(context, programme, picture);
  if (known) return known;
  const { keyframeInterval } = picture.do;
  const workingFolder = path.join(context.config.dataFolder, 'work', `costs-${context.newId()}`);
  await mkdir(workingFolder, { recursive: true });
  const onProgress = ({ frame }: { frame: number }) => onFraction(Math.min(1, frame / picture.out.frameCount));
  try {
    const encodes = await withMaster(identityOf(programme), (source) =>
      context.engine.weighGroups(picture, keyframeInterval, source, { workingFolder, signal, onProgress }),
    );
    for (const [index, kind] of KINDS.entries()) {
      const key = costKey(picture, keyframeInterval, kind);
      await keepMeasured(context, programme.fingerprint, key, measuredOf(picture, encodes[index] ?? []));
    }
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
  const measured = await findCosts(context, programme, picture);
  if (!measured) throw new Error('What was measured of a picture is not there.');
  return measured;
}

/** As they are kept: the means of a group stand for its frames. */
function measuredOf(picture: EncodedPicture, quick: readonly QuickGroup[]): MeasuredGroup[] {
  return groupsOf(picture).flatMap((group, index) => {
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
  return sorted.find(({ out }) => out.size.height <= MOST_LINES) ?? sorted.at(-1)!;
}
