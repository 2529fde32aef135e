import { mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Engine } from '../engine/engine.ts';
import { takeIn } from '../server/programmes/programmes.ts';
import { makeContext } from './context.ts';
import { factsOf } from './facts.ts';
import { createFakeEngine, writeFakeMaster } from './fakeEngine.ts';

/**
 * A context on the fake engine, with one programme taken in.
 *
 * @param engine - What it does otherwise than the fake one.
 */
export async function makeFakeProgramme(facts = factsOf({ bytes: 500_000 }), engine: Partial<Engine> = {}) {
  const folder = mkdtempSync(path.join(tmpdir(), 'linstock-fake-'));
  mkdirSync(path.join(folder, 'media'));
  const master = path.join(folder, 'media', 'film.mov');
  writeFakeMaster(master, facts);
  const context = await makeContext(folder, { ...createFakeEngine(), ...engine });
  return { context, programmeId: (await takeIn(context, master)).id };
}
