import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { createEngine } from '../../src/engine/createEngine.ts';
import { draw, makeFolder } from '../support/footage.ts';
import { makeRendition } from '../support/encode.ts';

const folder = makeFolder();
const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });

/** Sixty frames that stumble every seventh; the last is held for longer. */
const master = draw(path.join(folder, 'variable.mp4'), [
  ...['-f', 'lavfi', '-i', "testsrc2=s=160x90:r=30:d=2,settb=1/90000,setpts='(N+floor(N/7)+20*gte(N,50))*3000'"],
  ...['-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=48000:duration=3'],
  ...['-fps_mode', 'passthrough', '-enc_time_base', '1:90000', '-video_track_timescale', '90000'],
  ...['-c:v', 'libx264', '-crf', '18', '-g', '45', '-pix_fmt', 'yuv420p', '-c:a', 'aac'],
]);

describe('a picture of a varying rate', () => {
  it.each([
    ['mp4', 'h264'],
    ['mov', 'h264'],
    ['matroska', 'hevc'],
    ['webm', 'vp9'],
    ['matroska', 'ffv1'],
  ] as const)('keeps its length in %s with %s', async (container, codec) => {
    const video = codec === 'ffv1' ? { codec } : { codec, effort: 'fast', rate: { mode: 'quality', value: 34 } };
    const audio = { codec: container === 'webm' ? 'opus' : 'aac', kbps: 64 };
    const { checks } = await makeRendition(engine, folder, master, { container, video, audio });
    expect(checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(checks.map(({ name }) => name)).toContain('Last frame begins');
  });
});
