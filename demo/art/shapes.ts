import { above, between, both, ellipsoid, type Field, inflate, roundCone, shift, smooth, union } from "./field.ts";
import type { Figure, Side } from "./figure.ts";
import type { Material } from "./material.ts";
import type { Piece } from "./render.ts";

/** The forms of the bare figure that clothes are hung on. `more` makes each that many pixels fatter. */

export function headShape({ head }: Figure, more = 0): Field {
  return inflate(
    smooth(3, ellipsoid(shift(head, 0, 0.6, -0.2), 7.9, 7.7, 7.7), ellipsoid(shift(head, 0, -3.4, 1), 6.3, 5, 6)),
    more,
  );
}

export function torsoShape({ chest, belly, pelvis, neck, shoulder, build }: Figure, more = 0): Field {
  return inflate(
    smooth(
      4,
      ellipsoid(chest, ...build.chest),
      ellipsoid(belly, ...build.belly),
      ellipsoid(pelvis, ...build.pelvis),
      roundCone(shift(neck, 0, -1.6, 0), shift(shoulder[0], -0.6, -0.2, 0), 2.4, build.upperArm[0] * 0.85),
      roundCone(shift(neck, 0, -1.6, 0), shift(shoulder[1], 0.6, -0.2, 0), 2.4, build.upperArm[0] * 0.85),
    ),
    more,
  );
}

/** From the shoulder down; `length` 1 ends at the wrist, 0.5 at the elbow. */
export function armShape({ shoulder, elbow, hand, build }: Figure, side: Side, more = 0, length = 1): Field {
  const [a, b] = build.upperArm;
  const [c, d] = build.foreArm;
  const upper = roundCone(
    shoulder[side],
    between(shoulder[side], elbow[side], Math.min(1, length * 2)),
    a + more,
    b + more,
  );
  if (length <= 0.5) return upper;
  return smooth(
    1,
    upper,
    roundCone(elbow[side], between(elbow[side], hand[side], (length - 0.5) * 2), c + more, d + more),
  );
}

export function handShape({ hand, elbow, build }: Figure, side: Side, more = 0): Field {
  const past = between(elbow[side], hand[side], 1.16);
  return roundCone(hand[side], past, build.hand * 0.86 + more, build.hand * 0.9 + more);
}

/** From the hip down; `length` 1 ends at the ankle, 0.5 at the knee. */
export function legShape({ hip, knee, ankle, build }: Figure, side: Side, more = 0, length = 1): Field {
  const [a, b] = build.thigh;
  const [c, d] = build.shin;
  const thigh = roundCone(hip[side], between(hip[side], knee[side], Math.min(1, length * 2)), a + more, b + more);
  if (length <= 0.5) return thigh;
  return smooth(
    1,
    thigh,
    roundCone(knee[side], between(knee[side], ankle[side], (length - 0.5) * 2), c + more, d + more),
  );
}

export function footShape({ ankle, build }: Figure, side: Side, more = 0, toe = 4): Field {
  const wide = build.shin[1];
  const foot = inflate(
    smooth(
      1,
      roundCone(
        shift(ankle[side], 0, -0.6, -0.6),
        shift(ankle[side], side === 0 ? 0.5 : -0.5, -0.9, toe),
        wide * 0.8,
        wide * 0.72,
      ),
      roundCone(ankle[side], shift(ankle[side], 0, 1.5, 0), wide * 0.9, wide),
    ),
    more,
  );
  // Soles are flat.
  return both(foot, above(Math.max(0.2, ankle[side].y - 2.4)));
}

/** Pieces for both sides of the body, each its own limb. */
export function limbs(kind: "arm" | "leg", material: Material, make: (side: Side) => Field): readonly Piece[] {
  return [
    { material, field: make(0), limb: `${kind}-left` },
    { material, field: make(1), limb: `${kind}-right` },
  ];
}

export const eachSide = (make: (side: Side) => Field): Field => union(make(0), make(1));

/** A skirt that follows the legs: from the waist down to part of the way to the knee (1) or ankle (2). */
export function skirtShape(figure: Figure, more: number, length: number, flare: number): Field {
  const { pelvis, belly, hip, knee, ankle, build } = figure;
  const hem = (side: Side) =>
    length <= 1 ? between(hip[side], knee[side], length) : between(knee[side], ankle[side], length - 1);
  const wide = build.pelvis[0] * 0.72 + more;
  return smooth(
    5,
    inflate(ellipsoid(pelvis, ...build.pelvis), more),
    inflate(ellipsoid(belly, ...build.belly), more),
    roundCone(pelvis, hem(0), wide, wide + flare),
    roundCone(pelvis, hem(1), wide, wide + flare),
    roundCone(pelvis, between(hem(0), hem(1), 0.5), wide, wide + flare),
  );
}
