import { readPlan } from '../../contract/stored/plan.ts';
import { learnSpeeds, type FinishedEncode, type MachineSpeeds } from '../../core/forecast/encodeTime.ts';
import { densityOf, encodeKindOf, pixelsOf } from '../../core/forecast/encodeWork.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';

interface FinishedRow extends Record<string, unknown> {
  readonly plan: unknown;
  readonly bytes: number;
  readonly encode_seconds: number;
  readonly check_seconds: number | null;
}

/** How fast this machine was at what was encoded on it lately. */
export async function viewSpeeds({ database }: Context): Promise<MachineSpeeds> {
  const rows = await database.query<FinishedRow>(statements.LATEST_ENCODES, []);
  return learnSpeeds(rows.flatMap(finishedEncode));
}

/** A row that cannot be read teaches nothing, and must not hide what the others teach. */
function finishedEncode({ plan: stored, bytes, encode_seconds, check_seconds }: FinishedRow): FinishedEncode[] {
  try {
    const plan = readPlan(stored);
    const kind = encodeKindOf(plan);
    const bitsPerPixel = densityOf(plan, bytes);
    if (!kind || bitsPerPixel === null) return [];
    return [{ kind, pixels: pixelsOf(plan), bitsPerPixel, encodeSeconds: encode_seconds, checkSeconds: check_seconds }];
  } catch (error) {
    if ((error as Error).name !== 'StoredUnreadable') throw error;
    return [];
  }
}
