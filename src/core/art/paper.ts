import { createImage, type Image, pasteImage } from "../raster/image.ts";
import { swapRedAndBlue } from "../raster/sheet.ts";

/** The colors of contact sheets. */
export const paper = { sheet: 0xf4ecdc, cell: 0xe7dcc4, ink: 0x16323a, faint: 0x6d5a3c };

/** Fills a rectangle of a picture with a color `0xRRGGBB`. */
export function fill(image: Image, x: number, y: number, width: number, height: number, color: number): void {
  const piece = createImage(width, height);
  new Uint32Array(piece.data.buffer).fill((0xff000000 | swapRedAndBlue(color)) >>> 0);
  pasteImage(image, piece, x, y);
}
