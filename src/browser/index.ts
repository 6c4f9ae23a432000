/** Zealous Mantle in the browser: pictures fetched, figures painted on a canvas, saves in IndexedDB. */

export { type CanvasPainter, canvasOf, canvasPainter, type PainterOptions, type Placement } from "./canvas-painter.ts";
export { type ImageLoader, imageLoader } from "./image-loader.ts";
export { indexedStore } from "./indexed-store.ts";
