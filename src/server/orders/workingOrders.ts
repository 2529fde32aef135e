import { recipeSchema, type WorkingOrderRequest } from '../../contract/recipe.ts';
import { parseWith } from '../../contract/strictObject.ts';
import type { WorkingOrderView } from '../../contract/views.ts';
import * as statements from '../../store/statements/workingOrders.ts';
import type { Context } from '../context.ts';
import { findProgramme } from '../programmes/programmes.ts';

/** The order line of a programme as it was left; null when nobody changed it, or it was written by another version. */
export async function readWorkingOrder(context: Context, programmeId: string): Promise<WorkingOrderView> {
  await findProgramme(context, programmeId);
  const [row] = await context.database.query<{ recipe: unknown; brief_id: string | null }>(
    statements.FIND_WORKING_ORDER,
    [programmeId],
  );
  if (!row) return { recipe: null, briefId: null };
  const parsed = parseWith(recipeSchema, row.recipe);
  return { recipe: parsed.ok ? parsed.value : null, briefId: row.brief_id };
}

/**
 * Keeps the order line of a programme as it is left.
 *
 * @param page - Which page changed it: it need not be told.
 */
export async function keepWorkingOrder(
  context: Context,
  programmeId: string,
  { recipe, briefId }: WorkingOrderRequest,
  page: string | null,
): Promise<WorkingOrderView> {
  await findProgramme(context, programmeId);
  const values = [programmeId, JSON.stringify(recipe), briefId, context.now()];
  await context.database.query(statements.KEEP_WORKING_ORDER, values);
  context.events.publish({ type: 'work', programmeId, page });
  return { recipe, briefId };
}
