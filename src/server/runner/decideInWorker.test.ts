import { describe, expect, it } from 'vitest';
import { decideFill, type Fill } from '../../core/budget/fillCap.ts';
import type { WeighedPass } from '../../core/budget/weighed.ts';
import { RATED } from '../../core/video/codecs.ts';
import { bytes, type Bytes } from '../../core/units.ts';
import { decideInWorker } from './decideInWorker.ts';

function passesOf(groups: number) {
  return [0.93, 1.02].map((share, index) => {
    const sizes = Array.from({ length: groups }, (_, group) => Math.round(share * (4000 + ((group * 7919) % 3000))));
    const videoBytes = bytes(sizes.reduce((sum, size) => sum + size, 0));
    const fileBytes = bytes(videoBytes + 5000);
    return { fileBytes, videoBytes, quality: 24 - index * 0.5, groups: sizes };
  });
}

const fillOf = (cap: Bytes, passes: readonly WeighedPass[]): Fill => ({
  cap,
  scale: RATED.h264.quality,
  passes,
  retouches: [],
  losses: null,
  joinedMore: 0,
  foreseen: [],
});

describe('the decision how a size is filled next', () => {
  it.each([10, 720])('is the same in a thread of its own, with %i groups', async (groups) => {
    const passes = passesOf(groups);
    const cap = bytes(Math.round((passes[0]!.fileBytes + passes[1]!.fileBytes) / 2));
    const expected = decideFill(fillOf(cap, passes));
    expect(await decideInWorker(decideFill, fillOf(cap, passes))).toEqual(expected);
  });

  it('leaves this thread free meanwhile', async () => {
    const passes = passesOf(2000);
    let ticks = 0;
    const timer = setInterval(() => (ticks += 1), 5);
    await decideInWorker(decideFill, fillOf(passes[0]!.fileBytes, passes));
    clearInterval(timer);
    expect(ticks).toBeGreaterThan(5);
  });
});
