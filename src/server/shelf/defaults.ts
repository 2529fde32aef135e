import { defaultsSchema, type Defaults } from '../../contract/defaults.ts';
import { parseWith } from '../../contract/strictObject.ts';
import type { Context } from '../context.ts';
import { readSetting, writeSetting } from '../settings.ts';
import { recipes } from './shelf.ts';

const SETTING = 'defaults';

/** What orders begin with here. */
export async function readDefaults(context: Context): Promise<Defaults> {
  const parsed = parseWith(defaultsSchema, (await readSetting(context, SETTING)) ?? {});
  return parsed.ok ? parsed.value : { recipeId: null };
}

/** @throws Refusal `not-found` for a recipe that is not there. */
export async function writeDefaults(context: Context, defaults: Defaults): Promise<Defaults> {
  if (defaults.recipeId !== null) await recipes.find(context, defaults.recipeId);
  await writeSetting(context, SETTING, defaults);
  context.events.publish({ type: 'shelf', kind: 'recipe' });
  return defaults;
}
