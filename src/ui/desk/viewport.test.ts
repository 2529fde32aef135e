import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { layPicture, MIDDLE, panBy, stepZoom, zoomAt, ZOOMS } from './viewport.ts';

const VIEW = { width: 800, height: 600 };
const SHAPE = { width: 1280, height: 720 };

describe('a picture in a view', () => {
  it('is wholly seen and centred when it is fitted', () => {
    expect(layPicture(VIEW, SHAPE, 'fit', { x: 0.9, y: 0.1 })).toEqual({ left: 0, top: 75, width: 800, height: 450 });
  });

  it('has the wanted place in the middle', () => {
    expect(layPicture(VIEW, SHAPE, '2', { x: 0.5, y: 0.5 })).toEqual({
      left: -880,
      top: -420,
      width: 2560,
      height: 1440,
    });
  });

  it('never shows emptiness where there is picture to show', () => {
    const sides = fc.integer({ min: 50, max: 3000 });
    fc.assert(
      fc.property(
        sides,
        sides,
        sides,
        sides,
        fc.constantFrom(...ZOOMS),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (vw, vh, sw, sh, zoom, at) => {
          const view = { width: vw, height: vh };
          const laid = layPicture(view, { width: sw, height: sh }, zoom, { x: at, y: 1 - at });
          for (const [start, size, seen] of [
            [laid.left, laid.width, vw],
            [laid.top, laid.height, vh],
          ] as const) {
            if (size > seen) expect([start <= 1e-6, start + size >= seen - 1e-6]).toEqual([true, true]);
            else expect(start).toBeCloseTo((seen - size) / 2, 6);
          }
        },
      ),
      { seed: 7 },
    );
  });

  it('keeps what lies at the pointer there when it is enlarged', () => {
    const at = { x: 200, y: 450 };
    const before = layPicture(VIEW, SHAPE, '1', MIDDLE);
    const held = { x: (at.x - before.left) / before.width, y: (at.y - before.top) / before.height };
    const after = layPicture(VIEW, SHAPE, '4', zoomAt(VIEW, SHAPE, '1', '4', MIDDLE, at));
    expect(after.left + held.x * after.width).toBeCloseTo(at.x, 6);
    expect(after.top + held.y * after.height).toBeCloseTo(at.y, 6);
  });

  it('follows the hand, and stops at its edges', () => {
    const moved = panBy(VIEW, SHAPE, '4', MIDDLE, -100, 50);
    const [before, after] = [layPicture(VIEW, SHAPE, '4', MIDDLE), layPicture(VIEW, SHAPE, '4', moved)];
    expect([after.left - before.left, after.top - before.top]).toEqual(
      [-100, 50].map((by) => expect.closeTo(by, 6) as number),
    );
    const edge = panBy(VIEW, SHAPE, '4', MIDDLE, 1e6, 1e6);
    const laid = layPicture(VIEW, SHAPE, '4', edge);
    expect([laid.left, laid.top]).toEqual([0, 0]);
    // The way back begins at once.
    expect(layPicture(VIEW, SHAPE, '4', panBy(VIEW, SHAPE, '4', edge, -10, 0)).left).toBeCloseTo(-10, 6);
  });

  it('is enlarged step by step', () => {
    expect([stepZoom('fit', -1), stepZoom('fit', 1), stepZoom('4', 1), stepZoom('8', 1)]).toEqual([
      'fit',
      '1',
      '8',
      '8',
    ]);
  });
});
