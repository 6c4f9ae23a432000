import { type CanvasPainter, canvasPainter } from "../browser/canvas-painter.ts";
import type { ImageLoader } from "../browser/image-loader.ts";
import { getOrInsert } from "../core/base/get-or-insert.ts";

const painters = new WeakMap<ImageLoader, CanvasPainter>();

/** The painter of a loader's pictures. All screens of a page share it, and so every frame that was drawn. */
export function painterOf(loader: ImageLoader): CanvasPainter {
  return getOrInsert(painters, loader, () => canvasPainter(loader.images));
}

/** The drawing context of a canvas. */
export function contextOf(canvas: HTMLCanvasElement): CanvasRenderingContext2D {
  const context = canvas.getContext("2d");
  if (context === null) throw new TypeError("This browser cannot draw on a canvas");
  return context;
}
