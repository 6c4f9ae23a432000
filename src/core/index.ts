/**
 * Zealous Mantle: characters for games. In the order of use: read a catalog, make a character, edit it, judge it, draw it,
 * keep it.
 *
 * Plain data in, plain data out: no DOM, no Node, no randomness that is not seeded.
 */

// Catalog
export type * from "./catalog/catalog.ts";
export { type Reading, readCatalog } from "./catalog/read-catalog.ts";
export { type Text, textIn } from "./catalog/text.ts";
export { applyEdit } from "./character/apply-edit.ts";
// Character
export type { Character } from "./character/character.ts";
export { type CreateOptions, createCharacter } from "./character/create-character.ts";
export type { Displaced, Edit, EditContext, EditResult, LoadoutProblem } from "./character/edit.ts";
export { countGraphemes, nameLimit, tidyName } from "./character/name.ts";
export { type CharacterReading, readCharacter } from "./character/read-character.ts";
export { type Stats, statsOf } from "./character/stats.ts";
export { type Worn, wornParts } from "./character/worn.ts";
// Creation
export { type Fitting, openFitting } from "./create/fitting.ts";
export { countGear } from "./create/return-unowned.ts";
// Loadout
export { checkLoadout } from "./loadout/check-loadout.ts";
export { type Option, optionsFor, type StatChange } from "./loadout/options-for.ts";
export { type RollOptions, rollCharacter } from "./loadout/roll-character.ts";
export { celsAt, frameAt } from "./look/cels-at.ts";
export { checkArt } from "./look/check-art.ts";

// Look
export type { Cel, Look, LookLayer, Moment, Recolor } from "./look/look.ts";
export { recolorFor, resolveLook } from "./look/resolve-look.ts";
export type { SheetLayout } from "./look/sheet-layout.ts";
// Play
export { openSession, type Seat, type Session, type SessionOptions } from "./play/session.ts";
// Findings
export { describeProblem, type Fix, MantleError, type Place, type Problem, type Severity } from "./problem.ts";
export { type BakedFrame, type BakedSheet, type BakeOptions, bakeSheet, type FrameTable } from "./raster/bake-sheet.ts";
export { composeFrame } from "./raster/compose-frame.ts";
export { drawCrop } from "./raster/draw-crop.ts";
// Pixels
export { createImage, cropImage, enlargeImage, type Image, type Images, pasteImage } from "./raster/image.ts";
export { decodePng, encodePng } from "./raster/png.ts";
export { type FoundSave, readSave, writeSave } from "./save/saves.ts";
export { type Json, type Opened, openSave, sealSave } from "./save/seal.ts";
// Saves
export { memoryStore, type Store } from "./save/store.ts";
