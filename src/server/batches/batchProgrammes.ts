import type { Subject } from '../../core/advice/advisory.ts';
import { readSubject } from '../analysis/readSubject.ts';
import type { Context } from '../context.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';

/** A programme of a batch, with all that is known of it. */
export interface BatchProgramme {
  readonly row: ProgrammeRow;
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
    if (row) found.set(id, { row, subject: await readSubject(context, row) });
  }
  return found;
}

async function findIfThere(context: Context, programmeId: string): Promise<ProgrammeRow | null> {
  return findProgramme(context, programmeId).catch((error: unknown) => {
    if (isRefusal(error)) return null;
    throw error;
  });
}
