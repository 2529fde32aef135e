/** Numbers from 0 to 1, the same every time. */
export function seededRandom(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31;
}
