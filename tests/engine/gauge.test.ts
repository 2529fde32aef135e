import { mkdirSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { RATED, RATED_CODECS, type RatedCodec } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const folder = makeFolder();
const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const { signal } = new AbortController();
const master = path.join(folder, 'calm.mkv');

beforeAll(() => {
  // Calm, as a talk is: an encoder that knows what follows spends the more on what stays.
  draw(master, [
    ...['-f', 'lavfi', '-i', 'mandelbrot=s=160x90:r=25:start_scale=0.4:end_scale=0.39:end_pts=100,format=yuv420p'],
    ...['-t', '2', '-c:v', 'ffv1'],
  ]);
});

/** What an encode took, and the gauge of the same frames at its quality and at a coarser one, in bytes. */
async function measure(codec: RatedCodec) {
  const { usual: value, worst } = RATED[codec].quality;
  const video = { codec, effort: 'fast', rate: { mode: 'quality', value } };
  const { plan, file } = await makeRendition(engine, folder, master, { container: 'matroska', video, audio: null });
  const { groups } = await engine.listGroups(file, signal);
  const workingFolder = path.join(folder, 'gauge');
  mkdirSync(workingFolder, { recursive: true });
  const request = { codec, qualities: [value, worst], keyframeInterval: 125 };
  const options = { workingFolder, signal, onProgress: () => undefined };
  const gauged = await engine.gauge(pictureOf(plan)!, request, master, options);
  const total = (sizes: readonly number[]) => sizes.reduce((sum, size) => sum + size, 0);
  const bytes = total(groups.map((group) => group.bytes));
  return { bytes, gauged, sizes: gauged.map(total), left: await readdir(workingFolder) };
}

describe.each(RATED_CODECS)('a gauge of %s', (codec) => {
  it('tells every frame at each quality, near to what an encode takes, and leaves nothing behind', async () => {
    const { bytes, gauged, sizes, left } = await measure(codec);
    expect(gauged.map((frames) => frames.length)).toEqual([50, 50]);
    expect(sizes[1]).toBeLessThan(sizes[0]! / 2);
    expect(sizes[0]! / bytes).toBeGreaterThan(0.65);
    expect(sizes[0]! / bytes).toBeLessThan(1.5);
    expect(left).toEqual([]);
  });
});

it('goes in the passes of the encode: of VP9 at the same effort it is the same encode', async () => {
  const { bytes, sizes } = await measure('vp9');
  expect(sizes[0]! / bytes).toBeCloseTo(1, 2);
});
