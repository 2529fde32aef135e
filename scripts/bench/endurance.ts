import { mkdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { BatchView } from '../../src/contract/batch.ts';
import { drawMaster } from '../../tests/support/footage.ts';
import { makeFolders, startServer } from '../../tests/support/server.ts';
import { megabytes, pause } from './timing.ts';

const RENDITIONS = 2000;
const AT_ONCE = 100;

/** Two thousand tiny renditions in a row: what the server's memory comes to on the way. Wants a build. */
export async function benchEndurance(): Promise<void> {
  console.log(`\n${RENDITIONS} tiny renditions in a row`);
  const folders = makeFolders();
  mkdirSync(folders.media, { recursive: true });
  const server = await startServer(folders);
  try {
    const master = drawMaster(path.join(folders.media, 'tiny.mov'), { seconds: 1, size: '160x90' });
    const { id: programmeId } = await server.takeIn(master);
    const recipe = { video: { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 40 } }, audio: null };
    await server.call('PATCH', 'queue', { atOnce: 2 });
    let made = 0;
    const began = performance.now();
    const say = () => {
      const seconds = ((performance.now() - began) / 1000).toFixed(0);
      console.log(`${made} made after ${seconds} s: ${megabytes(residentBytes(server.process.pid!))}`);
    };
    say();
    for (let asked = 0; asked < RENDITIONS; asked += AT_ONCE) {
      const orders = Array.from({ length: AT_ONCE }, () => ({ programmeId, recipe }));
      const { body } = await server.call<{ id: string }>('POST', 'batches', { name: `${asked}`, orders });
      const read = async () => (await server.call<BatchView>('GET', `batches/${body.id}`)).body;
      let batch = await read();
      while (batch.state === 'running') {
        await pause(1000);
        batch = await read();
      }
      made += batch.made;
      say();
    }
  } finally {
    await server.end('SIGTERM');
  }
}

/** What a process holds in memory, as the system counts it. */
function residentBytes(id: number): number {
  const kilobytes = /^VmRSS:\s+(\d+) kB/m.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1];
  return Number(kilobytes) * 1024;
}
