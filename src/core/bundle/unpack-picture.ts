import type { Rectangle } from "../catalog/model/catalog.ts";
import type { Image } from "../raster/image.ts";
import { createImage } from "../raster/image.ts";
import { badBundle, type PageCells } from "./bundle.ts";

/** A page that has come, and where the cells of pictures are on it. */
export interface OpenPage {
  readonly image: Image;
  readonly cells: PageCells;
}

/** How many numbers a picture begins with, and how many say where a cell is. */
const [head, each] = [2, 6];

/**
 * Puts a picture together from the pages it is on, as it was but for what no layer shows.
 *
 * @throws MantleError `bad-bundle` where the pages do not have it, or not all of it; `picture-too-large`.
 */
export function unpackPicture(path: string, pages: readonly OpenPage[]): Image {
  const own = pages.flatMap(({ image, cells }) => {
    const list = Object.hasOwn(cells, path) ? cells[path] : undefined;
    return list === undefined ? [] : [{ image, list }];
  });
  const [width = 0, height = 0] = own[0]?.list ?? [];
  const isWhole = own.every(({ list }) => (list.length - head) % each === 0 && list.every(Number.isSafeInteger));
  if (own.length === 0 || !isWhole) throw badBundle(`it does not say where "${path}" is`);
  const picture = createImage(width, height);
  const drawn: Rectangle[] = [];
  for (const { image, list } of own) {
    const from = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
    const to = new Uint32Array(picture.data.buffer);
    for (let at = head; at < list.length; at += each) {
      const [x, y, across, down, left, top] = list.slice(at, at + each) as [
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      const isInside = x >= 0 && y >= 0 && x + across <= width && y + down <= height;
      const isThere = left >= 0 && top >= 0 && left + across <= image.width && top + down <= image.height;
      if (!isInside || !isThere) throw badBundle(`a part of "${path}" lies outside of its page`);
      for (let row = 0; row < down; row += 1) {
        const start = (top + row) * image.width + left;
        to.set(from.subarray(start, start + across), (y + row) * width + x);
      }
      drawn.push({ x, y, width: across, height: down });
    }
  }
  return { ...picture, drawn };
}
