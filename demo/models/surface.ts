/** Triangles, and where their corners lie, in pixels of the pictures. */
export interface Surface {
  /** x, y and z of each corner. */
  readonly positions: Float32Array;
  /** Three corners a triangle. */
  readonly triangles: Uint32Array;
}

/** A surface that is ready to be written: each corner with its direction, how open it lies, and the joints it follows. */
export interface FinishedSurface extends Surface {
  readonly normals: Float32Array;
  /** 0 in a fold to 1, a byte each. */
  readonly openness: Uint8Array;
  /** Four joints a corner by their numbers, and how much it follows each, bytes that are 255 together; none for what hangs. */
  readonly joints: Uint8Array | undefined;
  readonly weights: Uint8Array | undefined;
}

/** Keeps some of the triangles, and the corners they have. */
export function keepTriangles({ positions, triangles }: Surface, isKept: (triangle: number) => boolean): Surface {
  const kept: number[] = [];
  const places: number[] = [];
  const numbers = new Map<number, number>();
  for (let triangle = 0; triangle < triangles.length / 3; triangle += 1) {
    if (!isKept(triangle)) continue;
    for (let each = 0; each < 3; each += 1) {
      const corner = triangles[triangle * 3 + each] as number;
      const number = numbers.get(corner) ?? numbers.size;
      if (number === numbers.size) places.push(...positions.subarray(corner * 3, corner * 3 + 3));
      numbers.set(corner, number);
      kept.push(number);
    }
  }
  return { positions: Float32Array.from(places), triangles: Uint32Array.from(kept) };
}

/** Where the middle of a triangle lies. */
export function middleOf({ positions, triangles }: Surface, triangle: number): [number, number, number] {
  return [0, 1, 2].map((axis) => {
    let sum = 0;
    for (let each = 0; each < 3; each += 1)
      sum += positions[(triangles[triangle * 3 + each] as number) * 3 + axis] as number;
    return sum / 3;
  }) as [number, number, number];
}

/** Keeps some of the triangles of a finished surface; corners that nothing needs any more stay out. */
export function keepFinished(surface: FinishedSurface, isKept: (triangle: number) => boolean): FinishedSurface {
  const kept: number[] = [];
  const corners: number[] = [];
  const numbers = new Map<number, number>();
  for (let triangle = 0; triangle < surface.triangles.length / 3; triangle += 1) {
    if (!isKept(triangle)) continue;
    for (let each = 0; each < 3; each += 1) {
      const corner = surface.triangles[triangle * 3 + each] as number;
      const number = numbers.get(corner) ?? numbers.size;
      if (number === numbers.size) corners.push(corner);
      numbers.set(corner, number);
      kept.push(number);
    }
  }
  const picked = (all: ArrayLike<number>, size: number) =>
    corners.flatMap((corner) => Array.from({ length: size }, (_, at) => all[corner * size + at] as number));
  return {
    positions: Float32Array.from(picked(surface.positions, 3)),
    normals: Float32Array.from(picked(surface.normals, 3)),
    openness: Uint8Array.from(picked(surface.openness, 1)),
    joints: surface.joints && Uint8Array.from(picked(surface.joints, 4)),
    weights: surface.weights && Uint8Array.from(picked(surface.weights, 4)),
    triangles: Uint32Array.from(kept),
  };
}
