import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { panView, revealFrame, wholeView, zoomView } from './view.ts';

const MINUTE = { seconds: 60, framesPerSecond: 25 };

describe('the view of the strips', () => {
  it('keeps the moment under the pointer where it is', () => {
    const view = zoomView({ from: 0, to: 60 }, MINUTE, 24, 0.5);
    expect(view).toEqual({ from: 12, to: 42 });
    expect((24 - view.from) / (view.to - view.from)).toBeCloseTo(0.4, 9);
  });

  it('goes from the whole length to single frames and back', () => {
    const hours = { seconds: 10_800, framesPerSecond: 25 };
    let view = wholeView(hours);
    for (let step = 0; step < 40; step += 1) view = zoomView(view, hours, 4321.02, 0.5);
    expect(view.to - view.from).toBeCloseTo(0.4, 9);
    for (let step = 0; step < 40; step += 1) view = zoomView(view, hours, 4321.02, 2);
    expect(view).toEqual(wholeView(hours));
  });

  it('never leaves the programme', () => {
    const change = fc.record({
      anchor: fc.double({ min: 0, max: 1, noNaN: true }),
      factor: fc.double({ min: 0.1, max: 10, noNaN: true }),
      by: fc.double({ min: -5000, max: 5000, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 100_000 }), fc.array(change), (frames, changes) => {
        const length = { seconds: frames / 25, framesPerSecond: 25 };
        let view = wholeView(length);
        for (const { anchor, factor, by } of changes) {
          view = panView(zoomView(view, length, view.from + anchor * (view.to - view.from), factor), length, by);
          expect(view.from).toBeGreaterThanOrEqual(0);
          expect(view.to).toBeLessThanOrEqual(length.seconds + 1e-6);
          expect(view.to).toBeGreaterThan(view.from);
        }
      }),
      { seed: 19 },
    );
  });

  it('follows the playhead only when it must', () => {
    const view = { from: 10, to: 20 };
    expect(revealFrame(view, MINUTE, { begins: 15, ends: 15.04 })).toBe(view);
    expect(revealFrame(view, MINUTE, { begins: 50, ends: 50.04 })).toEqual({ from: 45, to: 55 });
    expect(revealFrame(view, MINUTE, { begins: 59.96, ends: 60 })).toEqual({
      from: expect.closeTo(50, 9),
      to: 60,
    });
  });

  it('is content with the beginning of a frame that is held for longer than what is shown', () => {
    const view = { from: 10, to: 20 };
    expect(revealFrame(view, MINUTE, { begins: 10, ends: 40 })).toBe(view);
    expect(revealFrame(view, MINUTE, { begins: 12, ends: 40 })).toEqual({ from: 7, to: 17 });
  });
});
