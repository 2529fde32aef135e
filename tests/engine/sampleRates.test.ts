import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { CONTAINERS } from '../../src/core/container/names.ts';
import { SOUND, soundCodecsOf } from '../../src/core/sound/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();

const drawAt = (rate: number) =>
  draw(path.join(folder, `tone-${rate}.wav`), [
    ...['-f', 'lavfi', '-i', `aevalsrc=0.4*sin(2*PI*440*t)|0.3*sin(2*PI*880*t):s=${rate}:d=0.7`],
    ...['-c:a', 'pcm_s24le'],
  ]);

/** Every sample, once decoded, as 24 bits. */
function digest(file: string): string {
  const args = ['-v', 'error', '-i', file, '-map', '0:a:0', '-c:a', 'pcm_s24le', '-f', 'md5', '-'];
  return execFileSync('ffmpeg', args, { encoding: 'utf8' });
}

const ROWS = CONTAINERS.flatMap((container) =>
  soundCodecsOf(container)
    .filter((codec) => SOUND[codec].rate.kind === 'whole')
    .flatMap((codec) => SOUND[codec].sampleRates.map((sampleRate) => ({ container, codec, sampleRate }))),
);

describe('a sound that is kept whole', () => {
  it.each(ROWS)('is every sample of its master in $codec in $container at $sampleRate Hz', async (row) => {
    const { container, codec, sampleRate } = row;
    const master = drawAt(sampleRate);
    const audio = { codec, sampleRate, bitDepth: 24, channels: 'source' };
    const made = await makeRendition(engine, folder, master, { container, video: null, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(digest(made.file)).toBe(digest(master));
    const { expected } = made.plan.budget;
    expect(made.plan.streams[0]?.out).toMatchObject({ sampleRate });
    expect(expected?.low).toBeGreaterThan(0);
  });
});
