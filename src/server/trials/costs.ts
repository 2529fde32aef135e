import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import type { CostedGroup } from '../../core/excerpts/costedGroup.ts';
import type { EncodedPicture } from '../../core/plan/encodePlan.ts';
import { STARTING_RECIPE } from '../../core/recipe/recipe.ts';
import { RATED } from '../../core/video/codecs.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { costKey, findMeasured, keepMeasured, type MeasuredGroup } from './measured.ts';

/** The encoder that orders start with is quick, and what is hard for it is hard for the others (measured). */
const MEASURING = STARTING_RECIPE.video.codec;

/** A finer and a coarser quality: what is kept at one and dropped at the other, such as grain, tells groups apart. */
const QUALITIES = [1, 7].map((steps) => RATED[MEASURING].quality.usual + steps) as [number, number];

/** A programme with what it is known by, which measurements are kept under. */
export type KnownProgramme = ProgrammeRow & { readonly fingerprint: string };

/** Two quick encodes of all groups of a picture, kept once they are known; null before. */
export async function findCosts(
  context: Context,
  { fingerprint }: KnownProgramme,
  picture: EncodedPicture,
): Promise<CostedGroup[] | null> {
  const [fine, coarse] = QUALITIES.map((quality) => costKey(picture, picture.do.keyframeInterval, quality));
  const found = await findMeasured(context, fingerprint, [fine!, coarse!]);
  return pairUp(groupsOf(picture), found.get(fine!) ?? [], found.get(coarse!) ?? []);
}

/** Frames of each group of a picture, as encodes with keyframes at fixed places have them. */
export function groupsOf({
  from,
  do: { keyframeInterval },
}: EncodedPicture): { inFrame: number; frameCount: number }[] {
  return Array.from({ length: Math.ceil(from.frameCount / keyframeInterval) }, (_, index) => ({
    inFrame: from.inFrame + index * keyframeInterval,
    frameCount: Math.min(keyframeInterval, from.frameCount - index * keyframeInterval),
  }));
}

function pairUp(
  groups: readonly { inFrame: number; frameCount: number }[],
  fine: readonly MeasuredGroup[],
  coarse: readonly MeasuredGroup[],
): CostedGroup[] | null {
  const byPlace = (list: readonly MeasuredGroup[]) =>
    new Map(list.map(({ inFrame, frameCount, bytes }) => [`${inFrame}+${frameCount}`, bytes]));
  const [fineOf, coarseOf] = [byPlace(fine), byPlace(coarse)];
  const costed = groups.flatMap(({ inFrame, frameCount }) => {
    const place = `${inFrame}+${frameCount}`;
    const costs = { fine: fineOf.get(place), coarse: coarseOf.get(place) };
    return costs.fine && costs.coarse ? [{ inFrame, frameCount, fine: costs.fine, coarse: costs.coarse }] : [];
  });
  return costed.length === groups.length ? costed : null;
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
  const groups = groupsOf(picture);
  const workingFolder = path.join(context.config.dataFolder, 'work', `costs-${context.newId()}`);
  await mkdir(workingFolder, { recursive: true });
  try {
    const lists = await withMaster(identityOf(programme), (source) =>
      context.engine.gauge(
        picture,
        { codec: MEASURING, qualities: QUALITIES, keyframeInterval, isFixed: true },
        source,
        {
          workingFolder,
          signal,
          onProgress: ({ frame }) => onFraction(Math.min(1, frame / picture.from.frameCount)),
        },
      ),
    );
    for (const [index, sizes] of lists.entries()) {
      const measured = groups.map(({ inFrame, frameCount }) => {
        const first = inFrame - picture.from.inFrame;
        const bytes = sizes.slice(first, first + frameCount).reduce((sum, size) => sum + size, 0);
        return { inFrame, frameCount, bytes: Math.max(1, bytes), seconds: null, frames: null };
      });
      const key = costKey(picture, keyframeInterval, QUALITIES[index]!);
      await keepMeasured(context, programme.fingerprint, key, measured);
    }
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
  const measured = await findCosts(context, programme, picture);
  if (!measured) throw new Error('What was measured of a picture is not there.');
  return measured;
}

/** Costs are measured at the largest frame size up to these lines: what is hard stays hard (and larger takes hours). */
const MOST_LINES = 720;

/** The picture of several points at which their groups are told apart. */
export function costPictureOf(pictures: readonly EncodedPicture[]): EncodedPicture {
  const area = ({ out: { size } }: EncodedPicture) => size.width * size.height;
  const sorted = pictures.toSorted((a, b) => area(b) - area(a));
  return sorted.find(({ out }) => out.size.height <= MOST_LINES) ?? sorted.at(-1)!;
}
