import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { CONTAINER } from '../../src/core/container/containers.ts';
import { CONTAINERS } from '../../src/core/container/names.ts';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { isRated, MASTERS, RATED, videoCodecsOf, type VideoCodec } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
let tape = '';

// ITU-R BT.601 at 625 lines, 16:9: pixels of 64:45 (from memory), here at a quarter of its size.
beforeAll(() => {
  tape = draw(path.join(folder, 'tape.mov'), [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=180x144:r=25:d=0.48', '-vf', 'setsar=64/45'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-colorspace', 'smpte170m'],
  ]);
});

const KEPT = { deinterlace: null, crop: null, fit: null, pixelAspect: 'source' };
const videoOf = (codec: VideoCodec) =>
  isRated(codec)
    ? { codec, effort: 'fast', rate: { mode: 'quality', value: RATED[codec].quality.usual } }
    : { codec, flavour: MASTERS[codec].flavours[0]!.key };

const PICTURES = CONTAINERS.filter((container) => CONTAINER[container].withPicture).flatMap((container) =>
  videoCodecsOf(container).map((codec) => ({ container, codec })),
);

/** The shape of a pixel and the frame size, by the engine's own prober. */
function probe(file: string): string {
  const entries = 'stream=width,height,sample_aspect_ratio';
  return execFileSync(
    'ffprobe',
    ['-v', 'error', '-select_streams', 'v', '-show_entries', entries, '-of', 'csv=p=0', file],
    {
      encoding: 'utf8',
    },
  ).trim();
}

/** What every frame's pixels add up to, once decoded. */
function digest(file: string): string {
  const args = ['-v', 'error', '-i', file, '-map', '0:v', '-f', 'md5', '-'];
  return execFileSync('ffmpeg', args, { encoding: 'utf8' });
}

describe('pixels that are not square', () => {
  it.each(PICTURES)(
    'stay as they are with $codec in $container, and the file says so',
    async ({ container, codec }) => {
      const made = await makeRendition(engine, folder, tape, {
        container,
        ...{ video: videoOf(codec), picture: KEPT, audio: null },
      });
      expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
      expect(made.checks.find(({ name }) => name === 'Pixel aspect')?.found).toBe('64:45');
      expect(probe(made.file)).toBe('180,144,64:45');
    },
  );

  it('lose nothing in a lossless copy for the archive', async () => {
    const { file } = await makeRendition(engine, folder, tape, {
      container: 'matroska',
      video: { ...videoOf('ffv1'), chroma: '4:2:0', bitDepth: 8 },
      ...{ picture: KEPT, audio: null },
    });
    expect(digest(file)).toBe(digest(tape));
  });

  it('are made square by themselves', async () => {
    const { file, plan } = await makeRendition(engine, folder, tape, {
      container: 'mp4',
      video: videoOf('h264'),
      audio: null,
    });
    expect(probe(file)).toBe('256,144,1:1');
    expect(pictureOf(plan)?.out.pixelAspect).toBeUndefined();
  });
});
