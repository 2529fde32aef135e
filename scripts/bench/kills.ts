import { mkdirSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import type { BatchView } from '../../src/contract/batch.ts';
import { drawMaster } from '../../tests/support/footage.ts';
import { enginesOn, makeFolders, startServer } from '../../tests/support/server.ts';
import { pause } from './timing.ts';
import { seededRandom } from '../../src/testing/seededRandom.ts';

const KILLS = 50;
const FILES = 20;

/** The server killed at random moments over a batch: every file once, no half file, no encoder left. Wants a build. */
export async function benchKills(): Promise<void> {
  console.log(`\n${KILLS} kills over a batch of ${FILES}`);
  const random = seededRandom(50);
  const folders = makeFolders();
  mkdirSync(folders.media, { recursive: true });
  let server = await startServer(folders);
  const ids: string[] = [];
  for (let index = 0; index < FILES; index += 1) {
    const file = path.join(folders.media, `${index + 1}.mov`);
    drawMaster(file, { seconds: 6, size: '640x360', grain: 8 });
    ids.push((await server.takeIn(file)).id);
  }
  const recipe = { video: { codec: 'hevc', effort: 'fast', rate: { mode: 'quality', value: 24 } }, audio: null };
  const { id } = (await server.call<{ id: string }>('POST', 'batches', { programmeIds: ids, recipes: [recipe] })).body;
  const read = async () => (await server.call<BatchView>('GET', `batches/${id}`)).body;
  let left = 0;
  let kills = 0;
  for (; kills < KILLS && (await read()).state === 'running'; kills += 1) {
    await pause(random() * 8000);
    await server.end('SIGKILL');
    await pause(300);
    left += enginesOn(folders.root).length;
    server = await startServer(folders);
  }
  while ((await read()).state === 'running') await pause(500);
  const batch = await read();
  const files = readdirSync(folders.output);
  const made = batch.rows.filter(({ state }) => state === 'done');
  const whole = made.filter((row) => row.path !== null && statSync(row.path).size === row.bytes).length;
  for (const { reason } of batch.rows) if (reason) console.log(reason);
  console.log(
    `${kills} kills: ${batch.asked} asked = ${batch.made} made + ${batch.failed} failed + ${batch.stopped} stopped + ${batch.leftOut} left out; ` +
      `${files.length} files in the folder, ${whole} of them as recorded; ${left} encoders left`,
  );
  await server.end('SIGTERM');
}
