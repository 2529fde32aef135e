/** Numbers from 0 to 1, the same every time; they come round again after two thousand million. */
export function seededRandom(seed: number): () => number {
  let state = seed;
  // In whole numbers of 32 bits: as fractions the products lose their last digits, and come round after ten thousand.
  return () => (state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fffffff) / 2 ** 31;
}
