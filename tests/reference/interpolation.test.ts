import { curveMonotoneX, line } from 'd3-shape';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { interpolate, type CurvePoint } from '../../src/core/scale/interpolate.ts';

/** Where a path of cubic pieces is at x; the pieces' control points lie at thirds, so x goes evenly along each. */
function onPath(path: string, x: number): number {
  const numbers = path.match(/-?\d+(?:\.\d+)?(?:e-?\d+)?/g)!.map(Number);
  for (let at = 0; at + 7 < numbers.length; at += 6) {
    const [x0, y0, , y1, , y2, x3, y3] = numbers.slice(at, at + 8) as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    if (x > x3) continue;
    const t = (x - x0) / (x3 - x0);
    const s = 1 - t;
    return s ** 3 * y0 + 3 * s * s * t * y1 + 3 * s * t * t * y2 + t ** 3 * y3;
  }
  throw new RangeError(`${x} lies beyond the path.`);
}

const anyPoints = fc
  .array(fc.tuple(fc.integer({ min: 1, max: 50 }), fc.integer({ min: -100, max: 100 })), { minLength: 3, maxLength: 9 })
  .map((steps) => {
    let x = 0;
    return steps.map(([step, y]): CurvePoint => ({ x: (x += step), y }));
  });

/** Against d3-shape's `curveMonotoneX`, an independent library of the package registry (Steffen 1990). */
describe('monotone interpolation', () => {
  it('goes where a registry library draws it', () => {
    fc.assert(
      fc.property(anyPoints, fc.double({ min: 0, max: 1, noNaN: true }), (points, share) => {
        const draw = line<CurvePoint>(
          ({ x }) => x,
          ({ y }) => y,
        )
          .curve(curveMonotoneX)
          .digits(12);
        const [first, last] = [points[0]!.x, points.at(-1)!.x];
        const x = first + (last - first) * share;
        expect(interpolate(points)(x)).toBeCloseTo(onPath(draw(points)!, x), 6);
      }),
    );
  });

  it('never leaves what lies between its points, and tells nothing beyond them', () => {
    fc.assert(
      fc.property(anyPoints, fc.double({ min: 0, max: 1, noNaN: true }), (points, share) => {
        const at = interpolate(points);
        const piece = Math.min(points.length - 2, Math.floor(share * (points.length - 1)));
        const [a, b] = [points[piece]!, points[piece + 1]!];
        const y = at(a.x + (b.x - a.x) * share)!;
        expect(y).toBeGreaterThanOrEqual(Math.min(a.y, b.y) - 1e-9);
        expect(y).toBeLessThanOrEqual(Math.max(a.y, b.y) + 1e-9);
        expect(at(points[0]!.x - 0.1)).toBeNull();
        expect(at(points.at(-1)!.x + 0.1)).toBeNull();
      }),
    );
  });
});
