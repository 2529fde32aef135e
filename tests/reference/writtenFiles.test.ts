import { execFileSync } from 'node:child_process';
import path from 'node:path';
import mediaInfoFactory, { type MediaInfo } from 'mediainfo.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CONTAINER } from '../../src/core/container/containers.ts';
import { CONTAINERS, type Container } from '../../src/core/container/names.ts';
import { SOUND, soundCodecsOf, type SoundCodec } from '../../src/core/sound/codecs.ts';
import { isRated, RATED, VIDEO, videoCodecsOf, type VideoCodec } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { draw, drawMaster, makeFolder } from '../support/footage.ts';
import { makeRendition } from '../support/encode.ts';
import { readByMediaInfo, readByMp4box, readByMediabunny } from '../support/otherReaders.ts';

// Written files as two packages read them that have nothing to do with the engine: mediainfo.js and mp4box.
const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
let mediaInfo: MediaInfo<'object'>;
let master = '';

beforeAll(async () => {
  mediaInfo = await mediaInfoFactory({ format: 'object' });
  master = drawMaster(path.join(folder, 'master.mov'), { seconds: 0.6, size: '160x90' });
});
afterAll(() => mediaInfo.close());

/** What that library calls them. */
const PICTURE_FORMAT: Readonly<Record<VideoCodec, string>> = {
  h264: 'AVC',
  hevc: 'HEVC',
  vp9: 'VP9',
  av1: 'AV1',
  prores: 'ProRes',
  ffv1: 'FFV1',
};
const SOUND_FORMAT: Readonly<Record<SoundCodec, string>> = {
  aac: 'AAC',
  opus: 'Opus',
  vorbis: 'Vorbis',
  mp3: 'MPEG Audio',
  flac: 'FLAC',
  pcm: 'PCM',
};

/** Codec strings as that library writes them (RFC 6381). */
function readStrings(file: string): string[] {
  return readByMp4box(file)
    .getInfo()
    .tracks.map(({ codec }) => codec);
}

function pictureOf(codec: VideoCodec): object {
  if (!isRated(codec)) return { codec };
  return { codec, effort: 'fast', rate: { mode: 'quality', value: RATED[codec].quality.usual } };
}

const PAIRS = CONTAINERS.filter((container) => CONTAINER[container].withPicture).flatMap((container) =>
  videoCodecsOf(container).map((codec) => ({ container, codec, sound: soundCodecsOf(container)[0]! })),
);
const SOUNDS = CONTAINERS.flatMap((container) => soundCodecsOf(container).map((sound) => ({ container, sound })));

