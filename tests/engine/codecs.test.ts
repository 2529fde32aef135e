import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { CONTAINER } from '../../src/core/container/containers.ts';
import { CONTAINERS, type Container } from '../../src/core/container/names.ts';
import { SOUND, soundCodecOf, soundCodecsOf, type SoundCodec } from '../../src/core/sound/codecs.ts';
import { SOUND_DEPTHS } from '../../src/core/sound/definition.ts';
import { isRated, RATED, videoCodecsOf } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { draw, drawMaster, makeFolder } from '../support/footage.ts';
import { makeRendition } from '../support/encode.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
let master = '';
let clicking = '';

/** When the click is heard. */
const CLICK_SECONDS = 0.6;

beforeAll(() => {
  master = drawMaster(path.join(folder, 'master.mov'), { seconds: 0.6, size: '160x90' });
  clicking = draw(path.join(folder, 'clicking.mov'), [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=1.2'],
    ...[
      '-f',
      'lavfi',
      '-i',
      `aevalsrc=if(between(t\\,${CLICK_SECONDS}\\,0.603)\\,0.9*sin(2*PI*2000*t)\\,0):s=48000:d=1.2`,
    ],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-c:a', 'pcm_s16le'],
  ]);
});

interface Stream {
  readonly codec_name: string;
  readonly [key: string]: unknown;
}

/** What a file is, by the engine's own prober. */
function probe(file: string): Stream[] {
  const args = ['-v', 'error', '-show_streams', '-count_packets', '-of', 'json', `file:${file}`];
  return (JSON.parse(execFileSync('ffprobe', args, { encoding: 'utf8' })) as { streams: Stream[] }).streams;
}

/** A sound as a recipe asks for it. */
function asked(codec: SoundCodec, channels: 'mono' | 'stereo', bitDepth?: number): object {
  const { rate } = SOUND[codec];
  if (rate.kind === 'asked') return { codec, channels, kbps: rate.usualKbps[channels] };
  return { codec, channels, ...(bitDepth ? { bitDepth } : {}) };
}

/** Every picture codec in every container that takes it, with the sound that usually goes there. */
const PICTURES = CONTAINERS.filter((container) => CONTAINER[container].withPicture).flatMap((container) =>
  videoCodecsOf(container)
    .filter(isRated)
    .map((codec) => ({ container, codec, sound: soundCodecsOf(container)[0]! })),
);

const SOUNDS = CONTAINERS.flatMap((container) => soundCodecsOf(container).map((codec) => ({ container, codec })));

/** Every sound codec beside the first picture of its container. */
const PAIRS = SOUNDS.filter(({ container }) => CONTAINER[container].withPicture);

const WHOLE = SOUNDS.filter(({ codec }) => SOUND[codec].rate.kind === 'whole').flatMap((row) =>
  SOUND_DEPTHS.map((bitDepth) => ({ ...row, bitDepth })),
);

