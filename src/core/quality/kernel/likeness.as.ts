// AssemblyScript: how alike pictures are. Compiled as a part of pictures.as.ts.

import { bytesOf, eight, one } from './lanes.as';

/**
 * How alike two planes are (SSIM, Wang and others 2004) in windows of eight by eight, four apart: what all windows come to, added up.
 * Each window is four blocks, whose sums are kept in `room` for two rows of them. `c1` and `c2` are the constants for sums of 64 samples.
 */
function likeness<T>(
  master: usize,
  result: usize,
  stride: i32,
  width: i32,
  height: i32,
  c1: f32,
  c2: f32,
  room: usize,
): f64 {
  const blocks = width >> 2;
  const quantity = <usize>(blocks + 4) << 2;
  let above = room;
  let below = room + 4 * quantity;
  let sum: f64 = 0;
  for (let y = 0; y + 4 <= height; y += 4) {
    addBlocks<T>(master + bytesOf<T>(y * stride), result + bytesOf<T>(y * stride), stride, blocks, below, quantity);
    if (y > 0) sum += windowsOf(above, below, quantity, blocks - 1, c1, c2);
    const spare = above;
    above = below;
    below = spare;
  }
  return sum;
}

/** Sums of a row of blocks of four by four, one quantity after another: of the master, the result, their squares, their products. */
function addBlocks<T>(master: usize, result: usize, stride: i32, blocks: i32, sums: usize, quantity: usize): void {
  let block = 0;
  for (; block + 4 <= blocks; block += 4) {
    let a0 = i32x4.splat(0);
    let a1 = a0;
    let b0 = a0;
    let b1 = a0;
    let squares0 = a0;
    let squares1 = a0;
    let products0 = a0;
    let products1 = a0;
    for (let y = 0; y < 4; y++) {
      const at = bytesOf<T>(y * stride + block * 4);
      const m0 = eight<T>(master + at);
      const r0 = eight<T>(result + at);
      const m1 = eight<T>(master + at + bytesOf<T>(8));
      const r1 = eight<T>(result + at + bytesOf<T>(8));
      a0 = i32x4.add(a0, i32x4.dot_i16x8_s(m0, i16x8.splat(1)));
      a1 = i32x4.add(a1, i32x4.dot_i16x8_s(m1, i16x8.splat(1)));
      b0 = i32x4.add(b0, i32x4.dot_i16x8_s(r0, i16x8.splat(1)));
      b1 = i32x4.add(b1, i32x4.dot_i16x8_s(r1, i16x8.splat(1)));
      squares0 = i32x4.add(squares0, i32x4.add(i32x4.dot_i16x8_s(m0, m0), i32x4.dot_i16x8_s(r0, r0)));
      squares1 = i32x4.add(squares1, i32x4.add(i32x4.dot_i16x8_s(m1, m1), i32x4.dot_i16x8_s(r1, r1)));
      products0 = i32x4.add(products0, i32x4.dot_i16x8_s(m0, r0));
      products1 = i32x4.add(products1, i32x4.dot_i16x8_s(m1, r1));
    }
    const to = sums + (<usize>block << 2);
    v128.store(to, paired(a0, a1));
    v128.store(to + quantity, paired(b0, b1));
    v128.store(to + 2 * quantity, paired(squares0, squares1));
    v128.store(to + 3 * quantity, paired(products0, products1));
  }
  for (; block < blocks; block++) {
    let a: i32 = 0;
    let b: i32 = 0;
    let squares: i32 = 0;
    let products: i32 = 0;
    for (let y = 0; y < 4; y++) {
      for (let x = block * 4; x < block * 4 + 4; x++) {
        const m = one<T>(master + bytesOf<T>(y * stride + x));
        const r = one<T>(result + bytesOf<T>(y * stride + x));
        a += m;
        b += r;
        squares += m * m + r * r;
        products += m * r;
      }
    }
    const to = sums + (<usize>block << 2);
    store<i32>(to, a);
    store<i32>(to + quantity, b);
    store<i32>(to + 2 * quantity, squares);
    store<i32>(to + 3 * quantity, products);
  }
}

