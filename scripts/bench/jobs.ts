import type { Application } from '../../src/server/application.ts';
import type { SoundingRequest } from '../../src/contract/sounding.ts';
import type { JobKind } from '../../src/server/jobs/job.ts';
import { askSounding } from '../../src/server/soundings/soundings.ts';
import { pause } from './timing.ts';

/** Waits until no job of a kind is left. */
export async function untilNone({ context, scheduler }: Application, kind: JobKind): Promise<void> {
  scheduler.wake();
  const open = () => context.database.query('SELECT 1 FROM job WHERE kind = $1 LIMIT 1', [kind]);
  while ((await open()).length > 0) await pause();
}

/** Has all of a sounding measured, and waits for it. */
export async function sound(app: Application, programmeId: string, wanted: SoundingRequest): Promise<void> {
  await askSounding(app.context, app.scheduler, programmeId, wanted);
  await untilNone(app, 'sounding');
}
