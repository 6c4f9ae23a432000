/** Zealous Mantle in the browser: pictures fetched, figures painted on a canvas, input as intents, saves in IndexedDB. */

export { type CanvasPainter, canvasOf, canvasPainter, type PainterOptions, type Placement } from "./canvas-painter.ts";
export { type ImageLoader, imageLoader } from "./image-loader.ts";
export { type Input, type InputOptions, isInputTaken, openInput } from "./input/open-input.ts";
export { type Device, type Intent, IntentEvent, type Way } from "./input/intent.ts";
export { indexedStore } from "./indexed-store.ts";