describe('every codec', () => {
  it.each(PICTURES)('$codec with $sound in $container is what it says', async ({ container, codec, sound }) => {
    const { quality } = RATED[codec];
    const made = await makeRendition(engine, folder, master, {
      container,
      video: { codec, effort: 'fast', rate: { mode: 'quality', value: quality.usual } },
      audio: asked(sound, 'stereo'),
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
    // What the container takes by itself: within a few hundred bytes of so short a file, and never far below.
    const { tallies } = await engine.inspect(made.file);
    const payload = [...tallies.values()].reduce((sum, tally) => sum + tally.bytes, 0);
    const truth = statSync(made.file).size - payload;
    expect(made.plan.budget.split.container).toBeGreaterThan(truth * 0.85);
    expect(made.plan.budget.split.container).toBeLessThan(truth + 400);
  });

  it.each(PICTURES)('$codec in $container is smaller at a coarser quality', async ({ container, codec }) => {
    const { usual, worst } = RATED[codec].quality;
    const sizes: number[] = [];
    for (const value of [usual, Math.round((usual + worst) / 2)]) {
      const video = { codec, effort: 'fast', rate: { mode: 'quality', value } };
      sizes.push(statSync((await makeRendition(engine, folder, master, { container, video, audio: null })).file).size);
    }
    expect(sizes[1]).toBeLessThan(sizes[0]! * 0.9);
  });

  it.each(SOUNDS)('$codec alone in $container is as long as the master', async ({ container, codec }) => {
    const made = await makeRendition(engine, folder, master, { container, video: null, audio: asked(codec, 'mono') });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    const [heard, ...others] = probe(made.file);
    expect(others).toEqual([]);
    expect(soundCodecOf(heard!.codec_name)).toBe(codec);
    expect(heard).toMatchObject({ channels: 1 });
    // At a rate, half a second says little: the lead counts, and encoders begin generously.
    if (SOUND[codec].rate.kind === 'asked') return;
    const { size } = statSync(made.file);
    expect(size).toBeLessThanOrEqual(made.plan.budget.expected!.high);
    expect(size).toBeGreaterThanOrEqual(made.plan.budget.expected!.low * 0.9);
  });

  it.each(PAIRS)('$codec in $container is in step with the picture', async ({ container, codec }) => {
    const picture = videoCodecsOf(container).find(isRated)!;
    const video = { codec: picture, effort: 'fast', rate: { mode: 'quality', value: RATED[picture].quality.usual } };
    const made = await makeRendition(engine, folder, clicking, { container, video, audio: asked(codec, 'stereo') });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    // Matroska and WebM give times in whole milliseconds.
    const limitMs = stampedInMilliseconds(container) ? 2 : 1;
    expect(Math.abs(soundAgainstPictureMs(made.file))).toBeLessThan(limitMs);
  });

  // Found by random recipes: at this rate these two come out longest.
  it.each([
    ['mp3', 'mp3'],
    ['vorbis', 'matroska'],
    ['vorbis', 'webm'],
  ] as const)('%s in %s at 44.1 kHz ends with its master', async (codec, container) => {
    const audio = { ...asked(codec, 'mono'), sampleRate: 44100 };
    const picture = videoCodecsOf(container).find(isRated);
    const video = picture && { codec: picture, effort: 'fast', rate: { mode: 'quality', value: 40 } };
    const made = await makeRendition(engine, folder, master, { container, video: video ?? null, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
  });

  it.each(WHOLE)('$codec in $container keeps $bitDepth bits', async ({ container, codec, bitDepth }) => {
    const audio = asked(codec, 'stereo', bitDepth);
    const made = await makeRendition(engine, folder, master, { container, video: null, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    const [heard] = probe(made.file);
    expect(Number(heard!['bits_per_raw_sample']) || heard!['bits_per_sample']).toBe(bitDepth);
  });
});

function stampedInMilliseconds(container: Container): boolean {
  return container === 'matroska' || container === 'webm';
}

/** How much later the click is than it should be, counted from the first picture, as a player hears it. */
function soundAgainstPictureMs(file: string): number {
  const listing = execFileSync('ffprobe', [
    ...['-v', 'error', '-select_streams', 'v:0', '-show_entries', 'packet=pts_time:format=start_time'],
    ...['-of', 'json', file],
  ]).toString();
  const { packets, format } = JSON.parse(listing) as {
    packets: { pts_time: string }[];
    format: { start_time: string };
  };
  const pictureSeconds = Math.min(...packets.map((packet) => Number(packet.pts_time))) - Number(format.start_time);
  const raw = execFileSync('ffmpeg', [
    ...['-v', 'error', '-i', file, '-map', '0:a:0', '-af', 'aresample=48000:async=1:first_pts=0'],
    ...['-ac', '1', '-f', 's16le', '-'],
  ]);
  const samples = new Int16Array(raw.buffer, raw.byteOffset, raw.length / 2);
  const loudest = samples.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
  const first = samples.findIndex((one) => Math.abs(one) > loudest * 0.3);
  return (first / 48000 - pictureSeconds - CLICK_SECONDS) * 1000;
}
