import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { RATED, RATED_CODECS } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { draw, makeFolder } from '../support/footage.ts';
import { makeRendition } from '../support/encode.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const master = path.join(folder, 'master.mkv');

/** Of the picture's bits a second. */
const HIGHEST_KBPS = 400;

/** Codecs whose encoder keeps within a buffer. */
const HELD = RATED_CODECS.filter((codec) => RATED[codec].bufferFault === '');

beforeAll(() => {
  // Quiet, then noise: what a highest rate is for.
  draw(master, [
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=160x90:r=25:d=4,split[a][b];[b]noise=alls=50:allf=t[c];[a][c]concat=n=2:v=1',
    '-c:v',
    'ffv1',
  ]);
});

/** The highest rate of any second, in bits, by the engine's own listing of packets. */
function busiestSecond(file: string): number {
  const args = ['-v', 'error', '-select_streams', 'v', '-show_entries', 'packet=pts_time,size', '-of', 'csv=p=0', file];
  const seconds: number[] = [];
  for (const row of execFileSync('ffprobe', args, { encoding: 'utf8' }).trim().split('\n')) {
    const [time, size] = row.split(',').map(Number) as [number, number];
    const second = Math.floor(time);
    seconds[second] = (seconds[second] ?? 0) + size * 8;
  }
  return Math.max(...seconds.slice(0, 8));
}

async function made(codec: string, rate: object) {
  const video = { codec, effort: 'fast', rate };
  return makeRendition(engine, folder, master, { container: 'mp4', video, audio: null });
}

describe.each(HELD)('%s', (codec) => {
  const quality = { mode: 'quality', value: 20 };

  it('at a quality is held down where it is hard, and only there', async () => {
    const [free, held] = [
      await made(codec, quality),
      await made(codec, { ...quality, maxKbps: HIGHEST_KBPS, bufferKbit: HIGHEST_KBPS }),
    ];
    expect(busiestSecond(free.file)).toBeGreaterThan(HIGHEST_KBPS * 1000 * 2);
    expect(busiestSecond(held.file)).toBeLessThanOrEqual(HIGHEST_KBPS * 1000 * 2);
    expect(held.checks).toContainEqual(
      expect.objectContaining({
        name: 'Rate stays within its buffer',
        ok: true,
        expected: 'at most 400 kbit at 400 kb/s',
      }),
    );
    expect(held.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(free.checks.map(({ name }) => name)).not.toContain('Rate stays within its buffer');
  });

  it('varies around an average within its highest', async () => {
    const rate = { mode: 'variable', kbps: 250, maxKbps: HIGHEST_KBPS, bufferKbit: 400, passes: 2 };
    const { checks, file } = await made(codec, rate);
    expect(checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(checks.map(({ name }) => name)).toContain('Rate stays within its buffer');
    // Eight seconds.
    expect(Math.abs(statSync(file).size / 250_000 - 1)).toBeLessThan(0.15);
  });

  it('holds a constant rate, padded where it is easy', async () => {
    const { checks, file, plan } = await made(codec, { mode: 'constant', kbps: 300 });
    expect(checks.filter(({ ok }) => !ok)).toEqual([]);
    const { size } = statSync(file);
    expect(size).toBeGreaterThanOrEqual(plan.budget.expected!.low);
    expect(size).toBeLessThanOrEqual(plan.budget.expected!.high);
  });
});

describe('a share of the source', () => {
  it('is filled from below like a size', async () => {
    const { file, checks } = await made('h264', { mode: 'share', ofSource: 0.05 });
    const cap = statSync(master).size * 0.05;
    expect(checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(statSync(file).size).toBeLessThanOrEqual(cap);
    expect(statSync(file).size).toBeGreaterThan(cap * 0.97);
  });
});

describe('codecs that keep within no buffer', () => {
  it.each(RATED_CODECS.filter((codec) => !HELD.includes(codec)))('%s refuses one, and says why', async (codec) => {
    const container = RATED[codec].containers[0];
    const video = { codec, rate: { mode: 'constant', kbps: 300 } };
    await expect(makeRendition(engine, folder, master, { container, video, audio: null })).rejects.toThrow(
      RATED[codec].bufferFault,
    );
  });
});
