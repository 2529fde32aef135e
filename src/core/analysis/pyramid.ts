/** Values along a length, with the least and the most of ever longer runs ready to be looked up. */
export interface Pyramid {
  /** `levels[k]` has one pair for each run of 2^k values; the first level is the values themselves. */
  readonly levels: readonly { readonly least: Float32Array; readonly most: Float32Array }[];
}

/**
 * Prepares values for being drawn at any zoom: each level halves the one before.
 */
export function buildPyramid(values: readonly number[]): Pyramid {
  const first = Float32Array.from(values);
  const levels = [{ least: first, most: first }];
  for (let below = levels[0]!; below.most.length > 1; below = levels.at(-1)!) {
    const length = Math.ceil(below.most.length / 2);
    const least = new Float32Array(length);
    const most = new Float32Array(length);
    for (let index = 0; index < length; index += 1) {
      const right = Math.min(index * 2 + 1, below.most.length - 1);
      least[index] = Math.min(below.least[index * 2]!, below.least[right]!);
      most[index] = Math.max(below.most[index * 2]!, below.most[right]!);
    }
    levels.push({ least, most });
  }
  return { levels };
}

/**
 * The most (or least) of the values under each column of a drawing.
 *
 * @param from - Position of the first column's left edge, in values; may lie between two, or outside.
 * @param to - Position of the last column's right edge.
 * @returns One value a column; NaN where there is none.
 */
export function readColumns(
  pyramid: Pyramid,
  from: number,
  to: number,
  columns: number,
  which: 'least' | 'most',
): Float32Array {
  const width = (to - from) / columns;
  const depth = Math.min(pyramid.levels.length - 1, Math.max(0, Math.floor(Math.log2(Math.max(1, width)))));
  const level = pyramid.levels[depth]![which];
  const run = 2 ** depth;
  const keep = which === 'most' ? Math.max : Math.min;
  const result = new Float32Array(columns).fill(NaN);
  for (let column = 0; column < columns; column += 1) {
    const first = Math.floor((from + column * width) / run);
    const last = Math.max(first, Math.ceil((from + (column + 1) * width) / run) - 1);
    let value = NaN;
    for (let index = Math.max(0, first); index <= Math.min(last, level.length - 1); index += 1) {
      value = Number.isNaN(value) ? level[index]! : keep(value, level[index]!);
    }
    result[column] = value;
  }
  return result;
}
