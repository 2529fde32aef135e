import type { PortionView } from '../../contract/views.ts';
import type { PortionRequest } from '../../contract/portion.ts';
import * as statements from '../../store/statements/portions.ts';
import type { Context } from '../context.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';

interface PortionRow extends Record<string, unknown> {
  readonly id: string;
  readonly name: string;
  readonly in_frame: number;
  readonly out_frame: number;
}

/** The portions of a programme in their order; none means the whole. */
export async function listPortions(context: Context, programmeId: string): Promise<PortionView[]> {
  await findProgramme(context, programmeId);
  const rows = await context.database.query<PortionRow>(statements.LIST_PORTIONS, [programmeId]);
  return rows.map((row) => ({ id: row.id, name: row.name, inFrame: row.in_frame, outFrame: row.out_frame }));
}

/**
 * Replaces the portions of a programme.
 *
 * @param wanted - In the order wanted; those without an id get one.
 * @param page - Which page changed them: it need not be told.
 * @throws Refusal `portion-outside`, naming the first that does not fit.
 */
export async function replacePortions(
  context: Context,
  programmeId: string,
  wanted: readonly PortionRequest[],
  page: string | null,
): Promise<PortionView[]> {
  const { facts } = await findProgramme(context, programmeId);
  wanted.forEach((portion, index) => {
    const field = `[${index}]`;
    if (!facts.video) {
      throw new Refusal('no-picture', 'This programme has sound only; portions are counted in frames.', { field });
    }
    if (portion.inFrame > portion.outFrame || portion.outFrame >= facts.frameCount) {
      throw new Refusal(
        'portion-outside',
        `${portion.name ?? `Portion ${index + 1}`} runs from frame ${portion.inFrame} to ${portion.outFrame}; this programme has frames 0 to ${facts.frameCount - 1}.`,
        { field },
      );
    }
  });
  const list = wanted.map((portion, index) => ({
    id: portion.id ?? context.newId(),
    name: portion.name ?? `Portion ${index + 1}`,
    inFrame: portion.inFrame,
    outFrame: portion.outFrame,
  }));
  if (new Set(list.map(({ id }) => id)).size < list.length) {
    throw new Refusal('field-wrong', 'Two portions have the same id; leave the id out of the new one.', {
      field: 'id',
    });
  }
  await context.database.query(statements.REPLACE_PORTIONS, [programmeId, JSON.stringify(list)]);
  context.events.publish({ type: 'work', programmeId, page });
  return listPortions(context, programmeId);
}
