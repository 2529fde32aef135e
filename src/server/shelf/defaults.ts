import { defaultsSchema, type Defaults } from '../../contract/defaults.ts';
import { parseWith } from '../../contract/strictObject.ts';
import type { Context } from '../context.ts';
import { requireOutput } from '../folders/changeFolders.ts';
import { Refusal } from '../refusal.ts';
import { readSetting, writeSetting } from '../settings.ts';
import { recipes } from './shelf.ts';

const SETTING = 'defaults';

/** What orders begin with here. */
export async function readDefaults(context: Context): Promise<Defaults> {
  const parsed = parseWith(defaultsSchema, (await readSetting(context, SETTING)) ?? {});
  return parsed.ok ? parsed.value : { recipeId: null, folders: [] };
}

/** @throws Refusal `not-found` for a recipe that is not there, `folder-unusable` for a folder that cannot be used. */
export async function writeDefaults(context: Context, defaults: Defaults): Promise<Defaults> {
  const { mediaFolders } = context.config;
  for (const recipeId of [defaults.recipeId, ...defaults.folders.map((one) => one.recipeId)]) {
    if (recipeId !== null) await recipes.find(context, recipeId);
  }
  for (const { folder, output } of defaults.folders) {
    if (!mediaFolders.includes(folder)) {
      throw new Refusal('folder-unusable', `${folder} is none of the media folders.`, { field: 'folders' });
    }
    if (output !== null) await requireOutput(output);
  }
  await writeSetting(context, SETTING, defaults);
  context.events.publish({ type: 'shelf', kind: 'recipe' });
  return defaults;
}
