import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { leastLevel } from '../../src/core/video/levels.ts';
import { RATED } from '../../src/core/video/codecs.ts';
import { rational } from '../../src/core/timing/rational.ts';
import { bitsPerSecond } from '../../src/core/units.ts';
import { draw, makeFolder } from '../support/footage.ts';

const of = (codec: 'h264' | 'hevc', width: number, height: number, fps: number, kbps: number, held = 4) =>
  leastLevel(RATED[codec].levels, {
    size: { width, height },
    rate: rational(fps, 1),
    bits: bitsPerSecond(kbps * 1000),
    heldFrames: held,
  });

describe('levels', () => {
  // ITU-T H.264 table A-1: values from memory.
  it.each([
    [1920, 1080, 30, 8000, '4.0'],
    [1920, 1080, 60, 8000, '4.2'],
    [1280, 720, 30, 5000, '3.1'],
    [3840, 2160, 30, 40_000, '5.1'],
    // 25 Mb/s is the most of level 4 in High profile.
    [1920, 1080, 25, 25_000, '4.0'],
    [1920, 1080, 25, 25_001, '4.1'],
  ])('of H.264 at %i × %i, %i frames a second and %i kb/s is %s', (width, height, fps, kbps, level) => {
    expect(of('h264', width, height, fps, kbps)).toBe(level);
  });

  // ITU-T H.265 tables A.8 and A.9: values from memory.
  it.each([
    [1920, 1080, 30, 8000, '4.0'],
    [1920, 1080, 60, 8000, '4.1'],
    [1280, 720, 30, 5000, '3.1'],
    [3840, 2160, 60, 30_000, '5.1'],
    [640, 360, 25, 6001, '3.1'],
  ])('of HEVC at %i × %i, %i frames a second and %i kb/s is %s', (width, height, fps, kbps, level) => {
    expect(of('hevc', width, height, fps, kbps)).toBe(level);
  });

  it('is higher where more frames are held, or a side is very long', () => {
    expect(of('h264', 1280, 720, 25, 3000, 5)).toBe('3.1');
    expect(of('h264', 1280, 720, 25, 3000, 6)).toBe('4.0');
    expect(of('h264', 3000, 64, 25, 1000)).toBe('3.2');
    expect(of('h264', 8192, 8192, 120, 1000)).toBe('6.2');
  });

  // The reference: what x264 itself chooses where it is left to (it counts twice the average rate).
  it.each([
    [1280, 720, 25, 1000],
    [640, 360, 30, 500],
    [1920, 1080, 50, 2000],
  ])('is that of the encoder itself at %i × %i, %i frames a second', (width, height, fps, kbps) => {
    const file = draw(path.join(makeFolder(), 'own.mp4'), [
      ...['-f', 'lavfi', '-i', `testsrc2=s=${width}x${height}:r=${fps}:d=0.2`, '-pix_fmt', 'yuv420p'],
      ...['-c:v', 'libx264', '-preset', 'medium', '-b:v', `${kbps}k`],
    ]);
    const entries = ['-v', 'error', '-show_entries', 'stream=level', '-of', 'csv=p=0'];
    const level = Number(execFileSync('ffprobe', [...entries, file], { encoding: 'utf8' })) / 10;
    expect(of('h264', width, height, fps, kbps * 2)).toBe(level.toFixed(1));
  });
});
