import { describe, expect, it } from 'vitest';
import { runProcess } from './runProcess.ts';

const NODE = process.execPath;

describe('a child process', () => {
  it('is ended when it writes nothing for too long', async () => {
    const hanging = ['-e', 'console.error("so far"); setTimeout(() => {}, 60_000)'];
    const run = runProcess({ file: NODE, arguments: hanging, silenceLimitMs: 1500 });
    await expect(run).rejects.toMatchObject({ code: 'engine-silent', stderrTail: 'so far\n' });
  });

  it('may take its time as long as it goes on writing', async () => {
    const slow = 'let n = 0; const t = setInterval(() => { console.log(n); if (++n === 12) clearInterval(t); }, 250)';
    const { exitCode, stdout } = await runProcess({ file: NODE, arguments: ['-e', slow], silenceLimitMs: 2000 });
    expect(exitCode).toBe(0);
    expect(stdout.toString().trim().split('\n')).toHaveLength(12);
  });
});
