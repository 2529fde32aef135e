import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const inFolder = (name: string) => path.join(folder, name);

const RATE = 48_000;

/** Samples from −1 to 1 of the first channel. */
function samplesOf(file: string): Float32Array {
  const raw = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', file, ...['-map', '0:a:0', '-ac', '1', '-f', 'f32le', '-']],
    {
      maxBuffer: 64_000_000,
    },
  );
  return new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength));
}

const firstAbove = (samples: Float32Array, level: number) => samples.findIndex((one) => Math.abs(one) > level);

/** Tells nothing but how strong a sound is: every sample of the master is a quarter. */
const steady = 'aevalsrc=0.25:s=48000:d=4';
/** Silent until 1.5 s, and from there on a quarter. */
const struck = "aevalsrc='0.25*gte(t,1.5)':s=48000:d=4";
/** Tones whose peaks come near the ceiling once they are turned up. */
const tone = "aevalsrc='0.5*sin(2*PI*997*t)':s=48000:d=3";

beforeAll(() => {
  for (const [name, source] of Object.entries({ steady, struck, tone })) {
    draw(inFolder(`${name}.wav`), ['-f', 'lavfi', '-i', source, '-c:a', 'pcm_s24le']);
  }
  const picture = ['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=4'];
  const coded = ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-c:a', 'pcm_s16le'];
  draw(inFolder('struck.mov'), [...picture, '-f', 'lavfi', '-i', struck, ...coded]);
  const stems = ['-f', 'lavfi', '-i', steady, '-f', 'lavfi', '-i', steady];
  draw(inFolder('stems.mka'), [...stems, '-map', '0', '-map', '1', '-c:a', 'pcm_s24le']);
});

const whole = (audio: object) => ({
  video: null,
  container: 'wav',
  audio: { codec: 'pcm', bitDepth: 24, channels: 'source', ...audio },
});

/** What comes out, with every check passed. */
async function treated(name: string, audio: object, recipe: object = {}, portion: [number, number] | null = null) {
  const marked = portion && { inFrame: portion[0], outFrame: portion[1] };
  const made = await makeRendition(engine, folder, inFolder(name), { ...whole(audio), ...recipe }, marked);
  expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
  return samplesOf(made.file);
}

describe('sound that is treated', () => {
  it.each([-6, -20, 6])('is turned by %s dB: 20 dB are ten times', async (gainDb) => {
    const samples = await treated('steady.wav', { gainDb });
    expect(samples).toHaveLength(4 * RATE);
    expect(samples[2 * RATE]).toBeCloseTo(0.25 * 10 ** (gainDb / 20), 4);
  });

  it('keeps its peaks under the usual ceiling where it is turned up too far', async () => {
    const samples = await treated('tone.wav', { gainDb: 12 });
    const peak = samples.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
    expect(20 * Math.log10(peak)).toBeLessThanOrEqual(-1);
    expect(20 * Math.log10(peak)).toBeGreaterThan(-2);
  });

  it('fades evenly from nothing and to nothing', async () => {
    const samples = await treated('steady.wav', { fadeInSeconds: 1, fadeOutSeconds: 2 });
    const at = (seconds: number) => samples[Math.round(seconds * RATE)]!;
    expect(samples[0]).toBe(0);
    expect(at(0.5)).toBeCloseTo(0.125, 3);
    expect(at(1.5)).toBeCloseTo(0.25, 5);
    expect(at(3)).toBeCloseTo(0.125, 3);
    expect(at(3.9)).toBeCloseTo(0.0125, 3);
    expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.0001);
  });

  it('fades at the ends of a portion, in the middle of the programme', async () => {
    const recipe = { container: 'matroska', video: { codec: 'ffv1' }, audio: { codec: 'pcm', fadeInSeconds: 0.4 } };
    const samples = await treated('struck.mov', {}, recipe, [50, 74]);
    expect(samples).toHaveLength(RATE);
    expect(samples[Math.round(0.2 * RATE)]).toBeCloseTo(0.125, 2);
    expect(samples[Math.round(0.8 * RATE)]).toBeCloseTo(0.25, 2);
  });

  it('fades no longer than it lasts', async () => {
    const samples = await treated('steady.wav', { fadeInSeconds: 60 });
    expect(samples[2 * RATE]).toBeCloseTo(0.125, 3);
  });

  it.each([400, -250, -1500])('is heard %s ms later than it lies in the master, as long as before', async (delayMs) => {
    const samples = await treated('struck.wav', { delayMs });
    expect(samples).toHaveLength(4 * RATE);
    expect(firstAbove(samples, 0.1)).toBe(Math.round((1.5 + delayMs / 1000) * RATE));
  });

  it('is heard later beside its picture, whole and in a portion, which takes what lies before it', async () => {
    const recipe = { container: 'mov', video: { codec: 'prores', flavour: 'proxy' } };
    const audio = { codec: 'pcm', channels: 'source', delayMs: 200 };
    expect(firstAbove(await treated('struck.mov', {}, { ...recipe, audio }), 0.1)).toBe(1.7 * RATE);
    // From 1.6 s on: the blow at 1.5 s is heard at 1.7.
    expect(firstAbove(await treated('struck.mov', {}, { ...recipe, audio }, [40, 79]), 0.1)).toBe(0.1 * RATE);
  });

  it('is treated once, after several tracks are mixed into one', async () => {
    const samples = await treated('stems.mka', { tracks: [0, 1], mixed: true, gainDb: -6, fadeInSeconds: 1 });
    expect(samples[2 * RATE]).toBeCloseTo(0.5 * 10 ** (-6 / 20), 3);
    expect(samples[RATE / 2]).toBeCloseTo(0.25 * 10 ** (-6 / 20), 3);
  });
});
