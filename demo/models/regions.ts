import { bodyPieces } from "../art/body.ts";
import type { Figure } from "../art/figure.ts";
import { linen, skin } from "../art/material.ts";
import type { Piece } from "../art/render.ts";
import { handOf } from "./hands.ts";
import { type Bone, distanceTo, type Follow } from "./weights.ts";

/** The regions of a body that clothes can hide, by the joint whose skin they are. */
const regionOf: Readonly<Record<string, string>> = {
  head: "head",
  neck: "head",
  chest: "torso",
  spine: "torso",
  hips: "torso",
  arm: "upper-arms",
  forearm: "forearms",
  hand: "hands",
  thigh: "thighs",
  shin: "shins",
  foot: "feet",
};

/** The bare figure, piece by piece, with hands that have fingers. */
export function skinPieces(figure: Figure): readonly Piece[] {
  return bodyPieces(figure).map((piece) => {
    if (piece.limb === "arm-left") return { ...piece, field: handOf(figure, 0) };
    if (piece.limb === "arm-right") return { ...piece, field: handOf(figure, 1) };
    return piece;
  });
}

/** Which region a place of a piece belongs to. */
export function regionAt(
  { material }: Piece,
  { joints }: Follow,
  bones: ReadonlyMap<string, Bone>,
  at: readonly [number, number, number],
): string {
  let [nearest, region] = [Number.POSITIVE_INFINITY, "torso"];
  for (const joint of joints) {
    const bone = bones.get(joint);
    const away = bone === undefined ? Number.POSITIVE_INFINITY : distanceTo(bone, ...at);
    if (away < nearest) [nearest, region] = [away, regionOf[joint.replace(/\..*/, "")] ?? region];
  }
  if (material !== linen) return region;
  return region === "thighs" || at[1] < (bones.get("hips")?.to.y ?? 0) ? "shorts" : "linen";
}

/** What the skin of a piece follows. */
export function skinFollow({ material, limb = "trunk" }: Piece): Follow {
  if (limb === "arm-left" || limb === "arm-right") {
    const end = limb === "arm-left" ? "L" : "R";
    return { joints: ["chest", `arm.${end}`, `forearm.${end}`, `hand.${end}`], softness: 0.9 };
  }
  if (limb === "leg-left" || limb === "leg-right") {
    const end = limb === "leg-left" ? "L" : "R";
    return { joints: ["hips", `thigh.${end}`, `shin.${end}`, `foot.${end}`], softness: 0.9 };
  }
  if (material === skin) return { joints: ["hips", "spine", "chest", "neck", "head"], softness: 1.6 };
  return { joints: ["hips", "spine", "chest", "thigh.L", "thigh.R"], softness: 1.2 };
}
