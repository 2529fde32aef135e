import type { ProgrammeView, RenditionView } from '../../src/contract/views.ts';
import {
  atQuality,
  plainVideo,
  STARTING_RECIPE,
  type RateChoice,
  type Recipe,
  OWN_PICTURE,
} from '../../src/core/recipe/recipe.ts';
import type { Application } from '../../src/server/application.ts';
import { getRendition } from '../../src/server/renditions/renditions.ts';
import { pause } from './timing.ts';

/** After so much of the work the time that is left is held against what it then took. */
const TOLD_AT = 0.1;

/** What is ordered of each programme: one pass, two, and a size that takes as many as it takes. */
const RATES: readonly (readonly [name: string, (seconds: number) => RateChoice])[] = [
  ['quality', () => atQuality(23)],
  ['two passes', () => ({ mode: 'average', kbps: 1500, passes: 2 })],
  ['size', (seconds) => ({ mode: 'size', bytes: Math.round((1_500_000 / 8) * seconds) })],
];

const ANALYSES = `SELECT id FROM job WHERE kind = 'analysis' LIMIT 1`;

/** Whether the time left is honest from a tenth of the work on. */
export async function benchProgress(app: Application, programmes: ProgrammeView[]): Promise<void> {
  // Programmes are looked at before they are ordered; what is gentle would still take its share of two cores.
  while ((await app.context.database.query(ANALYSES)).length > 0) await pause();
  console.log('\nTime left as it was told after a tenth of the work, against what it took');
  const offs: number[] = [];
  for (const programme of programmes) {
    for (const [name, rate] of RATES) {
      const recipe: Recipe = {
        ...STARTING_RECIPE,
        video: plainVideo('h264', rate(programme.durationSeconds)),
        picture: { ...OWN_PICTURE, fit: { height: 540 } },
      };
      const found = await watch(app, programme, recipe);
      if (!found) continue;
      offs.push(Math.abs(found.told / found.took - 1));
      console.log(
        `${programme.name}, ${name}: told ${found.told.toFixed(0)} s, took ${found.took.toFixed(0)} s (× ${(found.told / found.took).toFixed(2)}; by its own pace alone × ${found.ownPace.toFixed(2)})`,
      );
    }
  }
  const inside = offs.filter((off) => off <= 0.2).length;
  console.log(`${inside} of ${offs.length} within 20 %`);
}

async function watch(app: Application, { id: programmeId }: ProgrammeView, recipe: Recipe) {
  const { id } = await app.order({ programmeId, recipe, portion: null, name: null, keepFailed: false });
  let told: { readonly seconds: number; readonly at: number; readonly projected: number } | null = null;
  let began: number | null = null;
  for (;;) {
    const view: RenditionView = await getRendition(app.context, id);
    const now = performance.now() / 1000;
    if (view.state === 'running') began ??= now;
    if (!told && began !== null && view.fraction >= TOLD_AT && view.secondsLeft !== null) {
      told = { seconds: view.secondsLeft, at: now, projected: (now - began) / view.fraction };
    }
    if (view.state === 'done') {
      return told && began && { told: told.seconds, took: now - told.at, ownPace: told.projected / (now - began) };
    }
    if (view.state === 'failed' || view.state === 'stopped') return null;
    await pause();
  }
}
