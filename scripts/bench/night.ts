import type { BatchOrder, BatchRequest, BatchRowView } from '../../src/contract/batch.ts';
import type { ProgrammeView } from '../../src/contract/views.ts';
import { STOCK_RECIPES } from '../../src/core/recipe/stockRecipes.ts';
import type { Application } from '../../src/server/application.ts';
import { askBatch, getBatch } from '../../src/server/batches/batches.ts';
import { measureBatch } from '../../src/server/batches/measureBatch.ts';
import { planBatch } from '../../src/server/batches/planBatch.ts';
import { takeIn } from '../../src/server/programmes/programmes.ts';
import { untilNone } from './jobs.ts';
import { drawLongProgramme } from './longProgramme.ts';
import { pause } from './timing.ts';

/** Of the demonstration's programmes each is made by so many of the recipes, in turn, so that the night ends before the morning. */
const RECIPES_EACH = 3;

/** A night's run: every recipe that ships over made clips, and in turn over the demonstration, and what each makes of them. */
export async function benchNight(app: Application, demonstration: ProgrammeView[]): Promise<void> {
  const { context, scheduler } = app;
  const clips: ProgrammeView[] = [];
  for (const seed of [3, 4, 5, 6]) {
    clips.push(await takeIn(context, drawLongProgramme(context.config.mediaFolders[0]!, seed, 6)));
  }
  const order = ({ id }: ProgrammeView, { recipe }: (typeof STOCK_RECIPES)[number]): BatchOrder => ({
    programmeId: id,
    recipe,
    portion: null,
    isLeftOut: false,
  });
  const inTurn = demonstration.flatMap((programme, index) =>
    Array.from({ length: RECIPES_EACH }, (_, turn) => {
      const at = (index * RECIPES_EACH + turn) % STOCK_RECIPES.length;
      return order(programme, STOCK_RECIPES[at]!);
    }),
  );
  const ofClips = clips.flatMap((clip) => STOCK_RECIPES.map((recipe) => order(clip, recipe)));
  const request: BatchRequest = {
    orders: [...inTurn, ...ofClips],
    ...{ programmeIds: null, recipes: null, bundleId: null, briefId: null, together: null, name: 'A night' },
  };
  // One of each first, so that this machine's speeds are known when the night is promised.
  const before = ofClips.filter(({ programmeId }) => programmeId === clips[0]?.id);
  await run(app, { ...request, orders: before, name: 'Before the night' });
  await measureBatch(context, scheduler, await planBatch(context, request));
  await untilNone(app, 'sounding');
  const plan = await planBatch(context, request);
  const began = performance.now();
  const batch = await run(app, request);
  const taken = (performance.now() - began) / 1000;
  const { asked, made, failed, stopped, leftOut } = batch;
  console.log(`\nA night: asked ${asked} = made ${made} + failed ${failed} + stopped ${stopped} + left out ${leftOut}`);
  console.log(
    `promised ${plan.work.likely.toFixed(0)} s (${plan.work.low.toFixed(0)} to ${plan.work.high.toFixed(0)}, ${plan.work.unknown} unknown), taken ${taken.toFixed(0)} s; expected ${plan.expected.likely} bytes, came to ${sum(batch.rows, 'bytes')}`,
  );
  for (const { recipe } of STOCK_RECIPES) {
    const rows = batch.rows.filter((row) => row.recipeName === recipe.name);
    const promised = plan.rows.flatMap((row) =>
      row.recipe.name === recipe.name ? (row.workSeconds?.likely ?? []) : [],
    );
    sayRecipe(
      recipe.name,
      rows,
      promised.reduce((total, one) => total + one, 0),
    );
  }
  for (const { programmeName, recipeName, reason } of batch.rows.filter((row) => row.reason)) {
    console.log(`  ${programmeName}, ${recipeName}: ${reason}`);
  }
}

async function run({ context, scheduler }: Application, request: BatchRequest) {
  const { id } = await askBatch(context, request);
  scheduler.wake();
  let batch = await getBatch(context, id);
  while (batch.state === 'running') {
    await pause();
    batch = await getBatch(context, id);
  }
  return batch;
}

function sayRecipe(name: string, rows: readonly BatchRowView[], promised: number): void {
  const made = rows.filter(({ state }) => state === 'done');
  const pictures = made.flatMap(({ ssim }) => (ssim === null ? [] : [ssim]));
  const ssim =
    pictures.length > 0 ? (pictures.reduce((total, one) => total + one, 0) / pictures.length).toFixed(4) : '–';
  console.log(
    `${name}: made ${made.length} of ${rows.length}, ${sum(made, 'sourceBytes')} → ${sum(made, 'bytes')} bytes, SSIM ${ssim}, ${sum(made, 'workSeconds').toFixed(1)} s (promised ${promised.toFixed(1)})`,
  );
}

function sum(rows: readonly BatchRowView[], of: 'bytes' | 'sourceBytes' | 'workSeconds'): number {
  return rows.reduce((total, row) => total + (row[of] ?? 0), 0);
}
