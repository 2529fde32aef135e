import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { SOUND, SOUND_CODECS } from '../../src/core/sound/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const inFolder = (name: string) => path.join(folder, name);

/** Speech-like: noise that comes and goes, with a click that stands far above it. */
const spoken = (level: number, click: number) =>
  `aevalsrc='${level}*(0.4+0.6*abs(sin(3*t)))*(random(0)-0.5)+${click}*lt(mod(t,1.3),0.001)':s=48000:d=4`;

beforeAll(() => {
  const sound = (...sources: string[]) => sources.flatMap((source) => ['-f', 'lavfi', '-i', source]);
  const whole = ['-c:a', 'pcm_s16le'];
  draw(inFolder('quiet.wav'), [...sound(spoken(0.04, 0)), ...whole]);
  draw(inFolder('spiky.wav'), [...sound(spoken(0.04, 0.7)), ...whole]);
  draw(inFolder('loud.wav'), [...sound(spoken(1.9, 0)), ...whole]);
  draw(inFolder('silent.wav'), [...sound('anullsrc=r=48000:cl=stereo:d=2'), ...whole]);
  const around = (layout: string, channels: number) => {
    const tones = Array.from({ length: channels }, (_, n) => `0.05*sin(${(n + 1) * 900}*t)`);
    return sound(`aevalsrc=${tones.join('|')}:c=${layout}:s=48000:d=3`);
  };
  draw(inFolder('5.1.wav'), [...around('5.1', 6), ...whole]);
  draw(inFolder('7.1.wav'), [...around('7.1', 8), ...whole]);
  const stems = sound(spoken(0.05, 0.4), 'aevalsrc=0.02*sin(2000*t):s=44100:d=4');
  draw(inFolder('stems.mka'), [...stems, '-map', '0', '-map', '1', ...whole]);
});

const settings = (codec: (typeof SOUND_CODECS)[number], more: object = {}) => ({
  video: null,
  container: SOUND[codec].containers.find((one) => !['mp4', 'mov', 'matroska', 'webm'].includes(one)),
  audio: { codec, loudness: { lufs: -16 }, ...more },
});

/** The check of its level alone: the others are those of every sound. */
async function levelsOf(name: string, recipe: object) {
  const { checks, file } = await makeRendition(engine, folder, inFolder(name), recipe);
  expect(checks.filter(({ ok }) => !ok)).toEqual([]);
  return { file, found: checks.filter(({ name: called }) => called.includes('loud')).map((check) => check.found) };
}

describe('sound that is brought to a level', () => {
  it.each(SOUND_CODECS)('in %s, turned up where no peak is near', async (codec) => {
    const { file, found } = await levelsOf('quiet.wav', settings(codec));
    expect(found).toHaveLength(1);
    const { lufs, truePeakDbtp } = await engine.measureLoudness(file, 0);
    expect(Math.abs(lufs + 16)).toBeLessThan(0.15);
    expect(truePeakDbtp).toBeLessThanOrEqual(-1);
  });

  it.each(SOUND_CODECS)('in %s, with peaks held under the ceiling', async (codec) => {
    const { file } = await levelsOf('spiky.wav', settings(codec));
    const { lufs, truePeakDbtp } = await engine.measureLoudness(file, 0);
    expect(Math.abs(lufs + 16)).toBeLessThanOrEqual(0.5);
    expect(truePeakDbtp).toBeLessThanOrEqual(-1);
  });

  it('turned down, to another level and ceiling', async () => {
    const { file } = await levelsOf('loud.wav', settings('flac', { loudness: { lufs: -23, truePeakDbtp: -3 } }));
    const { lufs, truePeakDbtp } = await engine.measureLoudness(file, 0);
    expect(Math.abs(lufs + 23)).toBeLessThan(0.15);
    expect(truePeakDbtp).toBeLessThanOrEqual(-3);
  });

  it('that is silent stays so', async () => {
    const { found } = await levelsOf('silent.wav', settings('aac'));
    expect(found).toEqual(['silent, so nothing was turned up']);
  });

  it('mixed down before, so that the mix has the level', async () => {
    const { file } = await levelsOf('5.1.wav', settings('aac'));
    expect(Math.abs((await engine.measureLoudness(file, 0)).lufs + 16)).toBeLessThan(0.15);
  });

  it.each([
    ['5.1', 'aac'],
    ['7.1', 'flac'],
    ['7.1', 'opus'],
  ] as const)('with all of its channels, %s in %s', async (layout, codec) => {
    const { file } = await levelsOf(`${layout}.wav`, settings(codec, { channels: 'source' }));
    expect(Math.abs((await engine.measureLoudness(file, 0)).lufs + 16)).toBeLessThan(0.15);
  });

  it('mixed of several tracks, or each for itself', async () => {
    const container = { video: null, container: 'm4a' };
    const audio = { codec: 'aac', tracks: [0, 1], loudness: { lufs: -20, truePeakDbtp: -2 } };
    const mixed = await levelsOf('stems.mka', { ...container, audio: { ...audio, mixed: true } });
    expect(mixed.found).toHaveLength(1);
    const apart = await levelsOf('stems.mka', { ...container, audio });
    expect(apart.found).toHaveLength(2);
    for (const track of [0, 1]) {
      expect(Math.abs((await engine.measureLoudness(apart.file, track)).lufs + 20)).toBeLessThan(0.15);
    }
  });
});
