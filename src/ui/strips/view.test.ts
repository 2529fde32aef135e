import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { panView, revealFrame, wholeView, zoomView } from './view.ts';

describe('the view of the strips', () => {
  it('keeps the frame under the pointer where it is', () => {
    const view = zoomView({ from: 0, to: 1000 }, 1000, 400, 0.5);
    expect(view).toEqual({ from: 200, to: 700 });
    expect((400 - view.from) / (view.to - view.from)).toBeCloseTo(0.4, 9);
  });

  it('goes from the whole length to single frames and back', () => {
    let view = wholeView(270_000);
    for (let step = 0; step < 40; step += 1) view = zoomView(view, 270_000, 123_456.5, 0.5);
    expect(view.to - view.from).toBe(10);
    for (let step = 0; step < 40; step += 1) view = zoomView(view, 270_000, 123_456.5, 2);
    expect(view).toEqual(wholeView(270_000));
  });

  it('never leaves the programme', () => {
    const change = fc.record({
      anchor: fc.double({ min: 0, max: 1, noNaN: true }),
      factor: fc.double({ min: 0.1, max: 10, noNaN: true }),
      by: fc.double({ min: -5000, max: 5000, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 100_000 }), fc.array(change), (frames, changes) => {
        let view = wholeView(frames);
        for (const { anchor, factor, by } of changes) {
          view = panView(zoomView(view, frames, view.from + anchor * (view.to - view.from), factor), frames, by);
          expect(view.from).toBeGreaterThanOrEqual(0);
          expect(view.to).toBeLessThanOrEqual(frames + 1e-6);
          expect(view.to).toBeGreaterThan(view.from);
        }
      }),
      { seed: 19 },
    );
  });

  it('follows the playhead only when it must', () => {
    const view = { from: 100, to: 200 };
    expect(revealFrame(view, 1000, 150)).toBe(view);
    expect(revealFrame(view, 1000, 500)).toEqual({ from: 450, to: 550 });
    expect(revealFrame(view, 1000, 999)).toEqual({ from: 900, to: 1000 });
  });
});
