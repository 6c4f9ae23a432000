/**
 * Characters on several devices: a store that is kept in agreement with a server's, works without it, and merges what both changed.
 *
 * @module zealous-mantle/sync
 */

export { receiveSave } from "./play/receive-save.ts";
export {
  type CharacterMerge,
  type MergeConflict,
  type MergeOptions,
  mergeCharacters,
  type Side,
} from "./save/merge/merge-characters.ts";
export { mergeSaved } from "./save/merge/merge-saved.ts";
export type { Versions } from "./save/merge/versions.ts";
// For a store of your own
export { addGeneration, conflictError } from "./save/store.ts";
export type { ReceivedSave, RefusedSave, SaveConflict, SyncEvents, SyncReport } from "./save/synced/sync-events.ts";
export { type SyncedStore, type SyncedStoreOptions, syncedStore } from "./save/synced/synced-store.ts";
