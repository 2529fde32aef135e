import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { CONTAINER } from '../../src/core/container/containers.ts';
import { CONTAINERS } from '../../src/core/container/names.ts';
import { SOUND, SOUND_CODECS, soundCodecsOf } from '../../src/core/sound/codecs.ts';
import { kbpsRange, LAYOUT_CHANNELS, type Layout } from '../../src/core/sound/definition.ts';
import { isRated, RATED, videoCodecsOf } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { analyseFile } from '../support/analyse.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const inFolder = (name: string) => path.join(folder, name);

/** A tone for each channel of 5.1 in the order of ITU-R BS.775: left, right, centre, low, left and right surround. */
const TONES = [300, 400, 500, 60, 700, 800];

beforeAll(() => {
  const picture = ['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=1'];
  const tone = (hertz: number, level = 0.4) => [
    '-f',
    'lavfi',
    '-i',
    `aevalsrc=${level}*sin(2*PI*${hertz}*t):s=48000:d=1`,
  ];
  const kept = ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-c:a', 'pcm_s16le'];
  const around = `aevalsrc=${TONES.map((hertz) => `0.2*sin(2*PI*${hertz}*t)`).join('|')}:c=5.1(side):s=48000:d=1`;
  draw(inFolder('around.mov'), [...picture, '-f', 'lavfi', '-i', around, ...kept]);
  draw(inFolder('stems.mov'), [
    ...picture,
    ...tone(440),
    ...tone(880),
    ...['-map', '0', '-map', '1', '-map', '2', ...kept],
  ]);
  draw(inFolder('half.mov'), [
    ...picture,
    ...tone(440),
    ...tone(880, 0),
    ...['-map', '0', '-map', '1', '-map', '2', ...kept],
  ]);
  draw(inFolder('six.mov'), [
    ...picture,
    ...TONES.flatMap((hertz) => tone(hertz, 0.2)),
    ...['-map', '0', ...TONES.flatMap((_, index) => ['-map', String(index + 1)]), ...kept],
  ]);
  draw(inFolder('loud.mov'), [
    ...picture,
    ...tone(440, 0.9),
    ...tone(441, 0.9),
    ...['-map', '0', '-map', '1', '-map', '2', ...kept],
  ]);
  const eight = `aevalsrc=${[...TONES, 900, 1000].map((hertz) => `0.1*sin(2*PI*${hertz}*t)`).join('|')}`;
  draw(inFolder('eight.wav'), ['-f', 'lavfi', '-i', `${eight}:c=7.1:s=48000:d=0.5`]);
  draw(inFolder('quad.mov'), [...picture, ...['-f', 'lavfi', '-i', 'aevalsrc=0|0|0|0:c=quad:s=48000:d=1', ...kept]]);
});

interface Sounded {
  readonly codec_type: string;
  readonly channels?: number;
  readonly nb_read_packets?: string;
}

function soundsOf(file: string): Sounded[] {
  const args = ['-v', 'error', '-show_streams', '-of', 'json', `file:${file}`];
  const { streams } = JSON.parse(execFileSync('ffprobe', args, { encoding: 'utf8' })) as { streams: Sounded[] };
  return streams.filter(({ codec_type }) => codec_type === 'audio');
}

function channelsOf(file: string, track: number, channels: number): Float32Array[] {
  const raw = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', file, '-map', `0:a:${track}`, '-f', 'f32le', '-ar', '48000', '-ac', String(channels), '-'],
    { maxBuffer: 64e6 },
  );
  const samples = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length));
  return Array.from({ length: channels }, (_, channel) => samples.filter((__, index) => index % channels === channel));
}

/** How strong a tone is in a sound: its amplitude, by correlation over most of a second. */
function strength(samples: Float32Array, hertz: number): number {
  const middle = samples.slice(4800, 4800 + 38400);
  const sum = (wave: (angle: number) => number) =>
    middle.reduce((total, one, index) => total + one * wave((2 * Math.PI * hertz * index) / 48000), 0);
  return (2 * Math.hypot(sum(Math.sin), sum(Math.cos))) / middle.length;
}

const SURROUND = CONTAINERS.flatMap((container) =>
  soundCodecsOf(container)
    .filter((codec) => SOUND[codec].mostChannels >= 6)
    .map((codec) => ({ container, codec })),
);