describe('what was written is what another library reads', () => {
  it.each(PAIRS)('$codec with $sound in $container', async ({ container, codec, sound }) => {
    const made = await makeRendition(engine, folder, master, {
      container,
      video: pictureOf(codec),
      audio: { codec: sound },
    });
    const { General, Video, Audio } = await readByMediaInfo(mediaInfo, made.file);
    expect(String(General?.['Format'])).toMatch(/MPEG-4|Matroska|WebM|QuickTime/);
    expect(Video).toMatchObject({ Format: PICTURE_FORMAT[codec], Width: 160, Height: 90 });
    expect(Number(Video?.['FrameRate'])).toBeCloseTo(25, 1);
    expect(Audio).toMatchObject({ Format: SOUND_FORMAT[sound], Channels: 2, SamplingRate: 48000 });
  });

  it.each(PAIRS)(
    '$codec with $sound in $container, as a second library reads it',
    async ({ container, codec, sound }) => {
      const recipe = { container, video: pictureOf(codec), audio: { codec: sound } };
      const made = await makeRendition(engine, folder, master, recipe);
      const read = await readByMediabunny(made.file);
      const named: Partial<Record<string, string>> = {
        h264: 'avc',
        hevc: 'hevc',
        vp9: 'vp9',
        av1: 'av1',
        prores: 'prores',
      };
      // It knows no codec for the archive.
      expect(read.picture?.codec ?? null).toBe(named[codec] ?? null);
      if (named[codec]) expect(read.picture).toMatchObject({ width: 160, height: 90 });
      expect(read.sound).toMatchObject({ channels: 2, sampleRate: 48000 });
      const { facts } = await engine.probe(made.file);
      const own = VIDEO[codec].webString(facts.video!);
      if (own !== null && codec === 'h264') expect(read.picture?.string?.toLowerCase()).toBe(own.toLowerCase());
      if (named[codec]) expect(read.picture!.seconds).toBeCloseTo(facts.durationSeconds, 1);
    },
  );

  it.each(SOUNDS)('$sound alone in $container', async ({ container, sound }) => {
    const made = await makeRendition(engine, folder, master, { container, video: null, audio: { codec: sound } });
    const { Audio, Video } = await readByMediaInfo(mediaInfo, made.file);
    expect(Video).toBeUndefined();
    expect(Audio).toMatchObject({ Format: SOUND_FORMAT[sound], Channels: 2 });
  });

  it.each(PAIRS.filter(({ container, codec }) => container === 'mp4' && VIDEO[codec].webString !== null))(
    'the codec string of $codec in MP4',
    async ({ container, codec }: { container: Container; codec: VideoCodec }) => {
      const video = pictureOf(codec);
      const made = await makeRendition(engine, folder, master, { container, video, audio: { codec: 'aac' } });
      const [picture, heard] = readStrings(made.file);
      const { facts } = await engine.probe(made.file);
      expect(heard).toBe(SOUND.aac.codecString);
      const own = VIDEO[codec].webString(facts.video!);
      // Of one no browser is asked; of another files say no level, and the lowest is asked for.
      if (own === null) return expect(picture).toMatch(/^hvc1\./);
      const withoutLevel = (text: string | undefined) => text?.replace(/^(vp09\.\d\d)\.\d\d/, '$1.XX').slice(0, 13);
      expect(withoutLevel(picture)?.toLowerCase()).toBe(withoutLevel(own)?.toLowerCase());
    },
  );
});

describe('5.1 to stereo (ITU-R BS.775; coefficients from memory)', () => {
  it('keeps every channel at its share, leaves the low one out, and does not clip', async () => {
    // Each channel has a tone of its own, at full scale: left, right, centre, low, left and right surround.
    const tones = [500, 700, 900, 60, 1100, 1300];
    const surround = draw(path.join(folder, 'surround.wav'), [
      ...[
        '-f',
        'lavfi',
        '-i',
        `aevalsrc=${tones.map((tone) => `0.99*sin(2*PI*${tone}*t)`).join('|')}:c=5.1(side):s=48000:d=1`,
      ],
      ...['-c:a', 'pcm_s16le'],
    ]);
    const audio = { codec: 'pcm', channels: 'stereo' };
    const made = await makeRendition(engine, folder, surround, { container: 'wav', video: null, audio });
    const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', made.file, '-f', 's16le', '-'], { maxBuffer: 1e8 });
    const samples = new Int16Array(raw.buffer, raw.byteOffset, raw.length / 2);
    const left = tones.map((tone) => amplitudeOf(samples, 0, tone));
    const right = tones.map((tone) => amplitudeOf(samples, 1, tone));
    const [own] = left;
    const shares = (channel: readonly number[]) => channel.map((one) => Number((one / own!).toFixed(2)));
    expect(shares(left)).toEqual([1, 0, 0.71, 0, 0.71, 0]);
    expect(shares(right)).toEqual([0, 1, 0.71, 0, 0, 0.71]);
    expect(samples.reduce((most, one) => Math.max(most, Math.abs(one)), 0)).toBeLessThan(32767);
  });
});

/** How strong a tone is in one of two channels, by correlation over the whole second. */
function amplitudeOf(samples: Int16Array, channel: 0 | 1, tone: number): number {
  let [sine, cosine] = [0, 0];
  const count = samples.length / 2;
  for (let index = 0; index < count; index += 1) {
    const phase = (2 * Math.PI * tone * index) / 48000;
    sine += samples[2 * index + channel]! * Math.sin(phase);
    cosine += samples[2 * index + channel]! * Math.cos(phase);
  }
  return (2 * Math.hypot(sine, cosine)) / count;
}
