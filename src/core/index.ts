/**
 * Zealous Mantle: characters for games. In the order of use: read a catalog, make a character, edit it, judge it, draw it,
 * keep it.
 *
 * Plain data in, plain data out: no DOM, no Node, no randomness that is not seeded. What is used while a game is made, and rarely
 * in one that runs, is `zealous-mantle/authoring`.
 *
 * @module zealous-mantle
 */

// Findings: what every judgement returns
export {
  type ErrorCode,
  type Fix,
  MantleError,
  type Place,
  type Problem,
  type Severity,
} from "./base/problem.ts";
export type {
  FixCode,
  LoadoutMessages,
  Message,
  MessageCode,
  ArtCode,
  Messages,
  Param,
  Params,
  PhraseCode,
  ProblemCode,
  PartialMessages,
} from "./base/message.ts";
export { describeProblem, format, type EntityKind, type Titles } from "./base/format.ts";
export { catalogTitles } from "./catalog/titles.ts";

// Catalog: what there is
export { type Reading, type ReadOptions, readCatalog } from "./catalog/read/read-catalog.ts";
export type { CatalogSource, FragmentSource } from "./catalog/schema/schema.ts";
export type { Catalog, CatalogIds } from "./catalog/model/catalog.ts";
export { type Text, textIn } from "./base/text.ts";

// Character: what one player chose
export { type CreateOptions, createCharacter } from "./edits/create-character.ts";
export { createFromPreset } from "./edits/create-from-preset.ts";
export { type CharacterReading, readCharacter } from "./character/read-character.ts";
export { limits } from "./base/limits.ts";
export type { Character } from "./character/character.ts";
export { type MakeNameOptions, makeName } from "./character/make-name.ts";

// Holdings: what a player knows of and owns
export { type Purchase, purchase, type PurchaseOptions, reveal } from "./character/bag/purchase.ts";

// Edits: how it changes
export {
  type Fitting,
  type FittingChange,
  type FittingOptions,
  type FittingRoll,
  type FittingUpdate,
  openFitting,
} from "./create/fitting.ts";
export { applyEdit } from "./edits/apply-edit.ts";
export { editMessage } from "./edits/edit-message.ts";
export { type Changes, changesBetween } from "./character/changes.ts";
export type { Progress } from "./base/progress.ts";
export type { Situation } from "./character/situation.ts";
export type { Context, Holdings, NameLimits, Signal } from "./character/context.ts";
export type {
  Displaced,
  Edit,
  EditResult,
  Evidence,
  Appearance,
  LoadoutProblem,
  Subject,
} from "./character/edit.ts";

// Steps: one question at a time
export { openSteps, type Steps, type StepsOptions } from "./create/steps.ts";
export type { Choice } from "./create/choices.ts";
export {
  type Answer,
  type DroppedAnswer,
  type ProgressReading,
  readProgress,
  type StepState,
  type StepsProgress,
  type StepsResult,
} from "./create/progress.ts";

// Loadout: what may be worn, and what it does
export { checkLoadout } from "./loadout/check-loadout.ts";
export type {
  Repair,
  RepairLimits,
  RollKeep,
  RollOptions,
  SearchLimits,
  Solver,
  SolvingContext,
} from "./loadout/solver.ts";
export { allOptions, type Option, optionsFor, type StatChange } from "./loadout/options-for.ts";
export { type Stats, statsOf } from "./rules/stats.ts";
export { type Worn, wornParts } from "./rules/worn.ts";
export { countGear } from "./create/return-unowned.ts";

// Look: what it shows, and when
export { concealedGear } from "./edits/concealed-gear.ts";
export { type LookOptions, resolveLook } from "./look/resolve-look.ts";
export { type Signals, activeForms } from "./look/forms.ts";
export type { Cel, Look, LookLayer, LookMesh, Moment, Recolor } from "./look/look.ts";

// Color: characters distinguished
export { type Distinction, type DistinguishOptions, distinguish } from "./look/distinguish.ts";
export type { ColorVision } from "./base/color/difference.ts";

// Pixels: frames, portraits, icons
export { composeFrame } from "./raster/compose-frame.ts";
export { drawCrop } from "./raster/draw-crop.ts";
export { hitTest, type HitResult } from "./raster/hit-test.ts";
export { iconLook } from "./look/icon-look.ts";
export { drawIcon, type IconOptions } from "./raster/draw-icon.ts";
export type { Image, Images } from "./raster/image.ts";

// Play: the same character in every scene
export { openSession } from "./play/open-session.ts";
export { type Figure, type FigureOptions, type FrameEvent, type FigurePlacement, openFigure } from "./play/figure.ts";
export type { Painter, PictureSource, Placement } from "./look/painter.ts";
export type { FlushOptions } from "./play/profile.ts";
export type { Seat, Session, SessionEvents, SessionOptions, SessionUpdate } from "./play/session.ts";
export { type PlaceSeatsOptions, placeSeats, type Spawn } from "./play/place-seats.ts";
export { openPicker, type Picker, type PickerOptions } from "./play/picker.ts";
export type { Cursor, PickerEntry, PickRefusal, PickResult } from "./play/cursors.ts";
export { type PickPress, type PickSeatsOptions, pickSeats, type SeatPicking } from "./play/pick-seats.ts";
export type { CuePayload, CueOutcome, CueRefusal } from "./play/follow-cue.ts";

// Saves: what keeps it
export { type Generation, type Listing, memoryStore, type Store } from "./save/store.ts";
export {
  type FoundSave,
  type ReadSaveOptions,
  readSave,
  removeSave,
  type WriteSaveOptions,
  writeSave,
} from "./save/saves.ts";
export type { Json } from "./save/json.ts";
export type { Migration } from "./save/migrations.ts";
export { type SaveLocation, type Opened, decodeSave, encodeSave } from "./save/seal.ts";

// Codes: a look for a friend
export { readSharedLook, type SharedLook, shareLook } from "./save/share.ts";

// Packs: expansions and mods, over a catalog that is not touched
export { mergePacks, type Packs } from "./catalog/packs/merge-packs.ts";
export type { PackFiles } from "./catalog/packs/pack-files.ts";
export type { PackFragmentSource, PackSource } from "./catalog/schema/pack-schema.ts";
