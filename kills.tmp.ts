import { mkdirSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { drawMaster } from './tests/support/footage.ts';
import { enginesOn, makeFolders, startServer } from './tests/support/server.ts';
const folders = makeFolders(); mkdirSync(folders.media, { recursive: true });
drawMaster(path.join(folders.media, 'm.mov'), { seconds: 6, size: '640x360', grain: 15 });
let server = await startServer(folders);
const p = await server.takeIn(path.join(folders.media, 'm.mov'));
const ids: string[] = [];
for (let i = 0; i < 20; i++) {
  const rate = i % 3 === 0 ? { mode: 'size', bytes: 700_000 + 10_000 * i } : i % 3 === 1 ? { mode: 'average', kbps: 900 + i, passes: 2 } : { mode: 'quality', value: 20 + i };
  const { body, status } = await server.call<any>('POST', 'renditions', { programmeId: p.id, recipe: { video: { codec: i % 4 === 3 ? 'hevc' : 'h264', rate, effort: 'fast' }, audio: { codec: 'aac', kbps: 64 } } });
  if (status !== 201) throw new Error(JSON.stringify(body)); ids.push(body.id);
}
for (let kill = 0; kill < 12; kill++) {
  await new Promise((r) => setTimeout(r, 500 + Math.random() * 5000));
  await server.end('SIGKILL'); await new Promise((r) => setTimeout(r, 200));
  console.log('kill', kill + 1, 'engines left', enginesOn(folders.root).length);
  server = await startServer(folders);
}
const t = Date.now();
for (const id of ids) await server.waitFor(id);
const list = (await server.call<any[]>('GET', 'renditions')).body;
const states: Record<string, number> = {}; for (const r of list) states[r.state] = (states[r.state] ?? 0) + 1;
await new Promise((r) => setTimeout(r, 1500));
const files = readdirSync(folders.output);
console.log(states, 'files', files.filter((f) => f.endsWith('.mp4')).length, 'partials', files.filter((f) => f.endsWith('.partial')).length, 'work', readdirSync(path.join(folders.data, 'work')).length, 'rest took', (Date.now() - t) / 1000, list.filter((r) => r.state === 'failed').map((r) => r.problem));
await server.end('SIGTERM'); console.log('engines left', enginesOn(folders.root).length);
