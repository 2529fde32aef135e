import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { ProgrammeView } from '../../src/contract/views.ts';
import { chooseExcerpts } from '../../src/core/excerpts/chooseExcerpts.ts';
import { foreseeWhole, SURE, type TriedGroup } from '../../src/core/excerpts/foresee.ts';
import { isEncoded, pictureOf, type EncodedPicture, type EncodePlan } from '../../src/core/plan/encodePlan.ts';
import { ssimToDecibels, type FrameQuality } from '../../src/core/quality/frameQuality.ts';
import { atQuality, plainVideo, STARTING_RECIPE, type Recipe, OWN_PICTURE } from '../../src/core/recipe/recipe.ts';
import { RATED, RATED_CODECS, type RatedCodec } from '../../src/core/video/codecs.ts';
import type { Application } from '../../src/server/application.ts';
import { findProgramme, takeIn } from '../../src/server/programmes/programmes.ts';
import { readClock } from '../../src/server/programmes/frameTimes.ts';
import { planFor } from '../../src/server/renditions/planOrder.ts';
import { openJournal } from '../../src/server/runner/journal.ts';
import { createPictureEncoder } from '../../src/server/runner/pictureEncoder.ts';
import { groupsOf, measureCosts, type KnownProgramme } from '../../src/server/trials/costs.ts';
import { triedOf } from '../../src/server/trials/measured.ts';
import { tryGroup } from '../../src/server/trials/tryGroup.ts';
import { drawLongProgramme } from './longProgramme.ts';

const SECONDS = 2;

/** Sizes and qualities of wholes foreseen from a tenth of their groups, against whole encodes and against even excerpts. */
export async function benchExcerpts(app: Application, programmes: ProgrammeView[]): Promise<void> {
  const folder = app.context.config.mediaFolders[0]!;
  const long: ProgrammeView[] = [];
  for (const seed of [1, 2])
    long.push(await takeIn(app.context, drawLongProgramme(folder, seed, seed === 1 ? 600 : 180)));
  const rows: Row[] = [];
  for (const programme of [...programmes, ...long]) {
    if (!programme.video || programme.durationSeconds < 15) continue;
    for (const codec of RATED_CODECS) {
      if (programme.durationSeconds > 300 && codec === 'vp9') continue;
      for (const steps of [0, 1]) {
        const quality = RATED[codec].quality.usual + (steps * Math.log(0.4)) / RATED[codec].quality.slope;
        rows.push(await compare(app, programme, codec, Math.round(quality)));
        sayRow(rows.at(-1)!);
      }
    }
  }
  summarise(rows);
}

interface Row {
  readonly name: string;
  readonly codec: RatedCodec;
  readonly quality: number;
  readonly share: number;
  /** Logarithm of foreseen over real: with trials' own encodes, with the whole's groups, and evenly spaced. */
  readonly own: number;
  readonly sampled: number;
  readonly even: number;
  readonly bar: number;
  readonly decibels: number;
  readonly work: number;
}

async function compare(app: Application, view: ProgrammeView, codec: RatedCodec, quality: number): Promise<Row> {
  const { context } = app;
  const row = await findProgramme(context, view.id);
  const programme: KnownProgramme = { ...row, fingerprint: row.fingerprint! };
  const plan = await planFor(context, programme, { recipe: recipeOf(codec, quality), portion: null });
  const picture = pictureOf(plan);
  if (!picture || !isEncoded(picture)) throw new Error('no picture');
  const clock = await readClock(context, programme);
  const began = performance.now();
  const costs = await measureCosts(context, programme, picture, () => undefined, new AbortController().signal);
  const costSeconds = (performance.now() - began) / 1000;
  const whole = await encodeWhole(app, programme, plan, picture, quality);
  const most = Math.max(Math.ceil(8 / SECONDS), Math.ceil(costs.length * 0.1));
  const excerpts = chooseExcerpts(costs, { most, pinned: [], dropped: [], empty: [], sceneStarts: [] });
  const trying = { programme, clock, plan, picture, quality };
  const own: TriedGroup[] = [];
  let seconds = costSeconds / 4;
  for (const { group } of excerpts) {
    const [tried] = await tryGroup(context, [trying], costs[group]!, new AbortController().signal);
    if (!tried) continue;
    seconds += tried.seconds ?? 0;
    own.push(triedOf(group, tried));
  }
  const sampled = excerpts.map(({ group }) => ({
    group,
    bytes: whole.groups[group]!,
    ssimLosses: [1],
    mses: [1],
    weightedMses: null,
  }));
  const step = costs.length / most;
  const even = Array.from({ length: most }, (_, index) => Math.floor((index + 0.5) * step));
  const evenFrames = even.reduce((sum, group) => sum + costs[group]!.frameCount, 0);
  const evenBytes = (even.reduce((sum, group) => sum + whole.groups[group]!, 0) / evenFrames) * plan.span.frameCount;
  const foreseen = foreseeWhole(costs, own);
  const mean = whole.frames.reduce((sum, { ssimAll }) => sum + ssimAll, 0) / whole.frames.length;
  return {
    name: view.name,
    codec,
    quality,
    share: foreseen.tried,
    own: Math.log(foreseen.bytes / whole.bytes),
    sampled: Math.log(foreseeWhole(costs, sampled).bytes / whole.bytes),
    even: Math.log(evenBytes / whole.bytes),
    bar: foreseen.error * SURE,
    decibels: ssimToDecibels(1 - foreseen.ssimLoss.mean) - ssimToDecibels(mean),
    work: seconds / whole.seconds,
  };
}

