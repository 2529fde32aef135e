import type { Advisory } from '../../core/advice/advisory.ts';
import { adviseUnseen } from '../../core/advice/adviseUnseen.ts';
import { readSubject } from '../analysis/readSubject.ts';
import type { Context } from '../context.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { findRendition } from './renditions.ts';

/** What was found in a master that its rendition has as well, to be known before that is sent on. */
export async function adviseOnRendition(context: Context, id: string): Promise<Advisory[]> {
  const { programme_id: programmeId, recipe, portion } = await findRendition(context, id);
  return adviseUnseen(await readSubject(context, await findProgramme(context, programmeId)), { recipe, portion });
}