/** Each lane the sum of two neighbours. */
// @ts-ignore: decorator
@inline
function paired(low: v128, high: v128): v128 {
  return i32x4.add(v128.shuffle<i32>(low, high, 0, 2, 4, 6), v128.shuffle<i32>(low, high, 1, 3, 5, 7));
}

/** What the windows between two rows of blocks come to, added up. The last few fill no lanes of their own. */
function windowsOf(above: usize, below: usize, quantity: usize, windows: i32, c1: f32, c2: f32): f64 {
  let lanes = f32x4.splat(0);
  let window = 0;
  for (; window + 4 <= windows; window += 4) {
    lanes = f32x4.add(lanes, fourWindows(above, below, quantity, window, c1, c2));
  }
  let sum =
    <f64>f32x4.extract_lane(lanes, 0) +
    <f64>f32x4.extract_lane(lanes, 1) +
    <f64>f32x4.extract_lane(lanes, 2) +
    <f64>f32x4.extract_lane(lanes, 3);
  // Sums behind the last block are read, and not counted.
  const rest = fourWindows(above, below, quantity, window, c1, c2);
  if (window < windows) sum += <f64>f32x4.extract_lane(rest, 0);
  if (window + 1 < windows) sum += <f64>f32x4.extract_lane(rest, 1);
  if (window + 2 < windows) sum += <f64>f32x4.extract_lane(rest, 2);
  return sum;
}

/**
 * Four windows beside each other. Squares of sums lose their highest bits where samples have ten; their differences, which are
 * smaller, do not.
 */
// @ts-ignore: decorator
@inline
function fourWindows(above: usize, below: usize, quantity: usize, window: i32, c1: f32, c2: f32): v128 {
  const at = <usize>window << 2;
  const a = four(above + at, below + at);
  const b = four(above + at + quantity, below + at + quantity);
  const squares = four(above + at + 2 * quantity, below + at + 2 * quantity);
  const products = four(above + at + 3 * quantity, below + at + 3 * quantity);
  const spread = i32x4.sub(i32x4.sub(i32x4.shl(squares, 6), i32x4.mul(a, a)), i32x4.mul(b, b));
  const shared = f32x4.convert_i32x4_s(i32x4.sub(i32x4.shl(products, 6), i32x4.mul(a, b)));
  const meanA = f32x4.convert_i32x4_s(a);
  const meanB = f32x4.convert_i32x4_s(b);
  const both = f32x4.mul(meanA, meanB);
  const alike = f32x4.mul(
    f32x4.add(f32x4.add(both, both), f32x4.splat(c1)),
    f32x4.add(f32x4.add(shared, shared), f32x4.splat(c2)),
  );
  const most = f32x4.mul(
    f32x4.add(f32x4.add(f32x4.mul(meanA, meanA), f32x4.mul(meanB, meanB)), f32x4.splat(c1)),
    f32x4.add(f32x4.convert_i32x4_u(spread), f32x4.splat(c2)),
  );
  return f32x4.div(alike, most);
}

/** Of four windows beside each other the sum of their blocks. */
// @ts-ignore: decorator
@inline
function four(above: usize, below: usize): v128 {
  return i32x4.add(
    i32x4.add(v128.load(above), v128.load(above + 4)),
    i32x4.add(v128.load(below), v128.load(below + 4)),
  );
}

export function likeness1(
  master: usize,
  result: usize,
  stride: i32,
  width: i32,
  height: i32,
  c1: f32,
  c2: f32,
  room: usize,
): f64 {
  return likeness<u8>(master, result, stride, width, height, c1, c2, room);
}

export function likeness2(
  master: usize,
  result: usize,
  stride: i32,
  width: i32,
  height: i32,
  c1: f32,
  c2: f32,
  room: usize,
): f64 {
  return likeness<u16>(master, result, stride, width, height, c1, c2, room);
}
