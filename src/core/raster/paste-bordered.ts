import type { Rectangle } from "../catalog/model/catalog.ts";
import type { Image } from "./image.ts";

/**
 * Copies a part of a picture into another, and around it a border in which its outermost pixels are repeated.
 *
 * @param x - the upper left corner of the border; y likewise. All of it has to lie in the target.
 */
export function pasteBordered(
  target: Image,
  picture: Image,
  from: Rectangle,
  x: number,
  y: number,
  border: number,
): void {
  const pixels = new Uint32Array(target.data.buffer, target.data.byteOffset, target.width * target.height);
  const source = new Uint32Array(picture.data.buffer, picture.data.byteOffset, picture.width * picture.height);
  const [across, down] = [from.width + 2 * border, from.height + 2 * border];
  for (let row = 0; row < down; row += 1) {
    const start = (y + row) * target.width + x;
    const of = (from.y + within(row - border, from.height)) * picture.width + from.x;
    for (let column = 0; column < across; column += 1)
      pixels[start + column] = source[of + within(column - border, from.width)] as number;
  }
}

function within(at: number, length: number): number {
  return Math.max(0, Math.min(length - 1, at));
}
