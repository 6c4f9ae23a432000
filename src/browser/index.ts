/**
 * Zealous Mantle in the browser: pictures fetched, figures painted on a canvas, input as intents, saves in IndexedDB.
 *
 * @module zealous-mantle/browser
 */

export {
  type CanvasPainter,
  canvasOf,
  canvasPainter,
  type PainterOptions,
} from "./canvas-painter.ts";
export { type FetchCatalogOptions, type FetchedCatalog, fetchCatalog } from "./fetch-catalog.ts";
export type { ServedPack } from "./served-folder.ts";
export { listServed, type ServedFiles } from "./list-served.ts";
export { type LiveCatalog, openLiveCatalog } from "./open-live-catalog.ts";
export { type FreshImageLoader, type ImageLoader, imageLoader } from "./image-loader.ts";
export { type Input, type InputOptions, isInputCaptured, openInput } from "./input/open-input.ts";
export {
  type Action,
  type Controls,
  type ControlsOptions,
  type KeyBinding,
  keyBindings,
  openControls,
  type Press,
} from "./input/open-controls.ts";
export { type Device, type Intent, IntentEvent, type Direction } from "./input/intent.ts";
export { type AutosaveOptions, autosave } from "./autosave.ts";
export { syncTabs } from "./sync-tabs.ts";
export { indexedStore } from "./indexed-store.ts";
export { type HttpStoreOptions, httpStore } from "./http-store.ts";
export { type AutosyncOptions, autosync, type SyncState } from "./autosync.ts";
export { subscribe } from "./subscribe.ts";
