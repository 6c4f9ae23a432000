import { above, below, both, ellipsoid, roundCone, shift, union } from "./field.ts";
import type { Figure } from "./figure.ts";
import { linen, skin } from "./material.ts";
import type { Piece } from "./render.ts";
import { armShape, eachSide, footShape, handShape, headShape, legShape, limbs, torsoShape } from "./shapes.ts";

/** The bare figure, in linen underthings. */
export function bodyPieces(figure: Figure): readonly Piece[] {
  const { head, neck, chest, pelvis } = figure;
  const trunk = torsoShape(figure);
  const cover = both(torsoShape(figure, 0.3), below(chest.y + 3.2), above(pelvis.y - 9));
  const shorts = both(
    eachSide((side) => legShape(figure, side, 0.35, 0.5)),
    above(pelvis.y - 6.5),
  );
  return [
    {
      material: skin,
      limb: "trunk",
      field: union(
        headShape(figure),
        ellipsoid(shift(head, 7.6, -1.2, -0.6), 1.5, 2.3, 1.8),
        ellipsoid(shift(head, -7.6, -1.2, -0.6), 1.5, 2.3, 1.8),
        roundCone(neck, shift(neck, 0, 3, 0.4), 3, 2.8),
        trunk,
      ),
    },
    ...limbs("arm", skin, (side) => union(armShape(figure, side), handShape(figure, side))),
    ...limbs("leg", skin, (side) => union(legShape(figure, side), footShape(figure, side))),
    { material: linen, field: union(cover, shorts) },
  ];
}

/** The bare figure with arms as thick as the thickest sleeve: what worn things without sleeves are split against. */
export function sleevedPieces(figure: Figure): readonly Piece[] {
  return [...bodyPieces(figure), { material: skin, field: eachSide((side) => armShape(figure, side, 1.7)) }];
}
