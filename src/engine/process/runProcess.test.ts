import { mkdtempSync, renameSync, writeFileSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { createAdvanceWatch } from '../parsing/progress.ts';
import { runProcess, type ProcessRequest } from './runProcess.ts';

/** Runs a few lines of Node as the child. */
const run = (code: string, options: Partial<ProcessRequest> = {}) =>
  runProcess({ file: process.execPath, arguments: ['-e', code], ...options });

describe('a child process', () => {
  it('is ended when it writes nothing for too long', async () => {
    const hanging = run('console.error("so far"); setTimeout(() => {}, 60_000)', { silenceLimitMs: 1500 });
    await expect(hanging).rejects.toMatchObject({ code: 'engine-silent', stderrTail: 'so far\n' });
  });

  it('may take its time as long as it goes on writing', async () => {
    const slow = 'let n = 0; const t = setInterval(() => { console.log(n); if (++n === 12) clearInterval(t); }, 250)';
    const { exitCode, stdout } = await run(slow, { silenceLimitMs: 2000 });
    expect(exitCode).toBe(0);
    expect(stdout.toString().trim().split('\n')).toHaveLength(12);
  });

  it('is ended when it goes on reporting but stands still', async () => {
    const still = 'setInterval(() => console.log("frame=7\\nout_time_us=280000\\nprogress=continue"), 100)';
    const running = run(still, { silenceLimitMs: 1500, isSignOfLife: createAdvanceWatch() });
    await expect(running).rejects.toMatchObject({ code: 'engine-silent' });
  });

  it('may go on without a word while it moves many bytes', async () => {
    const busy =
      'const fs = require("fs"); const t = setInterval(() => fs.writeFileSync("/dev/null", Buffer.alloc(500_000)), 50); setTimeout(() => clearInterval(t), 6000)';
    expect((await run(busy, { silenceLimitMs: 2500, isSignOfLife: createAdvanceWatch() })).exitCode).toBe(0);
  });

  it('may go on without a word while others keep it from the processor', async () => {
    const pinned = (code: string, options: Partial<ProcessRequest>) =>
      runProcess({ file: 'taskset', arguments: ['--cpu-list', '0', process.execPath, '-e', code], ...options });
    const others = pinned('const end = Date.now() + 6000; while (Date.now() < end);', {});
    const kept =
      'const end = process.cpuUsage().user + 400_000; while (process.cpuUsage().user < end); console.log("so")';
    const { stdout } = await pinned(kept, { silenceLimitMs: 1500, isGentle: true });
    expect(stdout.toString()).toBe('so\n');
    await others;
  });

  it('is ended when it is suspended', async () => {
    const suspended = 'console.log("frame=1"); process.kill(process.pid, "SIGSTOP")';
    const running = run(suspended, { silenceLimitMs: 1500, isSignOfLife: createAdvanceWatch() });
    await expect(running).rejects.toMatchObject({ code: 'engine-silent' });
  });

  it('is ended when it takes too long in all', async () => {
    const endless = run('setInterval(() => console.log("on"), 100)', { timeLimitMs: 1000 });
    await expect(endless).rejects.toMatchObject({ code: 'engine-silent' });
  });

  it.each([
    ['killed', 'process.kill(process.pid, "SIGKILL")'],
    ['asked to end', 'console.error("Exiting normally, received signal 15."); process.exit(255)'],
  ])('that is %s from outside is told from one that failed', async (_name, code) => {
    await expect(run(code)).rejects.toMatchObject({ code: 'engine-killed' });
  });

  it('is handed the open files that its arguments name, whatever became of their names', async () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'linstock-files-'));
    const handles = await Promise.all(
      ['one', 'two'].map(async (name) => {
        writeFileSync(path.join(folder, name), `${name}.`);
        const handle = await open(path.join(folder, name));
        writeFileSync(path.join(folder, `other ${name}`), 'another file');
        renameSync(path.join(folder, `other ${name}`), path.join(folder, name));
        return handle;
      }),
    );
    const names = handles.map(({ fd }) => `/proc/${process.pid}/fd/${fd}`);
    const { stdout } = await runProcess({ file: 'cat', arguments: [...names, ...names] });
    expect(stdout.toString()).toBe('one.two.one.two.');
    await Promise.all(handles.map((handle) => handle.close()));
  });

  it('keeps characters whole that are split between chunks', async () => {
    const split =
      'const b = Buffer.from("Höhe ☂\\n"); let i = 0; const t = setInterval(() => { if (i === b.length) return clearInterval(t); process.stdout.write(b.subarray(i, i + 1)); process.stderr.write(b.subarray(i, ++i)); }, 10)';
    const lines: string[] = [];
    const { stderr } = await run(split, { onLine: (line) => void lines.push(line) });
    expect(lines).toEqual(['Höhe ☂']);
    expect(stderr).toBe('Höhe ☂\n');
  });

  it('is ended by a reader that throws, and the reader’s reason is told', async () => {
    const running = run('setInterval(() => console.log("nonsense"), 50)', {
      onLine: () => {
        throw new Error('no such line');
      },
    });
    await expect(running).rejects.toMatchObject({ code: 'engine-failed', cause: { message: 'no such line' } });
  });

  it('that failed is judged by its exit code, whatever its cut last line does to the reader', async () => {
    const cut = run('process.stdout.write("{\\"half"); console.error("Cannot allocate memory"); process.exitCode = 1', {
      onLine: (line) => void JSON.parse(line),
    });
    await expect(cut).resolves.toMatchObject({ exitCode: 1, stderr: 'Cannot allocate memory\n' });
  });
});
