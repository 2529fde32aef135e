import type { Page } from '@playwright/test';
import path from 'node:path';
import { mkdirSync } from 'node:fs';
import type { AnalysisView, ProgrammeView, StripsView } from '../../src/contract/views.ts';
import { drawMaster } from '../../tests/support/footage.ts';
import { makeFolders, startServer } from '../../tests/support/server.ts';
import { LASTING_MS, openBrowser, printFrames, recordFrames } from './pageFrames.ts';

const SECONDS = 3 * 3600;
const RATE = 25;
const FRAMES = SECONDS * RATE;

const wave = (count: number, height: number) =>
  Array.from({ length: count }, (_, index) => Math.abs(Math.sin(index * 0.7) * Math.cos(index / 900)) * height);

/** Zooms and moves three hours of strips in a browser, and tells how long the page's and the worker's frames took. */
export async function benchStripFrames(): Promise<void> {
  const folders = makeFolders();
  mkdirSync(folders.media, { recursive: true });
  const master = drawMaster(path.join(folders.media, 'short.mov'), { seconds: 4 });
  const server = await startServer(folders);
  const browser = await openBrowser();
  try {
    const { id } = await server.takeIn(master);
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await stretchToHours(page, id);
    await page.goto(`${server.address}/programmes/${id}`);
    const strips = page.getByTestId('strips-drawing');
    await strips.scrollIntoViewIfNeeded();
    const box = await strips.boundingBox();
    if (!box) throw new Error('The strips are not drawn.');
    await page.mouse.move(box.x + box.width * 0.37, box.y + 60);
    await browser.startTracing(page, { categories: ['devtools.timeline', '__metadata'] });
    const intervals = recordFrames(page);
    await page.keyboard.down('Control');
    const began = performance.now();
    for (let step = 0; performance.now() - began < LASTING_MS; step += 1) {
      // In to single frames, back out, in again.
      await page.mouse.wheel(0, Math.floor(step / 60) % 2 === 0 ? -120 : 120);
      await page.waitForTimeout(16);
    }
    printFrames('Three hours of strips in a browser, page, from one frame to the next', await intervals);
    printFrames('Three hours of strips in a browser, worker, one drawing', drawingTimes(await browser.stopTracing()));
  } finally {
    await browser.close();
    await server.end('SIGTERM');
  }
}

/** The answers of the server, as if the programme lasted three hours. */
async function stretchToHours(page: Page, id: string): Promise<void> {
  const change = async <View>(address: string, edit: (view: View) => View) =>
    page.route(`**/api/programmes/${id}${address}`, async (route) => {
      const answer = await route.fetch();
      await route.fulfill({ response: answer, json: edit((await answer.json()) as View) });
    });
  await change<ProgrammeView>('', (view) => ({ ...view, frameCount: FRAMES, durationSeconds: SECONDS }));
  await change<StripsView>('/strips', (view) => ({
    ...view,
    spent: wave(SECONDS * 2, 1e6),
    busyness: wave(SECONDS * 2, 1e6),
    sound: {
      stepSeconds: 0.1,
      peaks: wave(SECONDS * 10, 60).map((level) => level - 60),
      momentary: wave(SECONDS * 10, 50).map((level) => level - 60),
    },
    pictureInterval: 180,
  }));
  await change<AnalysisView>('/analysis', (view) => ({
    ...view,
    sceneChanges: Array.from({ length: 2000 }, (_, index) => index * 135),
  }));
}

interface TraceEvent {
  readonly name: string;
  readonly tid: number;
  readonly dur?: number;
  readonly args?: { readonly name?: string };
}

/** Milliseconds of every animation frame of the worker. */
function drawingTimes(trace: Buffer): number[] {
  const { traceEvents } = JSON.parse(trace.toString('utf8')) as { traceEvents: TraceEvent[] };
  const workers = new Set(
    traceEvents
      .filter(({ name, args }) => name === 'thread_name' && /Worker/.test(args?.name ?? ''))
      .map(({ tid }) => tid),
  );
  return traceEvents
    .filter(({ name, tid }) => name === 'FireAnimationFrame' && workers.has(tid))
    .map(({ dur = 0 }) => dur / 1000);
}
