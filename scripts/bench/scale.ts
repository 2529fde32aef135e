import type { ProgrammeView } from '../../src/contract/views.ts';
import { atQuality, plainVideo, STARTING_RECIPE, OWN_PICTURE } from '../../src/core/recipe/recipe.ts';
import type { Application } from '../../src/server/application.ts';
import { PRIORITY } from '../../src/server/jobs/job.ts';
import { viewLedger } from '../../src/server/ledger/ledger.ts';
import { listRenditions } from '../../src/server/renditions/renditions.ts';
import * as jobs from '../../src/store/statements/jobs.ts';
import { copyRendition, MADE, WAITING } from './ledgerRows.ts';
import { render } from './renditions.ts';

const TIMES = 20;

/** Ten thousand renditions in the ledger and two thousand waiting: what answers take, and how large they are. */
export async function benchScale(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log(`\n${MADE} renditions in the ledger, ${WAITING} waiting`);
  const [programme] = programmes;
  if (!programme) return;
  const { database } = app.context;
  await app.line.change({ paused: false });
  const recipe = {
    ...STARTING_RECIPE,
    video: plainVideo('h264', atQuality(40), 'fast'),
    picture: { ...OWN_PICTURE, fit: { height: 90 } },
  };
  const { id } = await render(app, programme, recipe);
  await app.line.change({ paused: true });
  await copyRendition(database.query, id, { made: MADE, waiting: WAITING });
  const ledger = { words: '', state: null, order: 'newest', after: 0, limit: 100 } as const;
  await time('the ledger', () => viewLedger(app.context, ledger));
  await time('the ledger, by words', () => viewLedger(app.context, { ...ledger, words: '77 h264' }));
  await time('the ledger, the worst first', () => viewLedger(app.context, { ...ledger, order: 'worst' }));
  await time('the queue', () => app.line.view());
  const page = { programmeId: programme.id, state: null, newest: true, after: null, limit: 200 };
  await time('renditions of one programme', () => listRenditions(app.context, page));
  const claims: number[] = [];
  for (let index = 0; index < TIMES; index += 1) {
    const began = performance.now();
    await database.query(jobs.CLAIM_JOB, ['bench', 60_000, 'rendition', PRIORITY.analysis]);
    claims.push(performance.now() - began);
  }
  console.log(`claiming the next job: ${summary(claims)}`);
  await database.query(`DELETE FROM job`);
  await database.query(`DELETE FROM rendition WHERE id LIKE 'done%' OR id LIKE 'queued%'`);
  await app.line.change({ paused: false });
}

/** Asks again and again, and prints what the answers take and how large they are. */
export async function time(name: string, ask: () => Promise<object>, times = TIMES): Promise<void> {
  const taken: number[] = [];
  let bytes = 0;
  for (let index = 0; index < times; index += 1) {
    const began = performance.now();
    bytes = JSON.stringify(await ask()).length;
    taken.push(performance.now() - began);
  }
  console.log(`${name}: ${summary(taken)}, ${(bytes / 1000).toFixed(0)} kB`);
}

function summary(taken: readonly number[]): string {
  const sorted = taken.toSorted((one, other) => one - other);
  return `${sorted[Math.floor(sorted.length / 2)]?.toFixed(1)} ms in the middle, ${sorted.at(-1)?.toFixed(1)} at most`;
}
