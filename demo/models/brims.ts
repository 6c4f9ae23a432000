import { above, below, both, ellipsoid, type Field, inflate, shift, smooth } from "../art/field.ts";
import { hatLine } from "../art/hair.ts";
import { leather, oilcloth } from "../art/material.ts";
import { headShape } from "../art/shapes.ts";
import type { Resculpt } from "./sculptures.ts";

/** A disk with a round edge that bends up or down where `lift` says so. */
function brim(
  height: number,
  radius: (angle: number) => number,
  lift: (angle: number, out: number) => number,
  thick = 0.8,
): Field {
  return (x, y, z) => {
    const out = Math.hypot(x, z + 1);
    const angle = Math.atan2(x, z + 1);
    return (Math.hypot(Math.max(0, out - radius(angle)), y - height - lift(angle, out)) - thick) * 0.85;
  };
}

export const sculptedHats: Readonly<Record<string, Resculpt>> = {
  bandana: (figure, [wrap]) => {
    // Locks stand off the head, and it is tied around them.
    const over = both(headShape(figure, 2.7), above(hatLine(figure) - 0.6));
    return wrap === undefined ? [] : [{ ...wrap, field: smooth(0.8, over, wrap.field) }];
  },
  "reed-cap": (_figure, [cone, band]) => [
    ...(cone ? [cone] : []),
    ...(band ? [{ ...band, field: inflate(band.field, 0.5) }] : []),
  ],
  "storm-hat": (figure) => {
    const { head } = figure;
    const line = hatLine(figure) + 0.4;
    const crown = both(
      smooth(2, headShape(figure, 2.2), ellipsoid(shift(head, 0, 6.6, -0.5), 7.8, 5.4, 7.6)),
      above(line - 1),
    );
    // Longer behind, and lower, so that rain runs off.
    const edge = brim(
      line - 0.4,
      (angle) => 12.2 + 1.4 * (0.5 - 0.5 * Math.cos(angle)),
      (angle, out) => -0.028 * Math.max(0, out - 7) ** 2 * (0.45 + 1.1 * (0.5 - 0.5 * Math.cos(angle))),
    );
    return [
      { material: oilcloth, field: smooth(0.7, crown, edge) },
      { material: leather, field: both(inflate(crown, 0.6), above(line - 0.2), below(line + 2.2)) },
    ];
  },
};
