import { copyFile, mkdir } from 'node:fs/promises';
import path from 'node:path';
import { buildPyramid, readColumns } from '../../src/core/analysis/pyramid.ts';
import { runProcess } from '../../src/engine/process/runProcess.ts';
import { viewAnalysis } from '../../src/server/analysis/analyses.ts';
import type { Application } from '../../src/server/application.ts';
import { listProgrammes } from '../../src/server/programmes/programmes.ts';
import { beginTakeIn, viewTakeIn } from '../../src/server/takein/takeIns.ts';
import * as analysisStatements from '../../src/store/statements/analyses.ts';
import { megabytes, pause, timeOf } from './timing.ts';

const FIRST = { after: null, limit: 200 };

export async function benchAnalysis(app: Application): Promise<void> {
  console.log('\nAnalysis against only decoding the picture and the sound');
  for (const programme of (await listProgrammes(app.context, FIRST)).rows) {
    let analysis = await viewAnalysis(app, programme.id);
    while (analysis.state !== 'done' && analysis.state !== 'failed') {
      await pause();
      analysis = await viewAnalysis(app, programme.id);
    }
  }
  // Once more, now that nothing else runs and the files are in memory: by hand in turn with decoding.
  for (const programme of (await listProgrammes(app.context, FIRST)).rows) {
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
    const analysis = await viewAnalysis(app, id);
    if (analysis.state === 'done' || analysis.state === 'failed') return analysis;
    await pause();
  }
}

async function decodeOnly(app: Application, file: string): Promise<void> {
  const args = ['-hide_banner', '-nostdin', '-loglevel', 'error', '-i', `file:${file}`, '-f', 'null', '-'];
  await runProcess({ file: app.context.config.ffmpeg, arguments: args, isGentle: true });
}

export async function benchTakeIn(app: Application): Promise<void> {
  const { config } = app.context;
  const many = path.join(config.mediaFolders[0] ?? config.dataFolder, 'many');
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
  const listed = await timeOf(() => listProgrammes(app.context, FIRST));
  console.log(
    `\nTaking in 1,000 files: ${taken.toFixed(1)} s; the same folder again ${again.toFixed(1)} s; server memory ${megabytes(before)} before, at most ${megabytes(most)}; the list answered in ${(listed * 1000).toFixed(0)} ms`,
  );
}

async function finishTakeIn(app: Application, where: string): Promise<void> {
  const { id } = await beginTakeIn(app.context, app.scheduler, [where], false);
  while ((await viewTakeIn(app.context, id)).state !== 'done') await pause();
}

/** The computing behind one drawing of the strips, at every zoom from the whole length to a second. */
export function benchStrips(): Promise<void> {
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
export async function benchUpload(app: Application): Promise<void> {
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
