import { artFinding } from "../art/found.ts";
import { message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import type { Choice } from "./choice.ts";
import { gapBetween, type Piece, type Pieces, variations } from "./find-pieces.ts";
import type { SkeletonFit } from "./skeleton-fit.ts";

/** A mesh, and what becomes of it. */
export interface Chosen {
  readonly piece: Piece;
  /** `null` leaves it out. */
  readonly choice: Choice | null | undefined;
}

/** What is wrong with the figure as a whole. */
export function reportWhole(file: string, { pieces, joints, idle }: Pieces, problems: Problem[]): void {
  if (pieces.length === 0) problems.push(artFinding(file, "error", message("no-meshes"), message("export-again")));
  else if (joints.length === 0)
    problems.push(artFinding(file, "error", message("no-skeleton"), message("export-again")));
  if (idle.length > 0 && joints.length > 0)
    problems.push(artFinding(file, "warning", message("idle-joints", { joints: idle })));
}

/** What is wrong with a mesh, and what becomes of it that nobody asked for. */
export function reportPiece(file: string, piece: Piece, choice: Choice | undefined, problems: Problem[]): void {
  const named = { mesh: piece.name };
  if (piece.isForeign)
    problems.push(artFinding(file, "error", message("other-skeleton", named), message("mend-other-skeleton")));
  if (piece.skin === undefined && piece.hangsOn === undefined)
    problems.push(artFinding(file, "error", message("mesh-on-nothing", named), message("mend-mesh-on-nothing")));
  if (piece.hangsOn !== undefined)
    problems.push(artFinding(file, "warning", message("prop-on-joint", { ...named, joint: piece.hangsOn.getName() })));
  if (choice !== undefined) return;
  const entry = `${JSON.stringify(piece.name)}: { "slot": "…" }`;
  problems.push(artFinding(file, "error", message("no-slot-for-mesh", named), message("say-piece", { entry })));
}

/** Parts that hang in the air without another, and those of which one is worn at a time. */
export function reportAlone(file: string, chosen: readonly Chosen[], problems: Problem[]): void {
  const skin = chosen.filter(({ choice }) => choice?.kind === "region").map(({ piece }) => piece);
  const parts = chosen.flatMap(({ piece, choice }) => (choice?.kind === "part" ? [{ piece, choice }] : []));
  const height = heightOf(chosen.map(({ piece }) => piece));
  const touches = (one: Piece, other: Piece) => gapBetween(one.box, other.box) <= height * 0.01;
  for (const { piece, choice } of skin.length === 0 ? [] : parts) {
    if (piece.hangsOn !== undefined || skin.some((each) => touches(piece, each))) continue;
    const near = parts.find((each) => each.piece !== piece && touches(piece, each.piece));
    if (near === undefined) continue;
    const rule = JSON.stringify({ if: `part:${choice.part}`, needs: `part:${near.choice.part}` });
    const finding = message("piece-alone", { mesh: piece.name, near: near.piece.name });
    problems.push(artFinding(file, "warning", finding, message("mend-piece-alone", { rule })));
  }
  for (const group of variations(parts.map(({ piece }) => piece)))
    problems.push(artFinding(file, "warning", message("alternatives", { meshes: group.map(({ name }) => name) })));
}

/**
 * How a figure fits the skeleton of a rig.
 *
 * @param twisted - joints with other axes, where the figure was to be bound to the rig; `undefined` where it was not.
 */
export function reportFit(
  file: string,
  rig: string,
  fit: SkeletonFit,
  twisted: readonly string[] | undefined,
  problems: Problem[],
): void {
  if (fit.kind === "missing") {
    const finding = message("skeleton-misses", { rig, joints: fit.joints });
    problems.push(artFinding(file, "error", finding, message("mend-skeleton-misses")));
  } else if (fit.kind === "posed") {
    const [degrees, units] = [Math.round(fit.degrees * 10) / 10, Math.round(fit.units * 1000) / 1000];
    const params = { rig, joint: fit.joint, degrees, units };
    if (twisted === undefined)
      problems.push(artFinding(file, "error", message("skeleton-posed", params), message("say-rebind")));
    else if (twisted.length === 0) problems.push(artFinding(file, "warning", message("skeleton-rebound", params)));
    else {
      const finding = message("skeleton-twisted", { rig, joints: twisted });
      problems.push(artFinding(file, "error", finding, message("mend-skeleton-posed")));
    }
  } else if (fit.kind === "renamed")
    problems.push(artFinding(file, "warning", message("skeleton-renamed", { rig, joints: [...fit.names.keys()] })));
}

/** How tall pieces are together, in units of the model. */
export function heightOf(pieces: readonly Piece[]): number {
  const [top, bottom] = [pieces.map(({ box }) => box.max[1] ?? 0), pieces.map(({ box }) => box.min[1] ?? 0)];
  return Math.max(...top) - Math.min(...bottom);
}
