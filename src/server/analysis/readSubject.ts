import type { Subject } from '../../core/advice/advisory.ts';
import type { Findings } from '../../core/analysis/conclude.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import type { Context } from '../context.ts';
import { readClock } from '../programmes/frameTimes.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { readAnalysis, readFindings } from './readAnalysis.ts';

/** What advice on a programme goes by; without findings while it was not looked at. */
export async function readSubject(context: Context, row: ProgrammeRow): Promise<Subject> {
  const { facts } = row;
  return { facts, clock: await readClock(context, row), findings: await findFindings(context, row) };
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
