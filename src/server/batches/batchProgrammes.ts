import type { Subject } from '../../core/advice/advisory.ts';
import type { Findings } from '../../core/analysis/conclude.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { readAnalysis, readFindings } from '../analysis/readAnalysis.ts';
import type { Context } from '../context.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';

/** A programme of a batch, with what is known of it. */
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
    const [clock, findings] = [await readClock(context, row), await findFindings(context, row)];
    found.set(id, { row, subject: { facts: row.facts, clock, findings } });
  }
  return found;
}

/** What was found; what is as long as the programme only where advice asks for it. */
async function findFindings(context: Context, { id, facts }: ProgrammeRow): Promise<Findings | null> {
  const conclusions = (await readAnalysis(context, id))?.findings;
  if (!conclusions) return null;
  return beginsOrEndsBlack(conclusions, facts)
    ? readFindings(context, id)
    : { ...conclusions, busyness: null, sound: null };
}

/** Black ends are taken off where nothing is heard in them. */
function beginsOrEndsBlack({ black }: Pick<Findings, 'black'>, { frameCount }: ProgrammeFacts): boolean {
  return black.some(({ inFrame, outFrame }) => inFrame === 0 || outFrame >= frameCount - 1);
}

async function findIfThere(context: Context, programmeId: string): Promise<ProgrammeRow | null> {
  return findProgramme(context, programmeId).catch((error: unknown) => {
    if (isRefusal(error)) return null;
    throw error;
  });
}
