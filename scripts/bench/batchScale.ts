import { linkSync } from 'node:fs';
import path from 'node:path';
import type { BatchRequest } from '../../src/contract/batch.ts';
import type { ProgrammeView } from '../../src/contract/views.ts';
import type { Findings } from '../../src/core/analysis/conclude.ts';
import { STOCK_RECIPES } from '../../src/core/recipe/stockRecipes.ts';
import { readFindings } from '../../src/server/analysis/readAnalysis.ts';
import type { Application } from '../../src/server/application.ts';
import { askBatch, getBatch } from '../../src/server/batches/batches.ts';
import { planBatch } from '../../src/server/batches/planBatch.ts';
import { untilNone } from './jobs.ts';
import { columnsOf } from './ledgerRows.ts';
import { time } from './scale.ts';

const PROGRAMMES = 300;
const RECIPES = ['stock-web-1080', 'stock-web-480', 'stock-small-720'];
const TIMES = 5;

/** What was found of them is as much as of an hour each. */
const HOUR_SECONDS = 3600;

/** A folder of three hundred programmes by three recipes: what planning them, queueing them and counting them back take. */
export async function benchBatchScale(app: Application, programmes: ProgrammeView[]): Promise<void> {
  const { context, line } = app;
  const [programme] = programmes;
  if (!programme) return;
  await untilNone(app, 'analysis');
  await line.change({ paused: true });
  const programmeIds = await copyProgramme(app, programme);
  const recipes = STOCK_RECIPES.filter(({ id }) => RECIPES.includes(id)).map(({ recipe }) => recipe);
  const request: BatchRequest = {
    ...{ programmeIds, recipes, orders: null },
    ...{ bundleId: null, briefId: null, together: null, name: 'A folder' },
  };
  const files = PROGRAMMES * RECIPES.length;
  console.log(`\n${PROGRAMMES} programmes of an hour by ${RECIPES.length} recipes: ${files} files`);
  await time('planning them', () => planBatch(context, request), TIMES);
  const { rows } = await planBatch(context, request);
  const orders = rows.map(({ programmeId, recipe, portion }) => ({ programmeId, recipe, portion, isLeftOut: false }));
  await time(
    'planning them order by order',
    () => planBatch(context, { ...request, programmeIds: null, recipes: null, orders }),
    TIMES,
  );
  const began = performance.now();
  const { id } = await askBatch(context, request);
  console.log(`asking for them: ${(performance.now() - began).toFixed(0)} ms`);
  await untilNone(app, 'batch');
  console.log(`until the last was ordered: ${(performance.now() - began).toFixed(0)} ms`);
  await time('counting them back', () => getBatch(context, id), TIMES);
}

/** The same master under many names, each a programme of its own that was looked at. */
async function copyProgramme(app: Application, { id, path: master }: ProgrammeView): Promise<string[]> {
  const { query } = app.context.database;
  const { busyness, sound, ...conclusions } = lengthen((await readFindings(app.context, id))!);
  const programme = await columnsOf(query, 'programme', ['id', 'path']);
  const analysis = await columnsOf(query, 'analysis', ['programme_id', 'findings', 'series']);
  const ids: string[] = [];
  for (let number = 1; number <= PROGRAMMES; number += 1) {
    const copy = `copy${number}`;
    const file = path.join(path.dirname(master), `${copy}${path.extname(master)}`);
    linkSync(master, file);
    await query(
      `INSERT INTO programme (id, path, ${programme.join(', ')}) SELECT $1, $2, ${programme.join(', ')} FROM programme WHERE id = $3`,
      [copy, file, id],
    );
    await query(
      `INSERT INTO analysis (programme_id, findings, series, ${analysis.join(', ')}) SELECT $1, $2, $3, ${analysis.join(', ')} FROM analysis WHERE programme_id = $4`,
      [copy, JSON.stringify(conclusions), JSON.stringify({ busyness, sound }), id],
    );
    ids.push(copy);
  }
  return ids;
}

/** As much as there is of an hour. */
function lengthen(findings: Findings): Findings {
  const { busyness, sound } = findings;
  const repeated = (list: readonly number[], step: number) =>
    Array.from({ length: HOUR_SECONDS / step }, (_, index) => list[index % list.length]!);
  return {
    ...findings,
    busyness: busyness && { ...busyness, bits: repeated(busyness.bits, busyness.stepSeconds) },
    sound: sound && {
      ...sound,
      peaks: repeated(sound.peaks, sound.stepSeconds),
      momentary: repeated(sound.momentary, sound.stepSeconds),
    },
  };
}
