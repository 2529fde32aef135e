import { readPlan } from '../../contract/stored/plan.ts';
import { encodeKindOf, learnSpeeds, pixelsOf, type MeasuredSpeed } from '../../core/forecast/encodeTime.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';

/** How fast this machine was at what was encoded on it lately. */
export async function viewSpeeds({ database }: Context): Promise<MeasuredSpeed[]> {
  const rows = await database.query<{ plan: unknown; encode_seconds: number }>(statements.LATEST_ENCODES, []);
  const finished = rows.flatMap(({ plan: stored, encode_seconds: seconds }) => {
    const plan = readPlan(stored);
    const kind = encodeKindOf(plan);
    return kind ? [{ kind, pixels: pixelsOf(plan), seconds }] : [];
  });
  return learnSpeeds(finished);
}
