import { describe, expect, it } from 'vitest';
import type { PictureFacts } from '../../core/plan/encodePlan.ts';
import { bytes } from '../../core/units.ts';
import { overCap, viewFill, type Filling } from './filling.ts';

const OUT = { size: { width: 1280, height: 720 } } as PictureFacts;
const PASSES = [
  { fileBytes: bytes(1010), videoBytes: bytes(1000), quality: 24, groups: [500, 300, 200] },
  { fileBytes: bytes(810), videoBytes: bytes(800), quality: 27, groups: [400, 240, 160] },
];
const RETOUCHES = [{ group: 2, quality: 22, bytes: bytes(260), loss: null, span: { first: 100, count: 50 } }];
const FILLING: Filling = { cap: bytes(1000), out: OUT, passes: PASSES, retouches: RETOUCHES };

describe('how a size was met', () => {
  it('tells of each group what it was given, and what it would have had at one quality for all', () => {
    const sources = [
      { kind: 'pass', index: 1 },
      { kind: 'pass', index: 0 },
      { kind: 'retouch', index: 0 },
    ] as const;
    const view = viewFill(FILLING, 'filled', { sources, frames: [50, 50, 50] });
    expect(view.groups).toEqual([
      { frames: 50, quality: 27, bytes: 400, evenBytes: 500 },
      { frames: 50, quality: 24, bytes: 300, evenBytes: 300 },
      { frames: 50, quality: 22, bytes: 260, evenBytes: 200 },
    ]);
    expect(view).toMatchObject({ joinedFrom: 2, retouches: [{ inFrame: 100, outFrame: 149, isUsed: true }] });
  });

  it('has no groups to tell of where one encode is the file', () => {
    const view = viewFill(FILLING, 'filled', null);
    expect(view.groups).toBeUndefined();
    expect(view).toMatchObject({ joinedFrom: null, retouches: [{ isUsed: false }] });
  });

  it('that was not met says the smallest there was, and what would fit', () => {
    const { problem } = overCap({ ...FILLING, cap: bytes(400) }, { file: bytes(810), video: bytes(800) });
    expect(problem.code).toBe('cap-below-floor');
    expect(problem.message).toContain('the smallest file at 1280 × 720 was 810 bytes');
    expect(problem.message).toMatch(/At \d+ × \d+ it should fit/);
  });
});
