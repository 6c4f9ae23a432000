import { documentOf } from "./documents.ts";
import { findPieces } from "./find-pieces.ts";
import { fitJoints } from "./fit-joints.ts";
import type { ModelFile } from "./model-file.ts";
import type { SkeletonFit } from "./skeleton-fit.ts";

/**
 * Says how a figure, or a part of one, fits the skeleton of another: its joints are the same, some of them, called otherwise, resting otherwise,
 * or missing. Names that mean the same are found: `Hand.L` and `left_hand`.
 *
 * @example
 * fitSkeleton(coat, courier) // → { kind: "posed", joint: "arm.L", degrees: 30, units: 0.05 }
 */
export function fitSkeleton(model: ModelFile, other: ModelFile): SkeletonFit {
  return fitJoints(findPieces(documentOf(model)).joints, documentOf(other));
}
