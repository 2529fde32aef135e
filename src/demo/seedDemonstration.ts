import type { Application } from '../server/application.ts';
import { listProgrammes, takeIn } from '../server/programmes/programmes.ts';
import { drawFootage } from './drawFootage.ts';

/** Draws the footage once and takes it in; a second start finds everything there. */
export async function seedDemonstration(application: Application): Promise<void> {
  const { context } = application;
  const { ffmpeg, applicationFolder, mediaFolders } = context.config;
  const folder = mediaFolders[0];
  if (!folder || context.engineReport.version === null) return;
  const files = await drawFootage(ffmpeg, applicationFolder, folder);
  const known = new Set((await listProgrammes(context)).map((programme) => programme.path));
  for (const file of files) {
    if (!known.has(file)) await takeIn(context, file);
  }
}
