import { mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { takeIn } from '../server/programmes/programmes.ts';
import { makeContext } from './context.ts';
import { factsOf } from './facts.ts';
import { createFakeEngine, writeFakeMaster } from './fakeEngine.ts';

/** A context on the fake engine, with one programme taken in. */
export async function makeFakeProgramme() {
  const folder = mkdtempSync(path.join(tmpdir(), 'linstock-fake-'));
  mkdirSync(path.join(folder, 'media'));
  const master = path.join(folder, 'media', 'film.mov');
  writeFakeMaster(master, factsOf({ bytes: 500_000 }));
  const context = await makeContext(folder, createFakeEngine());
  return { context, programmeId: (await takeIn(context, master)).id };
}
