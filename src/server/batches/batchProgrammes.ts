import type { Subject } from '../../core/advice/advisory.ts';
import { readAnalysis } from '../analysis/readAnalysis.ts';
import type { Context } from '../context.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';

/** A programme of a batch, with all that is known of it. */
export interface BatchProgramme {
  readonly row: ProgrammeRow;
  /** Without findings while it was not looked at. */
  readonly subject: Subject;
}

/** Looks each up once, however many files are made of it; those that were forgotten are missing. */
export async function findBatchProgrammes(
  context: Context,
  ids: readonly string[],
): Promise<ReadonlyMap<string, BatchProgramme>> {
  const found = new Map<string, BatchProgramme>();
  for (const id of new Set(ids)) {
    const row = await findIfThere(context, id);
    if (!row) continue;
    const findings = (await readAnalysis(context, id))?.findings ?? null;
    found.set(id, { row, subject: { facts: row.facts, clock: await readClock(context, row), findings } });
  }
  return found;
}

async function findIfThere(context: Context, programmeId: string): Promise<ProgrammeRow | null> {
  return findProgramme(context, programmeId).catch((error: unknown) => {
    if (isRefusal(error)) return null;
    throw error;
  });
}
