import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { RenditionRequest } from '../../src/contract/recipe.ts';
import { soundingOf } from '../../src/contract/sounding.ts';
import type { ProgrammeView, RenditionView } from '../../src/contract/views.ts';
import type { RatedCodec } from '../../src/core/video/codecs.ts';
import {
  plainVideo,
  atQuality,
  STARTING_RECIPE,
  type RateChoice,
  type Recipe,
  OWN_PICTURE,
} from '../../src/core/recipe/recipe.ts';
import type { Application } from '../../src/server/application.ts';
import { readClock } from '../../src/server/programmes/frameTimes.ts';
import { getRendition } from '../../src/server/renditions/renditions.ts';
import { openJournal } from '../../src/server/runner/journal.ts';
import { encodeRendition } from '../../src/server/runner/encodeRendition.ts';
import { sound } from './jobs.ts';
import { UNTREATED } from '../../src/core/sound/treatment.ts';
import { seconds } from './timing.ts';

export async function benchOverhead(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log('\nWall time against the same engine commands by hand');
  for (const programme of programmes.slice(1)) {
    const recipe = recipeOf('h264', { mode: 'average', kbps: 1500, passes: 2 }, 720);
    // By hand before and after, and the mean of both: whatever else the machine does then weighs on both sides.
    const { plan } = await render(app, programme, recipe);
    const before = await encodeByHand(app, programme, plan);
    const began = performance.now();
    const rendition = await render(app, programme, recipe);
    const whole = (performance.now() - began) / 1000;
    const byHand = (before + (await encodeByHand(app, programme, plan))) / 2;
    const encode = rendition.encodeSeconds ?? 0;
    const check = rendition.checkSeconds ?? 0;
    console.log(
      `${programme.name}: by hand ${byHand.toFixed(2)} s; rendition without measuring ${(whole - check).toFixed(2)} s (× ${((whole - check) / byHand).toFixed(3)}), with ${whole.toFixed(2)} s (× ${(whole / byHand).toFixed(3)}); ` +
        `encoding both passes ${(programme.frameCount / encode).toFixed(1)} fps, measuring and checking ${(programme.frameCount / check).toFixed(1)} fps`,
    );
  }
}

/** The engine alone, without queue, database and events. */
async function encodeByHand(app: Application, programme: ProgrammeView, plan: RenditionView['plan']): Promise<number> {
  const workingFolder = await mkdtemp(path.join(tmpdir(), 'linstock-bench-hand-'));
  const began = performance.now();
  await encodeRendition({
    engine: app.context.engine,
    plan,
    source: programme.path,
    labels: null,
    facts: programme,
    clock: await readClock(app.context, { id: programme.id, facts: programme }),
    workingFolder,
    temporary: (part) => path.join(workingFolder, `part-${part}`),
    journal: await openJournal(path.join(workingFolder, 'journal.json'), ''),
    signal: new AbortController().signal,
    hold: null,
    enter: () => () => undefined,
  });
  return (performance.now() - began) / 1000;
}

const asker = new AbortController().signal;

export async function benchFrames(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log('\nAn exact frame pair, master and result at the master’s size');
  for (const programme of programmes) {
    const rendition = await render(app, programme, recipeOf('h264', atQuality(28), 360));
    const times = { cold: [] as number[], warm: [] as number[] };
    for (const share of [0.11, 0.37, 0.58, 0.83]) {
      const frame = Math.floor(programme.frameCount * share);
      for (const kind of ['cold', 'warm'] as const) {
        const began = performance.now();
        await Promise.all([
          app.stills.ofProgramme(programme.id, frame, null, asker),
          app.stills.ofRendition(rendition.id, frame, asker),
        ]);
        times[kind].push(performance.now() - began);
      }
    }
    const worst = (list: number[]) => Math.max(...list).toFixed(0);
    console.log(
      `${programme.name} ${programme.width} × ${programme.height}: cold at most ${worst(times.cold)} ms, warm at most ${worst(times.warm)} ms`,
    );
  }
}

export async function benchSoundings(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log('\nExpected from a sounding against the real picture bytes at constant quality');
  for (const programme of programmes) {
    for (const codec of ['h264', 'hevc'] as const) {
      const recipe = recipeOf(codec, atQuality(codec === 'h264' ? 23 : 24), 360);
      const wanted = soundingOf(programme, recipe, null);
      if (!wanted) continue;
      const began = performance.now();
      await sound(app, programme.id, wanted);
      const sounded = performance.now() - began;
      const rendition = await render(app, programme, { ...recipe, audio: null });
      const expected = rendition.plan.budget.expected;
      const truth = rendition.bytes ?? 0;
      const within = expected && truth >= expected.low && truth <= expected.high ? 'inside' : 'OUTSIDE';
      console.log(
        `${programme.name} ${codec}: sounded in ${seconds(sounded)}; expected ${expected?.low} to ${expected?.high}, likely ${expected?.likely}; was ${truth} (${within}, × ${(truth / (expected?.likely ?? 1)).toFixed(2)})`,
      );
    }
  }
}

/** Orders a rendition and waits for its end. */
export async function render(app: Application, programme: ProgrammeView, recipe: Recipe): Promise<RenditionView> {
  const request: RenditionRequest = { programmeId: programme.id, recipe, portion: null, name: null, keepFailed: false };
  const ended = new Promise<void>((resolve) => {
    const unsubscribe = app.context.events.subscribe((event) => {
      if (event.type !== 'rendition' || event.rendition.programmeId !== programme.id) return;
      if (!['done', 'failed', 'stopped'].includes(event.rendition.state)) return;
      unsubscribe();
      resolve();
    });
  });
  const { id } = await app.order(request);
  await ended;
  return getRendition(app.context, id);
}

function recipeOf(codec: RatedCodec, rate: RateChoice, height: number): Recipe {
  return {
    ...STARTING_RECIPE,
    video: plainVideo(codec, rate, 'fast'),
    picture: { ...OWN_PICTURE, fit: { height } },
    audio: {
      codec: 'aac',
      kbps: 48,
      channels: 'mono',
      sampleRate: 48000,
      bitDepth: null,
      loudness: null,
      tracks: [0],
      mixed: false,
      joined: false,
      ...UNTREATED,
    },
  };
}
