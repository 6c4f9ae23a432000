/** A mask over so many values that has these. */
export function maskOf(size: number, values: Iterable<number>): Uint32Array {
  const mask = new Uint32Array(wordsFor(size));
  for (const value of values) mask[value >>> 5] = ((mask[value >>> 5] as number) | (1 << (value & 31))) >>> 0;
  return mask;
}

/** The values that a mask has, in order. */
export function numbersIn(mask: Uint32Array): readonly number[] {
  const numbers: number[] = [];
  for (let at = 0; at < mask.length; at += 1) {
    for (let left = mask[at] as number; left !== 0; left &= left - 1)
      numbers.push((at << 5) + 31 - Math.clz32(left & -left));
  }
  return numbers;
}

function wordsFor(size: number): number {
  return Math.max(1, Math.ceil(size / 32));
}
