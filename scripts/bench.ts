/**
 * Measures what is asked of Linstock on the demonstration's programmes and prints tables:
 *
 *   npm run bench                  everything
 *   npm run bench -- sizes         size targets: fill of the cap, second passes
 *   npm run bench -- overhead      a rendition against the same engine commands by hand; measuring against encoding
 *   npm run bench -- frames        an exact frame pair, cold and warm
 *   npm run bench -- soundings     expected against real sizes at constant quality
 *   npm run bench -- analysis      the analysis of each programme against only decoding it
 *   npm run bench -- takein        a folder of a thousand small files
 *   npm run bench -- strips        one drawing of three hours of strips, reduced to a screen’s columns
 *   npm run bench -- upload        memory of the server while four gigabytes arrive
 */
import { copyFile, mkdir, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pino } from 'pino';
import type { RenditionRequest } from '../src/contract/recipe.ts';
import type { ProgrammeView, RenditionView } from '../src/contract/views.ts';
import type { VideoCodec } from '../src/core/codec/tables.ts';
import type { RateChoice, Recipe } from '../src/core/rate/recipe.ts';
import { STARTING_RECIPE } from '../src/core/rate/recipe.ts';
import { buildPyramid, readColumns } from '../src/core/analysis/pyramid.ts';
import { fitFrameSize } from '../src/core/geometry/frameSize.ts';
import { drawFootage } from '../src/demo/drawFootage.ts';
import { runProcess } from '../src/engine/process/runProcess.ts';
import { viewAnalysis } from '../src/server/analysis/analyses.ts';
import { startApplication, type Application } from '../src/server/application.ts';
import { resolveConfig } from '../src/server/config.ts';
import { getRendition } from '../src/server/renditions/renditions.ts';
import { encodeRendition } from '../src/server/runner/encodeRendition.ts';
import { listProgrammes, takeIn } from '../src/server/programmes/programmes.ts';
import * as analysisStatements from '../src/store/statements/analyses.ts';

/** The whole size matrix is taken from a file of this rate. */
const FULL_RATE = 3_000_000;
const SHARES = [1 / 2, 1 / 5, 1 / 20];
const HEIGHTS = [720, 360];

const folder = await mkdtemp(path.join(tmpdir(), 'linstock-bench-'));
const environment = {
  LINSTOCK_DATA: path.join(folder, 'data'),
  LINSTOCK_MEDIA: path.join(folder, 'masters'),
  LINSTOCK_OUTPUT: path.join(folder, 'out'),
};
const config = resolveConfig(environment, process.cwd());
const application = await startApplication(config, { logger: pino({ level: 'silent' }) });
const wanted = process.argv.slice(2);
const sections: Record<string, (application: Application, programmes: ProgrammeView[]) => Promise<void>> = {
  overhead: benchOverhead,
  frames: benchFrames,
  soundings: benchSoundings,
  analysis: benchAnalysis,
  takein: benchTakeIn,
  strips: benchStrips,
  upload: benchUpload,
  sizes: benchSizes,
};

try {
  const started = performance.now();
  const files = await drawFootage(config.ffmpeg, process.cwd(), config.mediaFolders[0] ?? folder);
  console.log(`Drawing the demonstration: ${seconds(performance.now() - started)}`);
  const programmes: ProgrammeView[] = [];
  for (const file of files) programmes.push(await takeIn(application.context, file));
  // The faulty clips are for the advisories; they are too short to say anything about sizes.
  const pictures = programmes.filter(({ video, durationSeconds }) => video !== null && durationSeconds > 10);
  for (const [name, bench] of Object.entries(sections)) {
    if (wanted.length === 0 || wanted.includes(name)) await bench(application, pictures);
  }
} finally {
  await application.stop();
  await rm(folder, { recursive: true, force: true });
}

async function benchSizes(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log('\nSize targets (effort fast; sound mono at 48 kb/s)');
  console.log(
    'programme | codec | height | cap | bytes | of cap | second passes | outcome | mean quantiser | encode s',
  );
  // The shortest first, so that a table broken off says most.
  for (const programme of programmes.toSorted((a, b) => a.durationSeconds - b.durationSeconds)) {
    for (const codec of ['h264', 'hevc'] as const) {
      for (const height of HEIGHTS) {
        for (const share of SHARES) {
          const bytes = Math.round((FULL_RATE * programme.durationSeconds * share) / 8);
          const rendition = await render(app, programme, recipeOf(codec, { mode: 'size', bytes }, height));
          const passes = rendition.fill?.secondPasses ?? [];
          const cells = [
            programme.name,
            codec,
            height,
            bytes,
            rendition.bytes ?? '–',
            rendition.bytes === null ? '–' : `${((100 * rendition.bytes) / bytes).toFixed(2)} %`,
            passes.length,
            rendition.state === 'done' ? rendition.fill?.outcome : rendition.problem?.message,
            passes.at(-1)?.meanQuantiser?.toFixed(1) ?? '–',
            rendition.encodeSeconds?.toFixed(1) ?? '–',
          ];
          console.log(cells.join(' | '));
        }
      }
    }
  }
}

