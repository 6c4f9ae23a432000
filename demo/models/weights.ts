import { between, shift, type Vector } from "../art/field.ts";
import type { Figure, Side } from "../art/figure.ts";

/** What a joint moves: the skin around a line of the bare figure. */
export interface Bone {
  readonly joint: string;
  readonly from: Vector;
  readonly to: Vector;
  readonly radius: number;
}

/** How sharply a surface bends: how much farther than the nearest bone another may be, to move it too. */
export type Softness = number;

/** Which joints a surface follows. */
export interface Follow {
  readonly joints: readonly string[];
  readonly softness: Softness;
  /** Below the hips it follows the legs, down to this height: skirts and tails of coats. */
  readonly hem?: number;
}

const sides: readonly Side[] = [0, 1];

/** The bones of a build at rest, by their joints. */
export function bonesOf({
  build,
  pelvis,
  belly,
  chest,
  neck,
  head,
  shoulder,
  elbow,
  hand,
  hip,
  knee,
  ankle,
}: Figure): ReadonlyMap<string, Bone> {
  const bone = (joint: string, from: Vector, to: Vector, radius: number): Bone => ({ joint, from, to, radius });
  const all = [
    bone("hips", shift(pelvis, 0, -3, 0), shift(pelvis, 0, 1, 0), build.pelvis[0]),
    bone("spine", shift(belly, 0, -2, 0), shift(belly, 0, 1, 0), build.belly[0]),
    bone("chest", shift(chest, 0, -3, 0), shift(chest, 0, 4, 0), build.chest[0]),
    bone("neck", shift(neck, 0, -1, 0), shift(neck, 0, 2, 0), 3),
    bone("head", shift(head, 0, -2, 0), shift(head, 0, 4, 0), 7),
    bone("tail", shift(head, 2, -8, -6), shift(head, 3, -20, -6), 3),
    bone("drape", shift(chest, 0, 0, -8), shift(pelvis, 0, -8, -10), 6),
    bone("bag", shift(pelvis, build.pelvis[0] + 3, -1, 0), shift(pelvis, build.pelvis[0] + 3, -6, 0), 3),
    ...sides.flatMap((side) => {
      const end = side === 0 ? "L" : "R";
      return [
        bone(`arm.${end}`, shoulder[side], elbow[side], build.upperArm[1]),
        bone(`forearm.${end}`, elbow[side], between(elbow[side], hand[side], 0.92), build.foreArm[1]),
        bone(`hand.${end}`, hand[side], between(elbow[side], hand[side], 1.3), build.hand),
        bone(`thigh.${end}`, shift(hip[side], 0, -1, 0), knee[side], build.thigh[1]),
        bone(`shin.${end}`, knee[side], shift(ankle[side], 0, 1.5, 0), build.shin[1]),
        bone(`foot.${end}`, ankle[side], shift(ankle[side], 0, -0.8, 4), build.shin[1]),
      ];
    }),
  ];
  return new Map(all.map((each) => [each.joint, each]));
}

/** How far a point lies from the skin of a bone. */
export function distanceTo({ from, to, radius }: Bone, x: number, y: number, z: number): number {
  const [bx, by, bz] = [to.x - from.x, to.y - from.y, to.z - from.z];
  const [px, py, pz] = [x - from.x, y - from.y, z - from.z];
  const along = Math.min(1, Math.max(0, (px * bx + py * by + pz * bz) / (bx * bx + by * by + bz * bz || 1)));
  return Math.hypot(px - bx * along, py - by * along, pz - bz * along) - radius;
}

/** How much a point follows each joint; together 1. */
export function weightsAt(
  follow: Follow,
  figure: Figure,
  bones: ReadonlyMap<string, Bone>,
  at: readonly number[],
): ReadonlyMap<string, number> {
  const [x = 0, y = 0, z = 0] = at;
  const away = follow.joints.flatMap((joint) => {
    const bone = bones.get(joint);
    return bone === undefined ? [] : [[joint, distanceTo(bone, x, y, z)] as const];
  });
  const nearest = Math.min(...away.map(([, distance]) => distance));
  const weights = new Map(away.map(([joint, distance]) => [joint, Math.exp(-(distance - nearest) / follow.softness)]));
  normalize(weights);
  if (follow.hem !== undefined) giveToLegs(weights, figure, follow.hem, x, y);
  const strongest = new Map(
    [...weights]
      .filter(([, weight]) => weight > 0.02)
      .sort(([, a], [, b]) => b - a)
      .slice(0, 4),
  );
  normalize(strongest);
  return strongest;
}

/** From the hips down to its hem a skirt follows the thighs more and more, each side its own. */
function giveToLegs(weights: Map<string, number>, { hip }: Figure, hem: number, x: number, y: number): void {
  const share = 1 - smoothstep(hem + 3, hip[0].y + 1, y);
  if (share <= 0) return;
  for (const [joint, weight] of weights) weights.set(joint, weight * (1 - share));
  const left = smoothstep(-5, 5, x);
  weights.set("thigh.L", (weights.get("thigh.L") ?? 0) + share * left);
  weights.set("thigh.R", (weights.get("thigh.R") ?? 0) + share * (1 - left));
}

export function smoothstep(from: number, to: number, value: number): number {
  const part = Math.min(1, Math.max(0, (value - from) / (to - from)));
  return part * part * (3 - 2 * part);
}

function normalize(weights: Map<string, number>): void {
  let sum = 0;
  for (const weight of weights.values()) sum += weight;
  for (const [joint, weight] of weights) weights.set(joint, weight / sum);
}
