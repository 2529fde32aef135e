// AssemblyScript: how samples of one byte or two are read and added, eight or sixteen at a time. Places are in bytes, all else in samples.

// @ts-ignore: decorator
@inline
export function bytesOf<T>(samples: i32): usize {
  return <usize>samples * sizeof<T>();
}

// @ts-ignore: decorator
@inline
export function one<T>(at: usize): i32 {
  return <i32>load<T>(at);
}

/** Samples that are read at once. */
// @ts-ignore: decorator
@inline
export function held<T>(): i32 {
  return 16 / sizeof<T>();
}

/** How far samples lie apart, each from its counterpart. */
// @ts-ignore: decorator
@inline
export function apart<T>(these: v128, those: v128): v128 {
  return v128.sub<T>(v128.max<T>(these, those), v128.min<T>(these, those));
}

// @ts-ignore: decorator
@inline
export function summed<T>(samples: v128): v128 {
  return i32x4.extadd_pairwise_i16x8_u(sizeof<T>() == 1 ? i16x8.extadd_pairwise_i8x16_u(samples) : samples);
}

// @ts-ignore: decorator
@inline
export function squared<T>(samples: v128): v128 {
  if (sizeof<T>() == 2) return i32x4.dot_i16x8_s(samples, samples);
  const low = i16x8.extend_low_i8x16_u(samples);
  const high = i16x8.extend_high_i8x16_u(samples);
  return i32x4.add(i32x4.dot_i16x8_s(low, low), i32x4.dot_i16x8_s(high, high));
}

/** Eight samples, of two bytes each from here on. */
// @ts-ignore: decorator
@inline
export function eight<T>(at: usize): v128 {
  return sizeof<T>() == 1 ? v128.load8x8_u(at) : v128.load(at);
}

// @ts-ignore: decorator
@inline
export function lanesOf(lanes: v128): f64 {
  const pairs = i64x2.add(i64x2.extend_low_i32x4_u(lanes), i64x2.extend_high_i32x4_u(lanes));
  return <f64>(i64x2.extract_lane(pairs, 0) + i64x2.extract_lane(pairs, 1));
}
