// AssemblyScript, compiled by `npm run kernel`: sums over the samples of pictures, eight or sixteen at a time. Each sum is there for samples
// of one byte and of two; places are in bytes, everything else in samples. What each sum means is said where it is used, in
// ../pictureSums.ts.

import { apart, bytesOf, eight, held, lanesOf, one, squared, summed } from './lanes.as';

export { likeness1, likeness2 } from './likeness.as';

/** All samples added up. */
function total<T>(plane: usize, count: i32): f64 {
  let sum: f64 = 0;
  let i = 0;
  while (i + held<T>() <= count) {
    // So few that thirty-two bits hold them.
    const stop = min(count - held<T>() + 1, i + 65536);
    let lanes = i32x4.splat(0);
    for (; i < stop; i += held<T>()) lanes = i32x4.add(lanes, summed<T>(v128.load(plane + bytesOf<T>(i))));
    sum += lanesOf(lanes);
  }
  for (; i < count; i++) sum += <f64>one<T>(plane + bytesOf<T>(i));
  return sum;
}

/** Squared differences of a block, added up. */
function squares<T>(master: usize, result: usize, stride: i32, width: i32, height: i32): f64 {
  let sum: f64 = 0;
  for (let y = 0; y < height; y++) {
    const a = master + bytesOf<T>(y * stride);
    const b = result + bytesOf<T>(y * stride);
    let lanes = i32x4.splat(0);
    let x = 0;
    for (; x + held<T>() <= width; x += held<T>()) {
      lanes = i32x4.add(lanes, squared<T>(apart<T>(v128.load(a + bytesOf<T>(x)), v128.load(b + bytesOf<T>(x)))));
    }
    let rest: i32 = 0;
    for (; x < width; x++) {
      const difference = one<T>(a + bytesOf<T>(x)) - one<T>(b + bytesOf<T>(x));
      rest += difference * difference;
    }
    sum += lanesOf(lanes) + <f64>rest;
  }
  return sum;
}

/**
 * Magnitudes of 12 in the middle, −2 beside, −1 across, added up; neighbours lie `step` away. Down a strip of eight columns each
 * row is read once: above and below it, it counts −1, −2, −1.
 */
function detail<T>(plane: usize, stride: i32, width: i32, height: i32, step: i32): f64 {
  let sum: f64 = 0;
  const side = bytesOf<T>(step);
  const down = bytesOf<T>(step * stride);
  let x = 0;
  for (; x + 8 <= width; x += 8) {
    let lanes = i32x4.splat(0);
    for (let first = 0; first < step; first++) {
      let at = plane + bytesOf<T>(first * stride + x);
      let above = rim<T>(at - down, side);
      let beside = i16x8.add(eight<T>(at - side), eight<T>(at + side));
      let middle = eight<T>(at);
      for (let y = first; y < height; y += step) {
        at += down;
        const nextBeside = i16x8.add(eight<T>(at - side), eight<T>(at + side));
        const nextMiddle = eight<T>(at);
        const below = i16x8.add(nextBeside, i16x8.shl(nextMiddle, 1));
        const own = i16x8.sub(i16x8.mul(middle, i16x8.splat(12)), i16x8.shl(beside, 1));
        const answer = i16x8.sub(own, i16x8.add(above, below));
        lanes = i32x4.add(lanes, i32x4.extadd_pairwise_i16x8_s(i16x8.abs(answer)));
        above = i16x8.add(beside, i16x8.shl(middle, 1));
        beside = nextBeside;
        middle = nextMiddle;
      }
    }
    sum += lanesOf(lanes);
  }
  for (; x < width; x++) {
    for (let y = 0; y < height; y++) {
      const at = plane + bytesOf<T>(y * stride + x);
      const beside = one<T>(at - side) + one<T>(at + side) + one<T>(at - down) + one<T>(at + down);
      const across =
        one<T>(at - down - side) + one<T>(at - down + side) + one<T>(at + down - side) + one<T>(at + down + side);
      sum += <f64>abs(12 * one<T>(at) - 2 * beside - across);
    }
  }
  return sum;
}

