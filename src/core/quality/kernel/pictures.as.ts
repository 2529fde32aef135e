// AssemblyScript, compiled by `npm run kernel`: sums over the samples of pictures, eight at a time. Samples have two bytes
// each; places are in bytes, everything else in samples. What each sum means is said where it is used, in ../pictureSums.ts.

/** Bytes to samples of two bytes. */
export function widen(from: usize, to: usize, count: i32): void {
  let i = 0;
  for (; i + 8 <= count; i += 8) {
    v128.store(to + (<usize>i << 1), v128.load8x8_u(from + i));
  }
  for (; i < count; i++) store<u16>(to + (<usize>i << 1), load<u8>(from + i));
}

/** All samples added up. */
export function total(plane: usize, count: i32): f64 {
  let sum: f64 = 0;
  let i = 0;
  while (i + 8 <= count) {
    // So few that thirty-two bits hold them.
    const stop = min(count - 7, i + 65536);
    let lanes = i32x4.splat(0);
    for (; i < stop; i += 8) lanes = i32x4.add(lanes, i32x4.extadd_pairwise_i16x8_u(v128.load(plane + (<usize>i << 1))));
    sum += lanesOf(lanes);
  }
  for (; i < count; i++) sum += <f64>load<u16>(plane + (<usize>i << 1));
  return sum;
}

/** Squared differences of a block, added up. */
export function squares(one: usize, other: usize, stride: i32, width: i32, height: i32): f64 {
  let sum: f64 = 0;
  for (let y = 0; y < height; y++) {
    const a = one + (<usize>(y * stride) << 1);
    const b = other + (<usize>(y * stride) << 1);
    let lanes = i32x4.splat(0);
    let x = 0;
    for (; x + 8 <= width; x += 8) {
      const difference = i16x8.sub(v128.load(a + (<usize>x << 1)), v128.load(b + (<usize>x << 1)));
      lanes = i32x4.add(lanes, i32x4.dot_i16x8_s(difference, difference));
    }
    let rest: i32 = 0;
    for (; x < width; x++) {
      const difference = <i32>load<u16>(a + (<usize>x << 1)) - <i32>load<u16>(b + (<usize>x << 1));
      rest += difference * difference;
    }
    sum += lanesOf(lanes) + <f64>rest;
  }
  return sum;
}

/** Magnitudes of 12 in the middle, −2 beside, −1 across, added up; neighbours lie `step` away. */
export function detail(plane: usize, stride: i32, width: i32, height: i32, step: i32): f64 {
  let sum: f64 = 0;
  const side = <usize>step << 1;
  const down = <usize>(step * stride) << 1;
  for (let y = 0; y < height; y++) {
    const row = plane + (<usize>(y * stride) << 1);
    let lanes = i32x4.splat(0);
    let x = 0;
    for (; x + 8 <= width; x += 8) {
      const at = row + (<usize>x << 1);
      const beside = i16x8.add(
        i16x8.add(v128.load(at - side), v128.load(at + side)),
        i16x8.add(v128.load(at - down), v128.load(at + down)),
      );
      const across = i16x8.add(
        i16x8.add(v128.load(at - down - side), v128.load(at - down + side)),
        i16x8.add(v128.load(at + down - side), v128.load(at + down + side)),
      );
      const middle = i16x8.mul(v128.load(at), i16x8.splat(12));
      const answer = i16x8.sub(i16x8.sub(middle, i16x8.shl(beside, 1)), across);
      lanes = i32x4.add(lanes, i32x4.extadd_pairwise_i16x8_s(i16x8.abs(answer)));
    }
    let rest: i32 = 0;
    for (; x < width; x++) {
      const at = row + (<usize>x << 1);
      const beside = one(at - side) + one(at + side) + one(at - down) + one(at + down);
      const across = one(at - down - side) + one(at - down + side) + one(at + down - side) + one(at + down + side);
      rest += <i32>abs(12 * one(at) - 2 * beside - across);
    }
    sum += lanesOf(lanes) + <f64>rest;
  }
  return sum;
}

/** Magnitudes of a block's change since the picture before, added up. */
export function change(now: usize, before: usize, stride: i32, width: i32, height: i32): f64 {
  let sum: f64 = 0;
  for (let y = 0; y < height; y++) {
    const a = now + (<usize>(y * stride) << 1);
    const b = before + (<usize>(y * stride) << 1);
    let lanes = i32x4.splat(0);
    let x = 0;
    for (; x + 8 <= width; x += 8) {
      const difference = i16x8.sub(v128.load(a + (<usize>x << 1)), v128.load(b + (<usize>x << 1)));
      lanes = i32x4.add(lanes, i32x4.extadd_pairwise_i16x8_s(i16x8.abs(difference)));
    }
    let rest: i32 = 0;
    for (; x < width; x++) rest += <i32>abs(one(a + (<usize>x << 1)) - one(b + (<usize>x << 1)));
    sum += lanesOf(lanes) + <f64>rest;
  }
  return sum;
}

/** Magnitudes of what changed of the change, over three pictures, added up. */
export function changeOfChange(
  now: usize,
  before: usize,
  beforeThat: usize,
  stride: i32,
  width: i32,
  height: i32,
): f64 {
  let sum: f64 = 0;
  for (let y = 0; y < height; y++) {
    const row = <usize>(y * stride) << 1;
    let lanes = i32x4.splat(0);
    let x = 0;
    for (; x + 8 <= width; x += 8) {
      const at = row + (<usize>x << 1);
      const ends = i16x8.add(v128.load(now + at), v128.load(beforeThat + at));
      const answer = i16x8.sub(ends, i16x8.shl(v128.load(before + at), 1));
      lanes = i32x4.add(lanes, i32x4.extadd_pairwise_i16x8_s(i16x8.abs(answer)));
    }
    let rest: i32 = 0;
    for (; x < width; x++) {
      const at = row + (<usize>x << 1);
      rest += <i32>abs(one(now + at) - 2 * one(before + at) + one(beforeThat + at));
    }
    sum += lanesOf(lanes) + <f64>rest;
  }
  return sum;
}

// @ts-ignore: decorator
@inline
function one(at: usize): i32 {
  return <i32>load<u16>(at);
}

// @ts-ignore: decorator
@inline
function lanesOf(lanes: v128): f64 {
  const pairs = i64x2.add(i64x2.extend_low_i32x4_u(lanes), i64x2.extend_high_i32x4_u(lanes));
  return <f64>(i64x2.extract_lane(pairs, 0) + i64x2.extract_lane(pairs, 1));
}
