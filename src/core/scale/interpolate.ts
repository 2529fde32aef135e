/** A point of a curve. */
export interface CurvePoint {
  readonly x: number;
  readonly y: number;
}

/**
 * A smooth curve through points that never turns between them (M. Steffen, “A simple method for monotonic interpolation in
 * one dimension”, Astronomy and Astrophysics 239, 1990; from memory, and held against a registry library).
 *
 * @param points - At least one; each x once. Put in order here.
 * @returns The value at x; null outside the points, since nothing is known there.
 */
export function interpolate(points: readonly CurvePoint[]): (x: number) => number | null {
  const sorted = points.toSorted((a, b) => a.x - b.x);
  const slopes = slopesOf(sorted);
  return (x) => {
    const [first, last] = [sorted[0], sorted.at(-1)];
    if (!first || !last || !(x >= first.x && x <= last.x)) return null;
    const at = Math.max(
      1,
      sorted.findIndex((point) => point.x >= x),
    );
    const [a, b] = [sorted[at - 1]!, sorted[at]];
    if (!b) return a.y;
    const width = b.x - a.x;
    const t = (x - a.x) / width;
    const [sa, sb] = [slopes[at - 1]! * width, slopes[at]! * width];
    // Cubic Hermite.
    return (
      a.y * (2 * t ** 3 - 3 * t ** 2 + 1) +
      sa * (t ** 3 - 2 * t ** 2 + t) +
      b.y * (-2 * t ** 3 + 3 * t ** 2) +
      sb * (t ** 3 - t ** 2)
    );
  };
}

function slopesOf(points: readonly CurvePoint[]): number[] {
  const secant = (index: number) => {
    const [a, b] = [points[index]!, points[index + 1]!];
    return (b.y - a.y) / (b.x - a.x);
  };
  const last = points.length - 1;
  const inner = points.map((point, index) => {
    if (index === 0 || index === last) return 0;
    const [before, after] = [point.x - points[index - 1]!.x, points[index + 1]!.x - point.x];
    const [s0, s1] = [secant(index - 1), secant(index)];
    const parabola = (s0 * after + s1 * before) / (before + after);
    return (Math.sign(s0) + Math.sign(s1)) * Math.min(Math.abs(s0), Math.abs(s1), 0.5 * Math.abs(parabola));
  });
  if (last < 1) return inner;
  if (last === 1) return [secant(0), secant(0)];
  // At the ends the slope of the parabola that leaves with the inner one.
  inner[0] = (3 * secant(0) - inner[1]!) / 2;
  inner[last] = (3 * secant(last - 1) - inner[last - 1]!) / 2;
  return inner;
}