/** Magnitudes of a block's change since the picture before, added up. */
function change<T>(now: usize, before: usize, stride: i32, width: i32, height: i32): f64 {
  let sum: f64 = 0;
  for (let y = 0; y < height; y++) {
    const a = now + bytesOf<T>(y * stride);
    const b = before + bytesOf<T>(y * stride);
    let lanes = i32x4.splat(0);
    let x = 0;
    for (; x + held<T>() <= width; x += held<T>()) {
      lanes = i32x4.add(lanes, summed<T>(apart<T>(v128.load(a + bytesOf<T>(x)), v128.load(b + bytesOf<T>(x)))));
    }
    let rest: i32 = 0;
    for (; x < width; x++) rest += abs(one<T>(a + bytesOf<T>(x)) - one<T>(b + bytesOf<T>(x)));
    sum += lanesOf(lanes) + <f64>rest;
  }
  return sum;
}

/** Magnitudes of what changed of the change, over three pictures, added up. */
function changeOfChange<T>(
  now: usize,
  before: usize,
  beforeThat: usize,
  stride: i32,
  width: i32,
  height: i32,
): f64 {
  let sum: f64 = 0;
  for (let y = 0; y < height; y++) {
    const row = bytesOf<T>(y * stride);
    let lanes = i32x4.splat(0);
    let x = 0;
    for (; x + 8 <= width; x += 8) {
      const at = row + bytesOf<T>(x);
      const ends = i16x8.add(eight<T>(now + at), eight<T>(beforeThat + at));
      const answer = i16x8.sub(ends, i16x8.shl(eight<T>(before + at), 1));
      lanes = i32x4.add(lanes, i32x4.extadd_pairwise_i16x8_s(i16x8.abs(answer)));
    }
    let rest: i32 = 0;
    for (; x < width; x++) {
      const at = row + bytesOf<T>(x);
      rest += abs(one<T>(now + at) - 2 * one<T>(before + at) + one<T>(beforeThat + at));
    }
    sum += lanesOf(lanes) + <f64>rest;
  }
  return sum;
}

/** A row as it counts for the row above and below it. */
// @ts-ignore: decorator
@inline
function rim<T>(at: usize, side: usize): v128 {
  return i16x8.add(i16x8.add(eight<T>(at - side), eight<T>(at + side)), i16x8.shl(eight<T>(at), 1));
}

// What can be called: generic sums cannot be exported, so each is named by the bytes of its samples.

export function total1(plane: usize, count: i32): f64 {
  return total<u8>(plane, count);
}

export function total2(plane: usize, count: i32): f64 {
  return total<u16>(plane, count);
}

export function squares1(master: usize, result: usize, stride: i32, width: i32, height: i32): f64 {
  return squares<u8>(master, result, stride, width, height);
}

export function squares2(master: usize, result: usize, stride: i32, width: i32, height: i32): f64 {
  return squares<u16>(master, result, stride, width, height);
}

export function detail1(plane: usize, stride: i32, width: i32, height: i32, step: i32): f64 {
  return detail<u8>(plane, stride, width, height, step);
}

export function detail2(plane: usize, stride: i32, width: i32, height: i32, step: i32): f64 {
  return detail<u16>(plane, stride, width, height, step);
}

export function change1(now: usize, before: usize, stride: i32, width: i32, height: i32): f64 {
  return change<u8>(now, before, stride, width, height);
}

export function change2(now: usize, before: usize, stride: i32, width: i32, height: i32): f64 {
  return change<u16>(now, before, stride, width, height);
}

export function changeOfChange1(now: usize, before: usize, beforeThat: usize, stride: i32, width: i32, height: i32): f64 {
  return changeOfChange<u8>(now, before, beforeThat, stride, width, height);
}

export function changeOfChange2(now: usize, before: usize, beforeThat: usize, stride: i32, width: i32, height: i32): f64 {
  return changeOfChange<u16>(now, before, beforeThat, stride, width, height);
}
