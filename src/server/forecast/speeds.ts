import { readPlan } from '../../contract/stored/plan.ts';
import { readWork } from '../../contract/stored/work.ts';
import { learnSpeeds, type FinishedEncode, type MachineSpeeds } from '../../core/forecast/encodeTime.ts';
import { densityOf, workOfPlan, type PlannedWork } from '../../core/forecast/encodeWork.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';

interface FinishedRow extends Record<string, unknown> {
  readonly programme_id: string;
  readonly work: unknown;
  /** Only where the work was not kept yet. */
  readonly plan: unknown;
  readonly bytes: number;
  readonly encode_seconds: number;
  readonly check_seconds: number | null;
  readonly beside_share: number;
}

/** How fast this machine was at what was encoded on it lately. */
export async function viewSpeeds({ database }: Context): Promise<MachineSpeeds> {
  const rows = await database.query<FinishedRow>(statements.LATEST_ENCODES, []);
  return learnSpeeds(rows.flatMap(finishedEncode));
}

/** A row that cannot be read teaches nothing, and must not hide what the others teach. */
function finishedEncode(row: FinishedRow): FinishedEncode[] {
  const planned = row.work === null ? workOfStored(row.plan) : readWork(row.work);
  const bitsPerPixel = planned && densityOf(planned, row.bytes);
  if (!planned?.kind || bitsPerPixel === null) return [];
  const { kind, ...pixels } = planned;
  const { encode_seconds: encodeSeconds, check_seconds: checkSeconds, beside_share: besideShare } = row;
  return [{ programmeId: row.programme_id, kind, pixels, bitsPerPixel, encodeSeconds, checkSeconds, besideShare }];
}

function workOfStored(plan: unknown): PlannedWork | null {
  try {
    return workOfPlan(readPlan(plan));
  } catch (error) {
    if ((error as Error).name !== 'StoredUnreadable') throw error;
    return null;
  }
}
