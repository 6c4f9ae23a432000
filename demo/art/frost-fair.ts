import { type Sculpted, sculpted } from "./art.ts";
import { above, below, both, ellipsoid, roundCone, shift, smooth, union } from "./field.ts";
import { hatLine } from "./hair.ts";
import { accent, cloth, leather } from "./material.ts";
import { headShape } from "./shapes.ts";

/** What the pack `frost-fair` adds to wear. */
export const frostFair: readonly Sculpted[] = [
  {
    ...sculpted("fur-hat", (figure) => {
      const { head } = figure;
      const line = hatLine(figure);
      const crown = both(
        smooth(2, headShape(figure, 2.4), ellipsoid(shift(head, 0, 8, -0.8), 7.4, 5.6, 7.6)),
        above(line + 1),
      );
      // A roll of fur, thicker where tufts stand out.
      const tuft = (x: number, z: number) => 0.5 * Math.sin(7 * Math.atan2(x, z + 0.6));
      const roll = both(
        (x: number, y: number, z: number) => headShape(figure, 3.6)(x, y, z) - tuft(x, z),
        above(line - 1.4),
        below(line + 3.4),
      );
      return [
        { material: cloth, field: crown },
        { material: accent, field: roll },
      ];
    }),
    isStill: true,
  },
  sculpted("fur-stole", (figure) => {
    const { neck, chest, shoulder, sway, build } = figure;
    const front = build.chest[2] + 1.8;
    const collar = smooth(
      1.6,
      ellipsoid(shift(neck, 0, 0.4, 0.2), 7, 2.8, 6),
      roundCone(shift(neck, 3, -1, 1), shift(shoulder[0], -0.6, 1.4, 0.6), 2.8, 2.4),
      roundCone(shift(neck, -3, -1, 1), shift(shoulder[1], 0.6, 1.4, 0.6), 2.8, 2.4),
    );
    const ends = [1, -1].map((side) =>
      roundCone(
        shift(neck, side * 2.6, -1.4, front - 1),
        shift(chest, side * 3, -5.4, front + 0.2 - sway * 0.5),
        2.3,
        1.9,
      ),
    );
    const clasp = roundCone(shift(neck, -0.8, -2.6, front + 1), shift(neck, 0.8, -2.6, front + 1), 1, 1);
    return [
      { material: accent, field: union(collar, ...ends) },
      { material: leather, field: clasp },
    ];
  }),
];
