import { readPlan } from '../../contract/stored/plan.ts';
import {
  encodeKindOf,
  learnSpeeds,
  pixelsOf,
  type FinishedEncode,
  type MeasuredSpeed,
} from '../../core/forecast/encodeTime.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';

/** How fast this machine was at what was encoded on it lately. */
export async function viewSpeeds({ database }: Context): Promise<MeasuredSpeed[]> {
  const rows = await database.query<{ plan: unknown; seconds: number }>(statements.LATEST_ENCODES, []);
  return learnSpeeds(rows.flatMap(({ plan, seconds }) => finishedEncode(plan, seconds)));
}

/** A row that cannot be read teaches nothing, and must not hide what the others teach. */
function finishedEncode(stored: unknown, seconds: number): FinishedEncode[] {
  try {
    const plan = readPlan(stored);
    const kind = encodeKindOf(plan);
    return kind ? [{ kind, pixels: pixelsOf(plan), seconds }] : [];
  } catch (error) {
    if ((error as Error).name !== 'StoredUnreadable') throw error;
    return [];
  }
}
