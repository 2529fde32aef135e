import type { ProgrammeView } from '../../src/contract/views.ts';
import { soundingOf } from '../../src/contract/sounding.ts';
import { atQuality, plainVideo, STARTING_RECIPE, type Recipe, OWN_PICTURE } from '../../src/core/recipe/recipe.ts';
import { CONTAINER } from '../../src/core/container/containers.ts';
import { RATED, RATED_CODECS } from '../../src/core/video/codecs.ts';
import { EFFORTS } from '../../src/core/video/definition.ts';
import type { Application } from '../../src/server/application.ts';
import { sound, untilNone } from './jobs.ts';
import { render } from './renditions.ts';
import { seededRandom } from '../../src/testing/seededRandom.ts';

const SETTINGS = 50;
const HEIGHTS = [144, 180, 240, 270];

/** Expected sizes at constant quality against the real ones: the share inside the range, and how wide it is. */
export async function benchForecasts(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log(`\nExpected against real sizes at constant quality, ${SETTINGS} random settings`);
  // Soundings of before are rough, and made again.
  await untilNone(app, 'analysis');
  const random = seededRandom(20261126);
  const one = <Value>(list: readonly Value[]): Value => list[Math.floor(random() * list.length)]!;
  const rows: { codec: string; effort: string; ratio: number; width: number; isInside: boolean }[] = [];
  for (let index = 0; index < SETTINGS; index += 1) {
    const programme = programmes[index % programmes.length]!;
    const codec = one(RATED_CODECS);
    const { usual, worst, finestSensible } = RATED[codec].quality;
    const value = Math.round(finestSensible + random() * ((usual + worst) / 2 - finestSensible));
    const effort = one(EFFORTS);
    const recipe: Recipe = {
      ...STARTING_RECIPE,
      container: RATED[codec].containers.find((container) => CONTAINER[container].withPicture)!,
      video: plainVideo(codec, atQuality(value), effort),
      picture: { ...OWN_PICTURE, fit: { height: one(HEIGHTS) } },
      audio: null,
    };
    const wanted = soundingOf(programme, recipe, null);
    if (!wanted) continue;
    await sound(app, programme.id, wanted);
    const { plan, bytes } = await render(app, programme, recipe);
    const expected = plan.budget.expected;
    if (!expected || bytes === null) continue;
    const ratio = bytes / expected.likely;
    const width = (expected.high - expected.low) / 2 / expected.likely;
    const isInside = bytes >= expected.low && bytes <= expected.high;
    rows.push({ codec, effort, ratio, width, isInside });
    console.log(
      `${programme.name} ${codec} ${effort} ${value} ${wanted.height}: × ${ratio.toFixed(3)} ± ${(100 * width).toFixed(0)} % ${isInside ? '' : 'OUTSIDE'}`,
    );
  }
  const middle = (values: number[]) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;
  const inside = rows.filter((row) => row.isInside).length / rows.length;
  const later = rows.slice(rows.length / 2);
  console.log(
    `${(100 * inside).toFixed(0)} % inside, median width ± ${(100 * middle(rows.map(({ width }) => width))).toFixed(0)} %; ` +
      `of the later half ${((100 * later.filter((row) => row.isInside).length) / later.length).toFixed(0)} %, ± ${(100 * middle(later.map(({ width }) => width))).toFixed(0)} %`,
  );
}
