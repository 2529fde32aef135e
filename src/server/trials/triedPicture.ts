import { stat } from 'node:fs/promises';
import { framesOf } from '../../core/plan/planPicture.ts';
import type { GridCurve } from '../../core/scale/grid.ts';
import { unpadding } from '../../core/picture/chain.ts';
import type { StillRequest } from '../../engine/arguments/still.ts';
import type { Context } from '../context.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { groupsOf } from './costs.ts';
import { planPoints, trialsOf } from './trials.ts';
import { surround } from './surround.ts';
import { triedFile, tryGroup } from './tryGroup.ts';

/** Which point of the scale is looked at. */
export type TriedPoint = Omit<GridCurve, 'qualities'> & { readonly quality: number };

/**
 * A frame as a point of the latest trial makes it. Its group of pictures is encoded for it where it was not tried.
 *
 * @param frame - Of the programme.
 * @returns What the engine is to be asked for.
 * @throws Refusal where there is no trial, or no such frame in it.
 */
export async function findTriedStill(
  context: Context,
  programmeId: string,
  point: TriedPoint,
  frame: number,
  signal: AbortSignal,
): Promise<StillRequest> {
  const programme = await findProgramme(context, programmeId);
  const [latest] = await trialsOf(context, programmeId);
  if (!latest || programme.fingerprint === null) {
    throw new Refusal('not-found', 'Nothing was tried of this programme yet; start a trial first.');
  }
  const grid = [{ ...point, qualities: [point.quality] }];
  const { points, gaps } = await planPoints(context, programme, { ...latest, grid });
  const [planned] = points;
  if (!planned) throw new Refusal('nothing-to-try', gaps[0]?.reason ?? 'There is no such point.');
  const known = { ...programme, fingerprint: programme.fingerprint };
  const trying = { ...planned, programme: known, clock: await readClock(context, programme) };
  const { picture } = planned;
  const place = picture.from.inFrame + framesOf(picture, trying.clock).toResult(frame);
  const group = groupsOf(picture).find(({ inFrame, frameCount }) => place >= inFrame && place < inFrame + frameCount);
  if (!group) throw new Refusal('frame-outside', `Frame ${frame} lies outside of what was tried.`, { field: 'frame' });
  const file = triedFile(context, trying, group.inFrame);
  if (!(await stat(/* turbopackIgnore: true */ file).catch(() => null))) {
    await tryGroup(context, [trying], group, signal);
  }
  const { lead } = surround(trying.picture, group.inFrame, group.frameCount);
  const number = lead + place - group.inFrame;
  const { out, comparedAt } = picture;
  return {
    path: file,
    streamIndex: 0,
    frame: number,
    // So short a file is read from its beginning.
    opening: { atSeconds: 0, skipSeconds: 0, framesBefore: number },
    chain: unpadding(picture.chain),
    sampling: { matrix: out.colour.matrix, range: out.range },
    size: comparedAt,
  };
}
