import { execFileSync } from 'node:child_process';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { soundingOf } from '../../src/contract/sounding.ts';
import type { ProgrammeView, RenditionView } from '../../src/contract/views.ts';
import type { Container } from '../../src/core/container/names.ts';
import { isEncoded, pictureOf } from '../../src/core/plan/encodePlan.ts';
import {
  atQuality,
  plainVideo,
  STARTING_RECIPE,
  type RateChoice,
  type Recipe,
  OWN_PICTURE,
} from '../../src/core/recipe/recipe.ts';
import { bitsPerSecond } from '../../src/core/units.ts';
import { RATED, RATED_CODECS, type RatedCodec } from '../../src/core/video/codecs.ts';
import type { PictureRun } from '../../src/engine/encoders/encoder.ts';
import type { Application } from '../../src/server/application.ts';
import { qualityCsv } from '../../src/server/renditions/frameQualities.ts';
import { sound } from './jobs.ts';
import { render } from './renditions.ts';

/** Picture of a cap, in kb/s, by lines. */
const CAPS: Readonly<Record<number, readonly number[]>> = { 360: [150, 400, 1000], 720: [400, 1200, 3000] };

/** The fill of caps against one plain encode of the same settings, and against two passes of the same bytes. */
export async function benchFills(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log('\nFilling caps, no sound, effort fast');
  console.log(
    'programme | codec | container | lines | kb/s | bytes of cap | encodes | of their frames again | work in encodes, in time | SSIM mean, 5th | two passes: SSIM mean, 5th',
  );
  for (const programme of programmes.toSorted((a, b) => a.durationSeconds - b.durationSeconds)) {
    for (const codec of RATED_CODECS) {
      const [container, ...others] = RATED[codec].containers;
      for (const [lines, rates] of Object.entries(CAPS)) {
        for (const kbps of rates)
          await benchFill(app, programme, { codec, container: container!, lines: Number(lines), kbps });
      }
      // Which container it is decides what is left for the picture, and how groups are joined.
      for (const other of others)
        await benchFill(app, programme, { codec, container: other, lines: 360, kbps: CAPS[360]![1]! });
    }
  }
}

interface Cap {
  readonly codec: RatedCodec;
  readonly container: Container;
  readonly lines: number;
  /** Of the picture. */
  readonly kbps: number;
}

async function benchFill(app: Application, programme: ProgrammeView, { codec, container, lines, kbps }: Cap) {
  const cap = Math.round((kbps * 1000 * programme.durationSeconds) / 8);
  const recipe = recipeOf(codec, container, { mode: 'size', bytes: cap }, lines);
  const wanted = soundingOf(programme, recipe, null);
  if (wanted) await sound(app, programme.id, wanted);
  const filled = await render(app, programme, recipe);
  const head = [programme.name.slice(0, 18), codec, container, lines, kbps];
  if (filled.state !== 'done') {
    console.log([...head, filled.problem?.message ?? filled.state].join(' | '));
    return;
  }
  const fill = filled.fill!;
  const quality = fill.secondPasses.at(-1)?.quality ?? RATED[codec].quality.usual;
  const plain = await render(app, programme, recipeOf(codec, container, atQuality(quality), lines));
  // What was measured on the way took about as long as the check of the result.
  const measured = fill.retouches.length > 0 ? (filled.checkSeconds ?? 0) : 0;
  const inTime = ((filled.encodeSeconds ?? 0) - measured) / (plain.encodeSeconds ?? 1);
  const again = shareAgain(filled);
  const other = await twoPasses(app, programme, filled);
  console.log(
    [
      ...head,
      `${((100 * (filled.bytes ?? 0)) / cap).toFixed(2)} % ${fill.outcome}`,
      fill.secondPasses.length,
      again.toFixed(2),
      (fill.secondPasses.length + again).toFixed(2),
      inTime.toFixed(2),
      sayQuality(await ssimOf(app, filled)),
      other ? sayQuality(other) : '–',
    ].join(' | '),
  );
}

async function ssimOf(app: Application, { id }: RenditionView): Promise<number[]> {
  const [, ...rows] = (await qualityCsv(app.context, id)).trim().split('\n');
  return rows.map((row) => Number(row.split(',')[2]));
}

/** Mean and 5th percentile. */
function sayQuality(frames: readonly number[]): string {
  const sorted = frames.toSorted((a, b) => a - b);
  const mean = frames.reduce((sum, one) => sum + one, 0) / frames.length;
  return `${mean.toFixed(4)}, ${sorted[Math.floor(frames.length * 0.05)]!.toFixed(4)}`;
}

/**
 * Two passes by the engine's own defaults, their rate corrected until the picture has the same bytes to half a per cent;
 * null where the encoder has no second pass.
 */
async function twoPasses(app: Application, programme: ProgrammeView, filled: RenditionView): Promise<number[] | null> {
  const picture = pictureOf(filled.plan);
  if (!picture || !isEncoded(picture) || !RATED[picture.do.codec].averagePasses.includes(2)) return null;
  const workingFolder = await mkdtemp(path.join(tmpdir(), 'linstock-bench-fill-'));
  const output = path.join(workingFolder, 'two.mkv');
  const options = { workingFolder, signal: new AbortController().signal, onProgress: () => undefined };
  const wantedBytes = (filled.bytes ?? 0) - filled.plan.budget.split.container;
  let rate = (wantedBytes * 8) / programme.durationSeconds;
  try {
    for (let tries = 0; tries < 4; tries += 1) {
      const target = { kind: 'rate', rate: bitsPerSecond(rate) } as const;
      const run = (pass: PictureRun['pass']) => ({ target, pass, buffer: null, fill: null });
      const files = { source: programme.path, sound: null, container: 'matroska' as const, labels: null };
      if (tries === 0)
        await app.context.engine.encodePicture(picture, run('first'), { ...files, output: null }, options);
      await app.context.engine.encodePicture(picture, run('second'), { ...files, output }, options);
      const miss = pictureBytes(output) / wantedBytes;
      if (Math.abs(miss - 1) < 0.005) break;
      rate /= miss;
    }
    await stat(output);
    const [frames = []] = await app.context.engine.compare(programme.path, [{ picture, file: output }], options);
    return frames.map(({ ssimAll }) => ssimAll);
  } finally {
    await rm(workingFolder, { recursive: true, force: true });
  }
}

function pictureBytes(file: string): number {
  const args = ['-v', 'error', '-select_streams', 'v:0', '-show_entries', 'packet=size', '-of', 'csv=p=0', file];
  const sizes = execFileSync('ffprobe', args, { encoding: 'utf8' }).trim().split('\n');
  return sizes.reduce((sum, size) => sum + parseInt(size, 10), 0);
}

/** Frames of groups of pictures encoded again by themselves, as a share of the whole. */
function shareAgain({ fill, plan }: RenditionView): number {
  const frames = (fill?.retouches ?? []).reduce((sum, one) => sum + one.outFrame - one.inFrame + 1, 0);
  return frames / (pictureOf(plan)?.out.frameCount ?? 1);
}

function recipeOf(codec: RatedCodec, container: Container, rate: RateChoice, height: number): Recipe {
  const picture = { ...OWN_PICTURE, fit: { height } };
  return { ...STARTING_RECIPE, container, video: plainVideo(codec, rate, 'fast'), picture, audio: null };
}
