import type { Accessor } from "@gltf-transform/core";

/**
 * All numbers of an accessor, element by element: the array it has where that says them as they are, and else what its whole numbers stand for.
 *
 * Not changed by who reads it.
 */
export function numbersOf(accessor: Accessor): ArrayLike<number> {
  const array = accessor.getArray() ?? new Float32Array(0);
  if (!accessor.getNormalized()) return array;
  const size = accessor.getElementSize();
  const all = new Float32Array(array.length);
  const element: number[] = [];
  for (let at = 0; at < accessor.getCount(); at += 1) all.set(accessor.getElement(at, element), at * size);
  return all;
}
