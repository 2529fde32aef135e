import type { BatchPlanRow } from '../../contract/batch.ts';
import type { Advisory, Fix } from '../../core/advice/advisory.ts';
import { changeByFix, isRecipeFix, type OrderState, type RecipeFix } from '../../core/advice/applyFix.ts';
import { withoutPicture } from '../../core/recipe/changeRecipe.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';

/** What mends one row by a key: a fix of its advice, or the sound alone of what has no picture. */
export type RowFix =
  RecipeFix | Extract<Fix, { readonly kind: 'portion' }> | { readonly kind: 'sound-only'; readonly label: string };

/** What is done to one row: a fix, an order of its own, or all of the programme where a part was marked. */
export type RowEdit = RowFix | { readonly kind: 'own'; readonly recipe: Recipe } | { readonly kind: 'whole' };

/** What became of one row since it was planned. */
export interface RowChange {
  /** One after another, over whatever the row is at first. */
  readonly edits: readonly RowEdit[];
  readonly isLeftOut: boolean;
}

export const UNCHANGED: RowChange = { edits: [], isLeftOut: false };

/** What can be done by one key about what is told of a row; null where it takes more. */
export function rowFixOf({ fix }: Advisory): RowFix | null {
  return fix && (isRecipeFix(fix) || fix.kind === 'portion') ? fix : null;
}

/** Where nothing of a programme is to be seen. */
export const SOUND_ALONE = { kind: 'sound-only', label: 'Make its sound alone' } as const satisfies RowFix;

/** The order of a row after all that was done to it. */
export function editOrder(order: OrderState, edits: readonly RowEdit[]): OrderState {
  return edits.reduce(applyEdit, order);
}

function applyEdit({ recipe, portion }: OrderState, edit: RowEdit): OrderState {
  switch (edit.kind) {
    case 'own':
      return { recipe: edit.recipe, portion };
    case 'whole':
      return { recipe, portion: null };
    case 'portion':
      return { recipe, portion: edit.portion };
    case 'sound-only':
      return { recipe: { ...withoutPicture(recipe), name: recipe.name }, portion };
    default:
      return { recipe: changeByFix(recipe, edit), portion };
  }
}

/** With one thing more done; an order of its own takes the place of the one before. */
export function withEdit(change: RowChange, edit: RowEdit): RowChange {
  const isAgain = edit.kind === 'own' && change.edits.at(-1)?.kind === 'own';
  return { ...change, edits: [...(isAgain ? change.edits.slice(0, -1) : change.edits), edit] };
}

/**
 * A row as it will be after what was done to it, while it is planned again: its order, without the advice that was followed.
 * What it will weigh is still told of before.
 *
 * @param atFirst - Before anything was done to it.
 */
export function foreseeRow(row: BatchPlanRow, atFirst: BatchPlanRow, { edits, isLeftOut }: RowChange): BatchPlanRow {
  const isDone = (fix: RowFix | null) => edits.some((edit) => JSON.stringify(edit) === JSON.stringify(fix));
  const isMadeSo = isDone(SOUND_ALONE) ? ({ state: 'ready', reason: null } as const) : {};
  const advisories = row.advisories.filter((advisory) => !isDone(rowFixOf(advisory)));
  return { ...row, ...editOrder(atFirst, edits), ...isMadeSo, isLeftOut, advisories };
}
