import type { BatchRequest } from '../../src/contract/batch.ts';
import type { ProgrammeView } from '../../src/contract/views.ts';
import { STOCK_RECIPES } from '../../src/core/recipe/stockRecipes.ts';
import type { Application } from '../../src/server/application.ts';
import { askBatch, getBatch } from '../../src/server/batches/batches.ts';
import { measureBatch } from '../../src/server/batches/measureBatch.ts';
import { planBatch } from '../../src/server/batches/planBatch.ts';
import { takeIn } from '../../src/server/programmes/programmes.ts';
import { untilNone } from './jobs.ts';
import { drawLongProgramme } from './longProgramme.ts';
import { runFfmpeg } from './runFfmpeg.ts';
import { pause, timeOf } from './timing.ts';

/** What people make of a folder in one go: plain versions, a small one, one of a size and one to look at. */
const RECIPES = ['stock-web-1080', 'stock-web-480', 'stock-small-720', 'stock-half', 'stock-review'];

/** Of clips and programmes, in seconds. */
const LENGTHS = [7, 90, 15, 45, 30];

/** After these shares of a batch's time what it said was left is held against what it then took. */
const TOLD_AT = [0, 0.1, 0.25, 0.5, 0.75];

/** Whether what a batch says is left of it is honest: over the demonstration first, and then over clips of mixed lengths. */
export async function benchBatchLeft(app: Application, demonstration: ProgrammeView[]): Promise<void> {
  console.log('\nWhat a batch said was left of it, against what it then took');
  await untilNone(app, 'analysis');
  await watch(app, 'the demonstration, nothing learned before', demonstration);
  for (const seed of [21, 31]) {
    const clips: ProgrammeView[] = [];
    for (const [index, seconds] of LENGTHS.entries()) {
      const file = drawLongProgramme(app.context.config.mediaFolders[0]!, seed + index, seconds);
      clips.push(await takeIn(app.context, file));
    }
    await untilNone(app, 'analysis');
    await watch(app, `clips of ${LENGTHS.join(', ')} s`, clips);
  }
}

async function watch(app: Application, name: string, programmes: readonly ProgrammeView[]): Promise<void> {
  const { context, scheduler } = app;
  const recipes = STOCK_RECIPES.filter(({ id }) => RECIPES.includes(id));
  const request: BatchRequest = {
    orders: programmes.flatMap(({ id }) =>
      recipes.map(({ recipe }) => ({ programmeId: id, recipe, portion: null, isLeftOut: false })),
    ),
    ...{ programmeIds: null, recipes: null, bundleId: null, briefId: null, together: null, name },
  };
  // As on the page that shows what a batch will be, before it is queued.
  await measureBatch(context, scheduler, await planBatch(context, request));
  await untilNone(app, 'sounding');
  const { id } = await askBatch(context, request);
  scheduler.wake();
  const paceBefore = await paceOf();
  const began = performance.now() / 1000;
  const told: { readonly at: number; readonly left: number; readonly unknown: number }[] = [];
  let batch = await getBatch(context, id);
  while (batch.state === 'running') {
    const at = performance.now() / 1000 - began;
    if (batch.left) told.push({ at, left: batch.left.seconds, unknown: batch.left.unknown });
    await pause();
    batch = await getBatch(context, id);
  }
  const taken = performance.now() / 1000 - began;
  console.log(`${name}: ${batch.made} of ${batch.asked} made in ${taken.toFixed(0)} s`);
  console.log(`  one same encode took ${paceBefore.toFixed(1)} s before, ${(await paceOf()).toFixed(1)} s after`);
  for (const share of TOLD_AT) {
    const then = told.find(({ at }) => at >= share * taken);
    if (!then) continue;
    const took = taken - then.at;
    const off = ((then.left / took - 1) * 100).toFixed(0);
    const unknown = then.unknown > 0 ? `, and ${then.unknown} not known` : '';
    console.log(
      `  after ${100 * share} %: told ${then.left.toFixed(0)} s${unknown}, took ${took.toFixed(0)} s (${off} %)`,
    );
  }
}

/** Seconds of an encode that is always the same: a machine that others use as well tells by it how far its pace moved meanwhile. */
function paceOf(): Promise<number> {
  const encode = 'testsrc2=s=1280x720:d=4,noise=c0s=10:c0f=t';
  return timeOf(async () => runFfmpeg(['-f', 'lavfi', '-i', encode, '-c:v', 'libx264', '-f', 'null', '-']));
}
