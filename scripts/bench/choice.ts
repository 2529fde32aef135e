import { availableParallelism } from 'node:os';
import type { ProgrammeView } from '../../src/contract/views.ts';
import { bestUnder } from '../../src/core/scale/best.ts';
import { atBytes, inOrder, type ScaleCurve, type ScalePoint } from '../../src/core/scale/curve.ts';
import { nameCurve } from '../../src/core/scale/explain.ts';
import { recipeAt, sizesDown, spread } from '../../src/core/scale/grid.ts';
import {
  atQuality,
  plainVideo,
  renditionSize,
  STARTING_RECIPE,
  type Recipe,
  OWN_PICTURE,
} from '../../src/core/recipe/recipe.ts';
import type { Engine } from '../../src/engine/engine.ts';
import type { Application } from '../../src/server/application.ts';
import { takeIn } from '../../src/server/programmes/programmes.ts';
import { findTrial, askTrial } from '../../src/server/trials/trials.ts';
import { viewScale } from '../../src/server/trials/scale.ts';
import { drawLongProgramme } from './longProgramme.ts';
import { render } from './renditions.ts';
import { pause } from './timing.ts';

const CODECS = ['h264', 'hevc'] as const;

/** Shares of what the whole of a grid comes to, at which a choice is asked for: between its smallest and its largest. */
const CAPS = [0.3, 0.5, 0.7] as const;

const RECIPE: Recipe = {
  ...STARTING_RECIPE,
  video: { ...plainVideo('h264', atQuality(23), 'fast'), keyframes: { seconds: 2 }, keyframesAtScenes: false },
  picture: { ...OWN_PICTURE, fit: { height: 360 } },
  audio: null,
};

/** How long the programme of many scenes is that is drawn for it, in seconds. */
const LONG = 180;

/** The choice under a cap by trials, against the best of whole encodes of every point of the grid. */
export async function benchChoice(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log(
    '\nThe choice under a cap by trials, against whole encodes of the whole grid; effort fast, 360 lines and below',
  );
  const encoding = timeEncodes(app.context.engine);
  const long = await takeIn(app.context, drawLongProgramme(app.context.config.mediaFolders[0]!, 3, LONG));
  for (const programme of [long, ...programmes]) {
    const size = renditionSize(programme, RECIPE);
    if (!size) continue;
    const grid = CODECS.flatMap((codec) =>
      sizesDown(programme, RECIPE, size).map((one) => ({ codec, ...one, qualities: spread(codec) })),
    );
    const began = performance.now();
    const encodedBefore = encoding();
    const request = {
      programmeId: programme.id,
      recipe: RECIPE,
      portion: null,
      grid,
      share: 0.1,
      pinned: [],
      dropped: [],
    };
    const { id } = await askTrial(app.context, app.scheduler, request);
    while (!['done', 'failed'].includes((await findTrial(app.context, id)).state)) await pause();
    const trialSeconds = (performance.now() - began) / 1000;
    // Two are encoded side by side, each with half of the machine.
    const encodeSeconds = (encoding() - encodedBefore) / availableParallelism();
    const { curves } = await viewScale(app.context, programme.id, { measure: 'ssim' });
    const tried = curves.map((curve) => ({ ...curve, points: curve.points.filter(({ kind }) => kind === 'tried') }));
    const whole: ScaleCurve[] = [];
    let wholeSeconds = 0;
    for (const { qualities, ...head } of grid) {
      const points: ScalePoint[] = [];
      for (const quality of qualities) {
        const made = await render(app, programme, recipeAt(RECIPE, head, quality));
        wholeSeconds += made.encodeSeconds ?? 0;
        const { bytes, quality: measured } = made;
        if (bytes === null || !measured) continue;
        const value = measured.ssim.meanDb;
        points.push({ quality, bytes, low: bytes, high: bytes, value, tail: null, kind: 'tried' });
      }
      whole.push({ ...head, workSeconds: null, points: inOrder(points) });
    }
    console.log(
      [
        `${programme.name}, ${programme.durationSeconds.toFixed(0)} s: whole encodes ${wholeSeconds.toFixed(0)} s without measuring`,
        `trials ${encodeSeconds.toFixed(0)} s likewise (${((100 * encodeSeconds) / wholeSeconds).toFixed(0)} %)`,
        `${trialSeconds.toFixed(0)} s with all measuring (${((100 * trialSeconds) / wholeSeconds).toFixed(0)} %)`,
      ].join(', '),
    );
    const sizes = whole.flatMap(({ points }) => points.map(({ bytes }) => bytes));
    for (const share of CAPS) {
      const cap = Math.min(...sizes) * (Math.max(...sizes) / Math.min(...sizes)) ** share;
      const [chosen, best] = [bestUnder(tried, cap)?.place, bestUnder(whole, cap)?.place];
      const real = chosen && whole.find((one) => nameCurve(one) === nameCurve(chosen));
      const reached = real && atBytes(real, cap);
      if (!chosen || !best || !reached) continue;
      console.log(
        `  ${(cap / 1e6).toFixed(2)} MB: chosen ${nameCurve(chosen)}, best ${nameCurve(best)}, ${(best.value - reached.value).toFixed(2)} dB lost`,
      );
    }
  }
}

/**
 * Times what the engine encodes from now on, quick looks at what groups take among it.
 *
 * @returns Says how many seconds it was so far, one after another.
 */
function timeEncodes(engine: Engine): () => number {
  let seconds = 0;
  const timed =
    <Given extends unknown[], Result>(work: (...given: Given) => Promise<Result>) =>
    async (...given: Given): Promise<Result> => {
      const began = performance.now();
      try {
        return await work(...given);
      } finally {
        seconds += (performance.now() - began) / 1000;
      }
    };
  Object.assign(engine, {
    encodePicture: timed(engine.encodePicture),
    encodeWays: timed(engine.encodeWays),
    weighGroups: timed(engine.weighGroups),
  });
  return () => seconds;
}
