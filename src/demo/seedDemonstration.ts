import { existsSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { MOST_ROWS } from '../contract/list.ts';
import type { Application } from '../server/application.ts';
import { listProgrammes, takeIn } from '../server/programmes/programmes.ts';
import { drawFootage } from './drawFootage.ts';
import { firstOrders } from './firstOrders.ts';

/** Says in the data folder that everything was made; what its visitor does from then on stays. */
const MADE = 'demonstration-made';

/** Draws the footage once, takes it in and orders the first renditions of it; a start that was cut off is gone on with. */
export async function seedDemonstration(application: Application): Promise<void> {
  const { context } = application;
  const { ffmpeg, applicationFolder, dataFolder, mediaFolders } = context.config;
  const folder = mediaFolders[0];
  const made = path.join(dataFolder, MADE);
  if (!folder || context.engineReport.version === null || existsSync(made)) return;
  const files = await drawFootage(ffmpeg, applicationFolder, folder);
  const listed = async () => (await listProgrammes(context, { after: null, limit: MOST_ROWS })).rows;
  const known = new Set((await listed()).map((programme) => programme.path));
  for (const file of files) {
    if (!known.has(file)) await takeIn(context, file);
  }
  for (const order of firstOrders(await listed())) await application.order(order);
  await writeFile(made, '');
}