interface Whole {
  readonly bytes: number;
  readonly groups: readonly number[];
  readonly frames: readonly FrameQuality[];
  readonly seconds: number;
}

async function encodeWhole(
  { context }: Application,
  programme: KnownProgramme,
  plan: EncodePlan,
  picture: EncodedPicture,
  quality: number,
): Promise<Whole> {
  const workingFolder = await mkdtemp(path.join(tmpdir(), 'linstock-bench-whole-'));
  const output = path.join(workingFolder, 'whole.mkv');
  const signal = new AbortController().signal;
  try {
    const job = {
      ...{ engine: context.engine, source: programme.path, facts: programme.facts, workingFolder, signal },
      clock: await readClock(context, programme),
      container: 'matroska' as const,
      labels: null,
      temporary: () => output,
      journal: await openJournal(path.join(workingFolder, 'journal.json'), ''),
      hold: null,
      enter: () => () => undefined,
    };
    const began = performance.now();
    const span = { first: 0, count: picture.from.frameCount };
    await createPictureEncoder(job, picture, null).encodeSpan(span, quality, { fill: { level: '4.0' } }, output);
    const seconds = (performance.now() - began) / 1000;
    const groups = (await context.engine.listGroups(output, signal)).groups.map(({ bytes }) => bytes);
    if (groups.length !== groupsOf(picture).length) throw new Error(`${groups.length} groups came out.`);
    const options = { workingFolder, signal, onProgress: () => undefined };
    const [frames = []] = await context.engine.compare(programme.path, [{ picture, file: output }], options);
    await stat(output);
    return { bytes: groups.reduce((sum, one) => sum + one, 0), groups, frames, seconds };
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
}

function recipeOf(codec: RatedCodec, quality: number): Recipe {
  return {
    ...STARTING_RECIPE,
    container: 'matroska',
    video: { ...plainVideo(codec, atQuality(quality), 'fast'), keyframes: { seconds: SECONDS } },
    picture: { ...OWN_PICTURE, fit: { height: 360 } },
    audio: null,
  };
}

const percent = (log: number) => `${((Math.exp(log) - 1) * 100).toFixed(1)} %`;

function sayRow(row: Row): void {
  console.log(
    [
      row.name.slice(0, 18),
      row.codec,
      row.quality,
      `tried ${(row.share * 100).toFixed(0)} %`,
      `own ${percent(row.own)}`,
    ].join(' | ') +
      ` | sampled ${percent(row.sampled)} | even ${percent(row.even)} | bar ± ${percent(row.bar)} | ${row.decibels.toFixed(2)} dB | work ${row.work.toFixed(2)}`,
  );
}

function summarise(rows: readonly Row[]): void {
  const rank = (values: readonly number[], share: number) =>
    values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? 0;
  const say = (name: string, some: readonly Row[]) => {
    if (some.length === 0) return;
    const errors = (read: (row: Row) => number) => some.map((row) => Math.abs(Math.exp(read(row)) - 1) * 100);
    const three = (values: readonly number[]) =>
      [0.5, 0.9, 1].map((share) => rank(values, share).toFixed(1)).join(' / ');
    const inside = some.filter((row) => Math.abs(row.own) <= row.bar).length;
    console.log(
      `${name}: ${some.length} wholes; own ${three(errors((row) => row.own))} %, sampled ${three(errors((row) => row.sampled))} %, even ${three(errors((row) => row.even))} % (median / 9 of 10 / worst); inside their bars ${inside}; SSIM off by ${three(some.map((row) => Math.abs(row.decibels)))} dB`,
    );
  };
  say('all', rows);
  for (const codec of RATED_CODECS)
    say(
      codec,
      rows.filter((row) => row.codec === codec),
    );
  for (const name of new Set(rows.map((row) => row.name)))
    say(
      name,
      rows.filter((row) => row.name === name),
    );
}