describe('as many channels as the source', () => {
  it.each(SURROUND)('$codec in $container keeps every channel of 5.1 where it was', async ({ container, codec }) => {
    const audio = { codec, channels: 'source', ...(SOUND[codec].rate.kind === 'asked' ? { kbps: 384 } : {}) };
    const made = await makeRendition(engine, folder, inFolder('around.mov'), { container, video: null, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(soundsOf(made.file)).toMatchObject([{ channels: 6 }]);
    const heard = channelsOf(made.file, 0, 6);
    TONES.forEach((hertz, channel) => {
      // Encoders of surround may leave the low channel at half its rate, not at half its strength.
      expect(strength(heard[channel]!, hertz)).toBeGreaterThan(0.15);
      const others = heard.filter((_, other) => other !== channel).map((one) => strength(one, hertz));
      expect(Math.max(...others)).toBeLessThan(0.05);
    });
  });

  it('is refused where the codec carries fewer, and where the layout has no name', async () => {
    const order = (codec: string) => ({ container: 'matroska', video: null, audio: { codec, channels: 'source' } });
    await expect(makeRendition(engine, folder, inFolder('around.mov'), order('mp3'))).rejects.toThrow(
      'MP3 carries at most 2 channels, and track 1 has 6; take stereo or mono.',
    );
    await expect(makeRendition(engine, folder, inFolder('quad.mov'), order('aac'))).rejects.toThrow(
      'Track 1 has 4 channels, which is none of mono, stereo, 5.1 and 7.1; take stereo or mono.',
    );
  });
});

const MASTERS = { mono: 'loud.mov', stereo: 'loud.mov', '5.1': 'around.mov', '7.1': 'eight.wav' } as const;

const ENDS = SOUND_CODECS.flatMap((codec) => {
  const { rate, mostChannels, containers } = SOUND[codec];
  if (rate.kind !== 'asked') return [];
  const layouts = Object.entries(MASTERS).filter(([layout]) => LAYOUT_CHANNELS[layout as Layout] <= mostChannels);
  return layouts.flatMap(([layout, master]) =>
    kbpsRange(rate, layout as Layout).map((kbps) => ({ codec, container: containers[0]!, layout, master, kbps })),
  );
});

describe('the ends of what a sound codec may be asked for', () => {
  it.each(ENDS)('$codec takes $kbps kb/s in $layout', async ({ codec, container, layout, master, kbps }) => {
    const channels = layout === 'mono' || layout === 'stereo' ? layout : 'source';
    const audio = { codec, channels, kbps };
    const made = await makeRendition(engine, folder, inFolder(master), { container, video: null, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(soundsOf(made.file)).toMatchObject([{ channels: LAYOUT_CHANNELS[layout as Layout] }]);
  });
});

const SEVERAL = CONTAINERS.filter((container) => CONTAINER[container].holdsSeveralSounds);

describe('several tracks', () => {
  it.each(SEVERAL)('stay apart in %s, each in step, and fill a size never over it', async (container) => {
    const [codec] = soundCodecsOf(container);
    const picture = videoCodecsOf(container).find(isRated);
    const cap = 90_000;
    const video = CONTAINER[container].withPicture && picture && { codec: picture, effort: 'fast' };
    const made = await makeRendition(engine, folder, inFolder('stems.mov'), {
      container,
      video: video ? { ...video, rate: { mode: 'size', bytes: cap } } : null,
      audio: { codec, channels: 'mono', kbps: 64, tracks: [0, 1] },
    });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(soundsOf(made.file)).toHaveLength(2);
    const [low, high] = [0, 1].map((track) => channelsOf(made.file, track, 1)[0]!);
    expect(strength(low!, 440)).toBeGreaterThan(0.3);
    expect(strength(high!, 880)).toBeGreaterThan(0.3);
    expect(strength(low!, 880) + strength(high!, 440)).toBeLessThan(0.02);
    if (video) expect(statSync(made.file).size).toBeLessThanOrEqual(cap);
    // Rather above the truth, for a file of a second.
    const { tallies } = await engine.inspect(made.file);
    const payload = [...tallies.values()].reduce((sum, tally) => sum + tally.bytes, 0);
    const truth = statSync(made.file).size - payload;
    expect(made.plan.budget.split.container).toBeGreaterThan(truth * 0.85);
    expect(made.plan.budget.split.container).toBeLessThan(truth + 3000);
  });

  it('add up at full strength when they are mixed, to the sample', async () => {
    const audio = { codec: 'pcm', channels: 'stereo', tracks: [0, 1], mixed: true };
    const made = await makeRendition(engine, folder, inFolder('stems.mov'), { container: 'wav', video: null, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    const heard = channelsOf(made.file, 0, 2);
    expect(heard.map(({ length }) => length)).toEqual([48_000, 48_000]);
    for (const side of heard) {
      // One channel on both sides keeps its power: 0.707 of it on each.
      const share = strength(side, 440) / 0.4;
      expect(share).toBeGreaterThan(0.69);
      expect(strength(side, 880) / 0.4).toBeCloseTo(share, 2);
    }
  });

  it('are left and right when they are joined, to the sample', async () => {
    const audio = { codec: 'pcm', channels: 'source', tracks: [0, 1], joined: true };
    const made = await makeRendition(engine, folder, inFolder('stems.mov'), { container: 'wav', video: null, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(soundsOf(made.file)).toMatchObject([{ channels: 2 }]);
    const [left, right] = channelsOf(made.file, 0, 2);
    expect([left!.length, right!.length]).toEqual([48_000, 48_000]);
    expect(strength(left!, 440)).toBeCloseTo(0.4, 2);
    expect(strength(right!, 880)).toBeCloseTo(0.4, 2);
    expect(strength(left!, 880) + strength(right!, 440)).toBeLessThan(0.001);
  });

  it('are 5.1 when six are joined, and stereo by ITU-R BS.775 where that is asked for, levelled too', async () => {
    const audio = { codec: 'flac', channels: 'source', tracks: [0, 1, 2, 3, 4, 5], joined: true };
    const order = { container: 'matroska', video: null, audio };
    const made = await makeRendition(engine, folder, inFolder('six.mov'), order);
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    const heard = channelsOf(made.file, 0, 6);
    TONES.forEach((hertz, channel) => {
      expect(heard.map((one) => strength(one, hertz) > 0.01)).toEqual(heard.map((_, other) => other === channel));
    });
    const levelled = { ...audio, channels: 'stereo', loudness: { lufs: -20 } };
    const stereo = await makeRendition(engine, folder, inFolder('six.mov'), { ...order, audio: levelled });
    expect(stereo.checks.filter(({ ok }) => !ok)).toEqual([]);
    const [left, right] = channelsOf(stereo.file, 0, 2);
    // The centre is on both sides at 0.707 of what a side has; each surround channel on its own side.
    expect(strength(left!, 500) / strength(left!, 300)).toBeCloseTo(Math.SQRT1_2, 1);
    expect(strength(right!, 500)).toBeCloseTo(strength(left!, 500), 3);
    expect(strength(left!, 700) / strength(left!, 300)).toBeCloseTo(Math.SQRT1_2, 1);
    expect(strength(right!, 700) + strength(left!, 400)).toBeLessThan(0.001);
  });

  it('are not joined where one has several channels, or where so many are no layout', async () => {
    const order = (tracks: number[]) => ({
      container: 'wav',
      video: null,
      audio: { codec: 'pcm', tracks, joined: true },
    });
    await expect(makeRendition(engine, folder, inFolder('six.mov'), order([0, 1, 2]))).rejects.toThrow(
      '2, 6 or 8 tracks are joined into one sound, and these are 3; take so many, or mix them.',
    );
    await expect(makeRendition(engine, folder, inFolder('around.mov'), order([0]))).rejects.toThrow(
      'Track 1 has 6 channels; only tracks of one channel each are joined.',
    );
  });

  it('are listened to as the one sound they are', async () => {
    const { findings } = await analyseFile(inFolder('stems.mov'));
    expect(findings.channels).toMatchObject({ silent: [], identical: false });
    expect(findings.channels?.peaks).toHaveLength(2);
    const alone = await analyseFile(inFolder('half.mov'));
    expect(alone.findings.channels?.silent).toEqual([1]);
  });

  it('never clip when they are mixed', async () => {
    const audio = { codec: 'pcm', channels: 'mono', tracks: [0, 1], mixed: true };
    const made = await makeRendition(engine, folder, inFolder('loud.mov'), { container: 'wav', video: null, audio });
    const [heard] = channelsOf(made.file, 0, 1);
    const peak = heard!.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
    expect(peak).toBeGreaterThan(0.9);
    expect(peak).toBeLessThan(0.99);
  });

  it('are copied together, and refused where there is room for one', async () => {
    const copied = await makeRendition(engine, folder, inFolder('stems.mov'), {
      container: 'mov',
      video: { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: RATED.h264.quality.usual } },
      audio: { codec: 'copy', tracks: [0, 1] },
    });
    expect(copied.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(soundsOf(copied.file)).toHaveLength(2);
    const audio = { codec: 'mp3', tracks: [0, 1] };
    await expect(
      makeRendition(engine, folder, inFolder('stems.mov'), { container: 'mp3', video: null, audio }),
    ).rejects.toThrow('MP3 holds one sound track; take one, or make one of them.');
  });
});
