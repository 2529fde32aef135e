import { spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { ProgrammeView } from '../../src/contract/views.ts';
import type { Application } from '../../src/server/application.ts';
import { pause } from './timing.ts';

/** How long other answers take while many things are asked for at once, of a server in a process of its own. */
export async function benchBursts(app: Application, programmes: ProgrammeView[]): Promise<void> {
  console.log('\nOther answers during a burst');
  const [programme] = programmes;
  const folder = await mkdtemp(path.join(tmpdir(), 'linstock-bench-bursts-'));
  const { address, end } = await serve(folder, app.context.config.mediaFolders[0] ?? folder);
  try {
    const { id, frameCount } = await post<ProgrammeView>(address, 'programmes', { path: programme?.path });
    const ask = (where: string) => fetch(`${address}/api/${where}`).then((answer) => answer.arrayBuffer());
    const many = (count: number, one: (index: number) => Promise<unknown>) =>
      Promise.all(Array.from({ length: count }, (_, index) => one(index)));
    await pause();
    await report(address, 'nothing else', () => new Promise((resolve) => setTimeout(resolve, 5000)));
    await report(address, '50 stills', () =>
      many(50, (index) => ask(`programmes/${id}/frames/${Math.floor((frameCount * index) / 50)}`)),
    );
    await report(address, '50 stand-ins', () => many(50, (index) => ask(`programmes/${id}/standin/${index}`)));
    const recipe = {
      video: { codec: 'h264', rate: { mode: 'quality', value: 30 }, effort: 'fast' },
      audio: null,
      picture: { fit: { height: 90 } },
    };
    await report(address, '200 orders', () =>
      many(200, () => post(address, 'renditions', { programmeId: id, recipe })),
    );
    const body = JSON.stringify({ paths: Array.from({ length: 12_000_000 }, (_, index) => `/m/${index}`) });
    await report(address, `a take-in of twelve million paths (${Math.round(body.length / 1e6)} MB)`, async () => {
      const status = await fetch(`${address}/api/takein`, { method: 'POST', body }).then(
        (answer) => answer.status,
        () => 'cut off',
      );
      console.log(`  answered ${status}`);
    });
  } finally {
    await end();
    await rm(folder, { recursive: true, force: true });
  }
}

async function post<Answer>(address: string, where: string, body: unknown): Promise<Answer> {
  const answer = await fetch(`${address}/api/${where}`, { method: 'POST', body: JSON.stringify(body) });
  return (await answer.json()) as Answer;
}

async function report(address: string, name: string, burst: () => Promise<unknown>): Promise<void> {
  const waits: number[] = [];
  let isOver = false;
  const probing = (async () => {
    while (!isOver) {
      const began = performance.now();
      await fetch(`${address}/api/system`).then((answer) => answer.arrayBuffer());
      waits.push(performance.now() - began);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  })();
  const began = performance.now();
  await burst();
  const took = (performance.now() - began) / 1000;
  isOver = true;
  await probing;
  waits.sort((a, b) => a - b);
  const at = (share: number) => (waits[Math.floor((waits.length - 1) * share)] ?? NaN).toFixed(0);
  console.log(
    `${name}: ${took.toFixed(1)} s; others answered in ${at(0.5)} ms (median), ${at(0.95)} (95 of 100), ${at(1)} (worst)`,
  );
}

async function serve(folder: string, media: string): Promise<{ address: string; end: () => Promise<void> }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'scripts/serve.ts'], {
    env: {
      ...process.env,
      LINSTOCK_DATA: path.join(folder, 'data'),
      LINSTOCK_MEDIA: media,
      LINSTOCK_OUTPUT: path.join(folder, 'out'),
      LINSTOCK_PORT: '0',
    },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const address = await new Promise<string>((resolve, reject) => {
    child.stdout.on('data', (chunk: Buffer) => {
      const said = /ready at (http:\S+)/.exec(chunk.toString())?.[1];
      if (said) resolve(said);
    });
    child.once('exit', () => reject(new Error('The server ended; build it first.')));
  });
  return {
    address,
    end: () =>
      new Promise((resolve) => {
        child.once('exit', () => resolve());
        child.kill('SIGTERM');
      }),
  };
}
