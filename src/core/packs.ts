/**
 * Packs: catalogs that are laid over another, expansions and mods. What is read with them is one catalog like any other.
 *
 * @module zealous-mantle/packs
 */

export { mergePacks, type Packs } from "./catalog/packs/merge-packs.ts";
export type { PackFiles } from "./catalog/packs/pack-files.ts";
export type { PackFragmentSource, PackSource } from "./catalog/schema/pack-schema.ts";
// Characters and the packs they come from
export { missingPacks } from "./character/needed-packs.ts";
export { compareSources } from "./survey/compare/compare-sources.ts";
export { mergedSources } from "./survey/compare/merged-sources.ts";
// What packs change, and whom they keep from being worn
export { excludedByPacks } from "./survey/excluded-by-packs.ts";
