import { mkdir } from 'node:fs/promises';
import { pino } from 'pino';
import type { Engine } from '../engine/engine.ts';
import type { Context } from '../server/context.ts';
import { SOUND_CODECS } from '../core/sound/codecs.ts';
import { VIDEO_CODECS } from '../core/video/codecs.ts';
import { resolveConfig } from '../server/config.ts';
import { templateFolder } from '../server/database/template.ts';
import { createEvents } from '../server/events.ts';
import { migrate } from '../store/migrate.ts';
import { openEmbedded } from '../store/openEmbedded.ts';

/** A context on a database of its own in the folder, with a clock that moves only when told. */
export async function makeContext(
  folder: string,
  engine: Partial<Engine> = {},
): Promise<Context & { tick: (ms: number) => void }> {
  await mkdir(`${folder}/data`, { recursive: true });
  const database = await openEmbedded(`${folder}/data/database`, templateFolder(process.cwd()));
  await migrate(database, 'src/store/migrations');
  let nowMs = Date.UTC(2026, 9, 2, 20);
  let ids = 0;
  return {
    config: resolveConfig(
      { LINSTOCK_DATA: `${folder}/data`, LINSTOCK_MEDIA: `${folder}/media`, LINSTOCK_OUTPUT: `${folder}/out` },
      process.cwd(),
    ),
    database,
    engine: engine as Engine,
    engineReport: { version: 'test', encoders: [...VIDEO_CODECS], soundEncoders: [...SOUND_CODECS], problem: null },
    events: createEvents(),
    logger: pino({ level: 'silent' }),
    now: () => new Date(nowMs),
    newId: () => `id-${(ids += 1)}`,
    tick: (ms) => (nowMs += ms),
  };
}
