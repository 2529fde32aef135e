import path from 'node:path';
import mediaInfoFactory, { type MediaInfo } from 'mediainfo.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { toNumber } from '../../src/core/timing/rational.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { draw, drawMaster, makeFolder } from '../support/footage.ts';
import { readByMediaInfo } from '../support/otherReaders.ts';

// Facts of one file read independently by the package mediainfo.js.
const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
let mediaInfo: MediaInfo<'object'>;

beforeAll(async () => {
  mediaInfo = await mediaInfoFactory({ format: 'object' });
});
afterAll(() => mediaInfo.close());

const FILES: readonly (readonly [name: string, make: (file: string) => string])[] = [
  ['plain.mov', (file) => drawMaster(file, { seconds: 2 })],
  [
    'film.mp4',
    (file) => drawMaster(file, { seconds: 2, rate: '24000/1001', extra: ['-c:a', 'aac', '-preset', 'medium'] }),
  ],
  ['fast.mov', (file) => drawMaster(file, { seconds: 2, rate: '60000/1001' })],
  [
    'deep.mov',
    (file) => drawMaster(file, { seconds: 1, extra: ['-vf', 'format=yuv422p10le', '-profile:v', 'high422'] }),
  ],
  [
    'tape.mov',
    (file) =>
      draw(file, [
        ...['-f', 'lavfi', '-i', 'testsrc2=s=720x576:r=50:d=2,tinterlace=mode=interleave_top,setsar=64/45'],
        ...['-c:v', 'mpeg2video', '-flags', '+ildct+ilme', '-top', '1', '-qscale:v', '4', '-timecode', '10:00:00:00'],
      ]),
  ],
];

describe('facts are what another library reads', () => {
  it.each(FILES)('of %s', async (name, make) => {
    const file = make(path.join(folder, name));
    const { facts } = await engine.probe(file);
    const { General, Video, Audio } = await readByMediaInfo(mediaInfo, file);
    const video = facts.video!;
    expect(facts.width).toBe(Number(Video?.['Width']));
    expect(facts.height).toBe(Number(Video?.['Height']));
    expect(facts.frameCount).toBe(Number(Video?.['FrameCount']));
    expect(toNumber(facts.frameRate)).toBeCloseTo(Number(Video?.['FrameRate']), 2);
    expect(facts.durationSeconds).toBeCloseTo(Number(Video?.['Duration']), 2);
    expect(video.bitDepth).toBe(Number(Video?.['BitDepth']));
    expect(video.chroma).toBe(Video?.['ChromaSubsampling']);
    expect(video.interlaced).toBe(Video?.['ScanType'] === 'Interlaced');
    expect(video.constantRate).toBe(Video?.['FrameRate_Mode'] === 'CFR');
    expect(toNumber(video.pixelAspect)).toBeCloseTo(Number(Video?.['PixelAspectRatio']), 2);
    // Bytes of the picture's packets alone, within what the other counts as its own.
    expect(video.bitsPerSecond! / Number(Video?.['BitRate'])).toBeCloseTo(1, 1);
    expect(facts.container).toBe(
      General?.['Format'] === 'MPEG-4' && General['Format_Profile'] === 'QuickTime' ? 'MOV' : 'MP4',
    );
    if (!Audio) return;
    const track = facts.audio[0]!;
    expect(track.channels).toBe(Number(Audio['Channels']));
    expect(track.sampleRate).toBe(Number(Audio['SamplingRate']));
    if (track.codec.startsWith('pcm')) expect(track.bitDepth).toBe(Number(Audio['BitDepth']));
  });

  it('with the timecode a tape begins at', async () => {
    expect((await engine.probe(path.join(folder, 'tape.mov'))).facts.startTimecode).toBe('10:00:00:00');
  });
});
