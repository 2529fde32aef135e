import type { Application } from '../server/application.ts';
import { listForgotten, listProgrammes, takeIn } from '../server/programmes/programmes.ts';
import { drawFootage } from './drawFootage.ts';
import { firstOrders } from './firstOrders.ts';

/** Draws the footage once, takes it in and orders the first renditions of it; a second start finds everything there. */
export async function seedDemonstration(application: Application): Promise<void> {
  const { context } = application;
  const { ffmpeg, applicationFolder, mediaFolders } = context.config;
  const folder = mediaFolders[0];
  if (!folder || context.engineReport.version === null) return;
  const files = await drawFootage(ffmpeg, applicationFolder, folder);
  const known = new Set((await listProgrammes(context)).map((programme) => programme.path));
  // What its visitor has forgotten since stays forgotten.
  const isFirstStart = known.size === 0 && (await listForgotten(context)).length === 0;
  if (!isFirstStart) return;
  for (const file of files) await takeIn(context, file);
  for (const order of firstOrders(await listProgrammes(context))) await application.order(order);
}
