import { between, type Field, roundCone, shift, smooth, union } from "../art/field.ts";
import type { Figure, Side } from "../art/figure.ts";
import { accent, leather } from "../art/material.ts";
import { armShape, eachSide } from "../art/shapes.ts";
import type { Resculpt } from "./sculptures.ts";

/** A hand like a mitten: a palm, the tips of fingers, and a thumb. A ball would read as a stump. */
export function handShape3d({ hand, elbow, build }: Figure, side: Side, more = 0): Field {
  const out = side === 0 ? 1 : -1;
  const r = build.hand;
  const along = (part: number) => between(elbow[side], hand[side], 1 + part);
  const palm = roundCone(along(0.02), along(0.2), r * 0.78 + more, r * 0.92 + more);
  const tips = roundCone(along(0.24), shift(along(0.46), out * -0.3, 0, 0.4), r * 0.78 + more, r * 0.52 + more);
  const thumb = roundCone(
    shift(along(0.06), 0, 0, r * 0.5),
    shift(along(0.24), out * -0.2, 0, r * 1.05),
    r * 0.4 + more,
    r * 0.34 + more,
  );
  return smooth(0.7, palm, tips, thumb);
}

/** An arm with its hand. */
export function handOf(figure: Figure, side: Side): Field {
  return union(armShape(figure, side), handShape3d(figure, side));
}

/** Gloves follow the fingers. @param from - how far down the forearm the cuff begins. */
const gloves =
  (material: typeof accent, more: number, from: number, wide: number): Resculpt =>
  (figure) => {
    const cuff = (side: Side) =>
      roundCone(
        between(figure.elbow[side], figure.hand[side], from),
        figure.hand[side],
        figure.build.foreArm[1] + wide,
        figure.build.foreArm[1] + more,
      );
    return [{ material, field: eachSide((side) => union(handShape3d(figure, side, more), cuff(side))) }];
  };

export const sculptedGloves: Readonly<Record<string, Resculpt>> = {
  mittens: gloves(accent, 0.8, 0.8, 1.5),
  gauntlets: gloves(leather, 0.7, 0.45, 1.7),
};
