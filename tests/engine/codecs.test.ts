import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { CONTAINER } from '../../src/core/container/containers.ts';
import { CONTAINERS } from '../../src/core/container/names.ts';
import { SOUND, soundCodecsOf } from '../../src/core/sound/codecs.ts';
import { VIDEO, videoCodecsOf } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { drawMaster, makeFolder } from '../support/footage.ts';
import { makeRendition } from '../support/encode.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
let master = '';

beforeAll(() => {
  master = drawMaster(path.join(folder, 'master.mov'), { seconds: 0.6, size: '160x90' });
});

/** What a file is, by the engine's own prober. */
function probe(file: string): Record<string, unknown>[] {
  const args = ['-v', 'error', '-show_streams', '-count_packets', '-of', 'json', `file:${file}`];
  return (JSON.parse(execFileSync('ffprobe', args, { encoding: 'utf8' })) as { streams: Record<string, unknown>[] })
    .streams;
}

/** Every picture codec in every container that takes it, with the sound that usually goes there. */
const PICTURES = CONTAINERS.flatMap((container) =>
  videoCodecsOf(container).map((codec) => ({ container, codec, sound: soundCodecsOf(container)[0]! })),
);

const SOUNDS = CONTAINERS.flatMap((container) => soundCodecsOf(container).map((codec) => ({ container, codec })));

describe('every codec', () => {
  it.each(PICTURES)('$codec with $sound in $container is what it says', async ({ container, codec, sound }) => {
    const { quality } = VIDEO[codec];
    const made = await makeRendition(engine, folder, master, {
      container,
      video: { codec, effort: 'fast', rate: { mode: 'quality', value: quality.usual } },
      audio: { codec: sound, kbps: SOUND[sound].usualKbps.stereo, channels: 'stereo' },
    });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    const [picture, heard] = probe(made.file);
    expect(picture).toMatchObject({
      codec_name: codec,
      pix_fmt: 'yuv420p',
      width: 160,
      height: 90,
      nb_read_packets: '15',
      color_space: 'bt709',
      color_transfer: 'bt709',
      color_primaries: 'bt709',
      color_range: 'tv',
    });
    expect(heard).toMatchObject({ codec_name: sound, channels: 2, sample_rate: '48000' });
  });

  it.each(PICTURES)('$codec in $container is smaller at a coarser quality', async ({ container, codec }) => {
    const { usual, worst } = VIDEO[codec].quality;
    const sizes: number[] = [];
    for (const value of [usual, Math.round((usual + worst) / 2)]) {
      const video = { codec, effort: 'fast', rate: { mode: 'quality', value } };
      sizes.push(statSync((await makeRendition(engine, folder, master, { container, video, audio: null })).file).size);
    }
    expect(sizes[1]).toBeLessThan(sizes[0]! * 0.9);
  });

  it.each(SOUNDS)('$codec alone in $container is as long as the master', async ({ container, codec }) => {
    const audio = { codec, kbps: SOUND[codec].usualKbps.mono, channels: 'mono' };
    const made = await makeRendition(engine, folder, master, { container, video: null, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(probe(made.file)).toMatchObject([{ codec_name: codec, channels: 1 }]);
  });
});

describe('a container', () => {
  it.each(PICTURES)('$container foresees what it takes around $codec', async ({ container, codec, sound }) => {
    const made = await makeRendition(engine, folder, master, {
      container,
      video: { codec, effort: 'fast', rate: { mode: 'quality', value: VIDEO[codec].quality.usual } },
      audio: { codec: sound, kbps: SOUND[sound].usualKbps.stereo, channels: 'stereo' },
    });
    const { tallies } = await engine.inspect(made.file);
    const payload = [...tallies.values()].reduce((sum, tally) => sum + tally.bytes, 0);
    const truth = statSync(made.file).size - payload;
    const foreseen = made.plan.budget.split.container;
    // Within a few hundred bytes of so short a file; never far below.
    expect(foreseen).toBeGreaterThan(truth * 0.85);
    expect(foreseen).toBeLessThan(truth + 400);
    expect(CONTAINER[container].name).not.toBe('');
  });
});
