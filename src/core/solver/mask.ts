/** A mask over so many values that has these. */
export function maskOf(size: number, values: Iterable<number>): Uint32Array {
  const mask = new Uint32Array(wordsFor(size));
  for (const value of values) mask[value >>> 5] = ((mask[value >>> 5] as number) | (1 << (value & 31))) >>> 0;
  return mask;
}

function wordsFor(size: number): number {
  return Math.max(1, Math.ceil(size / 32));
}
