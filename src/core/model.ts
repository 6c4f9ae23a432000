/**
 * Figures in three dimensions: a finished one is read and taken apart, and the figure of a look is put together. For tools, servers and
 * workers; all of it is plain data.
 *
 * @module zealous-mantle/model
 */

export { type AssembledModel, type AssembleOptions, assembleModel } from "./model/assemble-model.ts";
export { checkModels, type LoadModel } from "./model/check-models.ts";
export type { Choice, PieceChoice } from "./model/choice.ts";
export {
  type DrawModelOptions,
  drawModel,
  drawModelCrop,
  drawModelIcon,
  type ModelIconOptions,
} from "./model/draw-model.ts";
export { externalFiles } from "./model/external-files.ts";
export { fitSkeleton } from "./model/fit-skeleton.ts";
export type { ModelFile } from "./model/model-file.ts";
export { modelSheet } from "./model/model-sheet.ts";
export {
  type MeshChoices,
  type ModelPlan,
  type ModelPlanOptions,
  type PlannedClip,
  type PlannedMesh,
  planModel,
} from "./model/plan-model.ts";
export { channelsOf, prepareModel } from "./model/prepare-model.ts";
export type { PreparedModel } from "./model/prepared-model.ts";
export { type ModelReading, type Resources, readModel } from "./model/read-model.ts";
export type { SkeletonFit } from "./model/skeleton-fit.ts";
export { withKeyColors } from "./model/with-key-colors.ts";
