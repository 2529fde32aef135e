import { createHash } from 'node:crypto';
import type { TriedGroup } from '../../core/excerpts/foresee.ts';
import type { EncodedPicture, PicturePath } from '../../core/plan/encodePlan.ts';
import type { FrameQuality } from '../../core/quality/frameQuality.ts';
import * as statements from '../../store/statements/trials.ts';
import type { Context } from '../context.ts';
import { packQualities, unpackQualities } from '../renditions/packedQualities.ts';

/** What was measured of a group of pictures. */
export interface MeasuredGroup {
  /** In the programme. */
  readonly inFrame: number;
  readonly frameCount: number;
  readonly bytes: number;
  /** What it took to encode; null where it was part of something larger. */
  readonly seconds: number | null;
  /** null where only its bytes are known. */
  readonly frames: readonly FrameQuality[] | null;
}

/** What tells one way of encoding groups of pictures from another: everything but which frames. */
export function settingsKey({ do: work, chain, out }: EncodedPicture, quality: number): string {
  const { codec, effort, fine, keyframeInterval, keyframesAt = [] } = work;
  return digest([
    ...['group', codec, effort, fine, keyframeInterval, quality, chain, out.size, out.format, out.frameRate],
    ...keyframesAt,
  ]);
}

/** The same for the quick encodes that tell groups apart, of one quality each. */
export function costKey({ chain, out }: PicturePath, keyframeInterval: number, quality: number): string {
  return digest(['cost', keyframeInterval, quality, chain, out.size, out.frameRate]);
}

function digest(parts: readonly unknown[]): string {
  return createHash('sha1').update(JSON.stringify(parts)).digest('hex');
}

interface MeasuredRow extends Record<string, unknown> {
  readonly settings: string;
  readonly in_frame: number;
  readonly frame_count: number;
  readonly bytes: number;
  readonly seconds: number | null;
  readonly frames: Uint8Array | null;
}

/** What is known of a source at several settings, by their keys. */
export async function findMeasured(
  { database }: Pick<Context, 'database'>,
  source: string,
  settings: readonly string[],
): Promise<Map<string, MeasuredGroup[]>> {
  const rows = await database.query<MeasuredRow>(statements.FIND_MEASURED, [source, settings.join(',')]);
  const found = new Map<string, MeasuredGroup[]>(settings.map((key) => [key, []]));
  for (const row of rows) {
    found.get(row.settings)?.push({
      inFrame: row.in_frame,
      frameCount: row.frame_count,
      bytes: Number(row.bytes),
      seconds: row.seconds,
      frames: row.frames && unpackQualities(row.frames),
    });
  }
  return found;
}

/** As forecasts take it. */
export function triedOf(group: number, { bytes, frames }: MeasuredGroup): TriedGroup {
  const weighted = (frames ?? []).flatMap(({ mseWeighted }) => (mseWeighted === undefined ? [] : [mseWeighted]));
  return {
    group,
    bytes,
    ssimLosses: (frames ?? []).map(({ ssimAll }) => 1 - ssimAll),
    mses: (frames ?? []).map(({ mseAll }) => mseAll),
    weightedMses: frames && weighted.length === frames.length ? weighted : null,
  };
}

/** Keeps what was measured; the same again changes nothing. */
export async function keepMeasured(
  { database }: Pick<Context, 'database'>,
  source: string,
  settings: string,
  groups: readonly MeasuredGroup[],
): Promise<void> {
  await database.transaction(async (query) => {
    for (const { inFrame, frameCount, bytes, seconds, frames } of groups) {
      const values = [source, settings, inFrame, frameCount, bytes, seconds, frames && packQualities(frames)];
      await query(statements.SAVE_MEASURED, values);
    }
  });
}