async function benchOverhead(app: Application, programmes: ProgrammeView[]): Promise<void> {
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
  const workingFolder = await mkdtemp(path.join(folder, 'hand-'));
  const began = performance.now();
  await encodeRendition({
    engine: app.context.engine,
    plan,
    source: programme.path,
    workingFolder,
    temporary: (part) => path.join(workingFolder, `part-${part}`),
    signal: new AbortController().signal,
    enter: () => () => undefined,
  });
  return (performance.now() - began) / 1000;
}

async function benchFrames(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log('\nAn exact frame pair, master and result at the master’s size');
  for (const programme of programmes) {
    const rendition = await render(app, programme, recipeOf('h264', { mode: 'quality', value: 28 }, 360));
    const times = { cold: [] as number[], warm: [] as number[] };
    for (const share of [0.11, 0.37, 0.58, 0.83]) {
      const frame = Math.floor(programme.frameCount * share);
      for (const kind of ['cold', 'warm'] as const) {
        const began = performance.now();
        await Promise.all([
          app.stills.ofProgramme(programme.id, frame, null),
          app.stills.ofRendition(rendition.id, frame),
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

async function benchSoundings(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log('\nExpected from a sounding against the real picture bytes at constant quality');
  for (const programme of programmes) {
    for (const codec of ['h264', 'hevc'] as const) {
      const recipe = recipeOf(codec, { mode: 'quality', value: codec === 'h264' ? 23 : 24 }, 360);
      const size = programme.video && fitFrameSize(programme, programme.video.pixelAspect, recipe.picture.fit);
      if (!size) continue;
      const began = performance.now();
      while (!(await app.soundings.ask(programme.id, codec, size))) await pause();
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

async function benchAnalysis(app: Application): Promise<void> {
  console.log('\nAnalysis against only decoding the picture and the sound');
  for (const programme of await listProgrammes(app.context)) {
    let analysis = await viewAnalysis(app.context, app.analyses, programme.id);
    while (analysis.state !== 'done' && analysis.state !== 'failed') {
      await pause();
      analysis = await viewAnalysis(app.context, app.analyses, programme.id);
    }
  }
  // Once more, now that nothing else runs and the files are in memory: by hand in turn with decoding.
  for (const programme of await listProgrammes(app.context)) {
    const decode = await timeOf(() => decodeOnly(app, programme.path));
    const { costSeconds } = await analyseAgain(app, programme.id);
    const cost = costSeconds ?? NaN;
    console.log(
      `${programme.name} ${programme.width} × ${programme.height}, ${programme.durationSeconds.toFixed(0)} s: decoding ${decode.toFixed(2)} s, analysis ${cost.toFixed(2)} s (× ${(cost / decode).toFixed(2)})`,
    );
  }
}

async function analyseAgain(app: Application, id: string) {
  await app.context.database.query(analysisStatements.DROP_ANALYSIS, [id]);
  for (;;) {
    const analysis = await viewAnalysis(app.context, app.analyses, id);
    if (analysis.state === 'done' || analysis.state === 'failed') return analysis;
    await pause();
  }
}

async function decodeOnly(app: Application, file: string): Promise<void> {
  const args = ['-hide_banner', '-nostdin', '-loglevel', 'error', '-i', `file:${file}`, '-f', 'null', '-'];
  await runProcess({ file: app.context.config.ffmpeg, arguments: args, isGentle: true });
}

async function benchTakeIn(app: Application): Promise<void> {
  const many = path.join(config.mediaFolders[0] ?? folder, 'many');
  await mkdir(many, { recursive: true });
  const first = path.join(many, '0.mov');
  const source = 'testsrc2=s=320x180:r=25:d=2,format=yuv420p';
  const args = ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, '-c:v', 'libx264', '-preset', 'ultrafast', first];
  await runProcess({ file: config.ffmpeg, arguments: args });
  for (let number = 1; number < 1000; number += 1) await copyFile(first, path.join(many, `${number}.mov`));
  const before = process.memoryUsage.rss();
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, process.memoryUsage.rss())), 100);
  const taken = await timeOf(() => finishTakeIn(app, many));
  const again = await timeOf(() => finishTakeIn(app, many));
  clearInterval(watch);
  const listed = await timeOf(() => listProgrammes(app.context));
  console.log(
    `\nTaking in 1,000 files: ${taken.toFixed(1)} s; the same folder again ${again.toFixed(1)} s; server memory ${megabytes(before)} before, at most ${megabytes(most)}; the list answered in ${(listed * 1000).toFixed(0)} ms`,
  );
}

async function finishTakeIn(app: Application, where: string): Promise<void> {
  const { id } = await app.takeIns.begin([where], false);
  while ((await app.takeIns.view(id)).state !== 'done') await pause();
}

/** The computing behind one drawing of the strips, at every zoom from the whole length to a second. */
function benchStrips(): Promise<void> {
  const hours = 3 * 3600;
  const wave = (count: number) => Array.from({ length: count }, (_, index) => Math.abs(Math.sin(index * 0.7)) * 1e6);
  const lanes = [wave(hours * 2), wave(hours * 2), wave(hours * 10), wave(hours * 10)];
  const began = performance.now();
  const pyramids = lanes.map(buildPyramid);
  const built = performance.now() - began;
  const times: number[] = [];
  for (let step = 0; step < 500; step += 1) {
    const share = 0.985 ** step;
    const start = performance.now();
    for (const [lane, pyramid] of pyramids.entries()) {
      const length = lanes[lane]?.length ?? 0;
      readColumns(pyramid, length * 0.4 * (1 - share), length * (0.4 + 0.6 * share), 1112, 'most');
    }
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  const at = (share: number) => (times[Math.floor(share * (times.length - 1))] ?? 0).toFixed(2);
  console.log(
    `\nThree hours of strips: prepared once in ${built.toFixed(0)} ms; reduced to 1,112 columns in ${at(0.5)} ms (median), ${at(0.99)} ms (99 of 100), ${at(1)} ms (worst); a frame at 60 a second has 16.7 ms`,
  );
  return Promise.resolve();
}

/** Through the same handler as the route; the file is sparse, so that the disk has little to do. */
async function benchUpload(app: Application): Promise<void> {
  const size = 4 * 2 ** 30;
  const chunk = new Uint8Array(2 ** 20);
  const created = await app.uploads.handle(
    new Request('http://127.0.0.1/api/upload', {
      method: 'POST',
      headers: {
        'tus-resumable': '1.0.0',
        'upload-length': String(size),
        'upload-metadata': `filename ${Buffer.from('big.mov').toString('base64')}`,
      },
    }),
  );
  const where = new URL(created.headers.get('location') ?? '', 'http://127.0.0.1');
  let sent = 0;
  const before = process.memoryUsage.rss();
  let most = before;
  const body = new ReadableStream<Uint8Array>({
    pull: (controller) => {
      if (sent % 2 ** 26 === 0) most = Math.max(most, process.memoryUsage.rss());
      if (sent >= size) return controller.close();
      controller.enqueue(chunk);
      sent += chunk.length;
    },
  });
  const headers = {
    'tus-resumable': '1.0.0',
    'upload-offset': '0',
    'content-type': 'application/offset+octet-stream',
  };
  const seconds = await timeOf(async () => {
    const init: RequestInit & { duplex: 'half' } = { method: 'PATCH', headers, body, duplex: 'half' };
    const answer = await app.uploads.handle(new Request(where, init));
    console.log(`\nAn upload of 4 GiB was answered ${answer.status}`);
  });
  console.log(
    `It took ${seconds.toFixed(0)} s; server memory ${megabytes(before)} before, at most ${megabytes(most)} (+ ${megabytes(most - before)})`,
  );
}

async function timeOf(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
}

function megabytes(size: number): string {
  return `${(size / 1e6).toFixed(0)} MB`;
}

async function render(app: Application, programme: ProgrammeView, recipe: Recipe): Promise<RenditionView> {
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

function recipeOf(codec: VideoCodec, rate: RateChoice, height: number): Recipe {
  return {
    ...STARTING_RECIPE,
    video: { codec, rate, effort: 'fast' },
    picture: { fit: { height } },
    audio: { codec: 'aac', kbps: 48, channels: 'mono', sampleRate: 48000 },
  };
}

function pause(): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, 50));
}

function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`;
}
