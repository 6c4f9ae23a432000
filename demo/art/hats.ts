import { type Sculpted, sculpted } from "./art.ts";
import {
  above,
  below,
  both,
  cut,
  droop,
  ellipsoid,
  inflate,
  roundCone,
  shift,
  smooth,
  sphere,
  union,
} from "./field.ts";
import { hatLine } from "./hair.ts";
import { accent, brass, cloth, flame, leather, oilcloth, straw } from "./material.ts";
import { headShape } from "./shapes.ts";

const hats: readonly Sculpted[] = [
  sculpted("storm-hat", (figure) => {
    const { head } = figure;
    const line = hatLine(figure);
    const crown = both(
      smooth(2, headShape(figure, 2.3), ellipsoid(shift(head, 0, 7, -0.5), 7.6, 5.2, 7.4)),
      above(line - 0.6),
    );
    const brim = droop(ellipsoid({ x: 0, y: line - 0.2, z: -1 }, 13, 1.5, 13.4), -2, 3);
    return [
      { material: oilcloth, field: smooth(1.2, crown, brim) },
      { material: leather, field: both(inflate(crown, 0.35), above(line + 0.9), below(line + 2.7)) },
    ];
  }),
  sculpted("reed-cap", (figure) => {
    const line = hatLine(figure);
    // Rings of woven reed show as steps of the cone.
    const top = line + 8.4;
    const cone = (x: number, y: number, z: number) =>
      (Math.hypot(x, z + 0.6) - (13.2 * (top - y)) / (top - line + 1.6)) * 0.54 + 0.22 * Math.abs(Math.sin(y * 1.3));
    const peak = sphere({ x: 0, y: top - 0.6, z: -0.6 }, 1.6);
    return [
      {
        material: straw,
        field: cut(smooth(1, both(cone, above(line - 1.6)), peak), both(inflate(cone, -1.2), below(line - 0.4))),
      },
      { material: accent, field: both(inflate(cone, 0.25), above(line + 2.4), below(line + 4)) },
    ];
  }),
  sculpted("wool-cap", (figure) => {
    const { head } = figure;
    const line = hatLine(figure);
    const dome = both(smooth(2, headShape(figure, 2), ellipsoid(shift(head, 0, 7.4, -1), 7, 4.8, 7.2)), above(line));
    const cuff = both(headShape(figure, 2.8), above(line - 1.2), below(line + 2.6));
    return [
      { material: cloth, field: dome },
      { material: accent, field: union(cuff, sphere(shift(head, 0, 12.8, -1), 2.5)) },
    ];
  }),
  sculpted("bandana", (figure) => {
    const { head, sway } = figure;
    const line = hatLine(figure) - 0.6;
    const wrap = both(headShape(figure, 1.6), above(line));
    const knot = shift(head, 1.6, 2.8, -8.6);
    const ends = [
      roundCone(knot, shift(knot, 2.6, -4.4, -1.2 - sway * 0.6), 1.7, 1.1),
      roundCone(knot, shift(knot, -0.6, -5, -1.4 - sway * 0.6), 1.7, 1),
    ];
    return [{ material: accent, field: smooth(0.8, wrap, sphere(knot, 1.9), ...ends) }];
  }),
  sculpted("ear-cap", (figure) => {
    const { head } = figure;
    const line = hatLine(figure);
    const dome = both(
      smooth(2, headShape(figure, 2.1), ellipsoid(shift(head, 0, 7, -1), 7.4, 4.8, 7.4)),
      above(line - 0.6),
    );
    const flaps = [1, -1].map((side) => ellipsoid(shift(head, side * 8.4, -1.2, -0.6), 2, 5.2, 3.8));
    return [{ material: leather, field: smooth(1, dome, ...flaps) }];
  }),
  sculpted("pilot-cap", (figure) => {
    const { head } = figure;
    const line = hatLine(figure);
    const band = both(headShape(figure, 1.9), above(line - 0.8), below(line + 3));
    const top = ellipsoid(shift(head, 0, 7.2, -0.4), 10, 3.2, 9.6);
    const peak = both(ellipsoid({ x: 0, y: line - 0.6, z: 6.4 }, 7, 1.3, 5.8), (_x, _y, z) => 4 - z);
    return [
      { material: cloth, field: top },
      { material: leather, field: union(band, peak) },
      { material: brass, field: sphere({ x: 0, y: line + 1.8, z: 10 }, 1.7) },
    ];
  }),
  sculpted("lamp-crown", (figure) => {
    const line = hatLine(figure) + 0.6;
    const ring = cut(both(headShape(figure, 2.2), above(line), below(line + 2.2)), headShape(figure, 0.6));
    const lamps = [-0.9, -0.45, 0, 0.45, 0.9].map((angle) => ({
      x: Math.sin(angle * 1.5) * 9,
      y: line + 4 + Math.cos(angle * 1.6) * 1.6,
      z: Math.cos(angle * 1.5) * 9,
    }));
    const stems = lamps.map((at) => roundCone({ ...at, y: line + 1 }, { ...at, y: at.y - 1 }, 0.8, 0.8));
    return [
      { material: brass, field: union(ring, ...stems) },
      { material: flame, field: union(...lamps.map((at) => ellipsoid(shift(at, 0, 0.6, 0), 1.7, 2.2, 1.7))) },
    ];
  }),
];

export const hatArt: readonly Sculpted[] = hats.map((hat) => ({ ...hat, isStill: true }));

export const neckArt: readonly Sculpted[] = [
  sculpted("hood-up", (figure) => {
    const { head, chest, shoulder } = figure;
    const face = ellipsoid(shift(head, 0, -1.6, 9.5), 6.4, 7.6, 8.5);
    const cowl = smooth(2.5, headShape(figure, 2.9), ellipsoid(shift(head, 0, 5, -5.5), 5.4, 5.4, 5));
    const cape = smooth(
      3,
      roundCone(shift(head, 0, -9, -0.8), shift(chest, 0, 2.6, -0.2), 5.2, 7.2),
      roundCone(shift(chest, 0, 4, 0), shoulder[0], 5, 4.4),
      roundCone(shift(chest, 0, 4, 0), shoulder[1], 5, 4.4),
    );
    return [{ material: oilcloth, field: cut(smooth(2, cowl, both(cape, above(chest.y - 1.4))), face) }];
  }),
  sculpted("kerchief", (figure) => {
    const { neck, chest, build } = figure;
    const wrap = ellipsoid(shift(neck, 0, 0.2, 0.2), 5.8, 1.8, 5);
    const front = build.chest[2] + 1.2;
    const fold = roundCone(shift(neck, 0, -1, front - 1.6), shift(chest, 0, -1.2, front), 3.4, 0.7);
    return [{ material: cloth, field: smooth(0.8, wrap, fold) }];
  }),
  sculpted("scarf", (figure) => {
    const { neck, chest, sway, build } = figure;
    const wrap = smooth(
      1.2,
      ellipsoid(shift(neck, 0, 1.2, 0.4), 6.4, 2.6, 5.6),
      ellipsoid(shift(neck, 0.6, -0.4, 1.6), 6, 1.9, 5),
    );
    const front = build.chest[2] + 1.6;
    const tail = roundCone(shift(neck, 3, -1, front - 0.4), shift(chest, 3.8, -6.5, front + 0.4 - sway * 0.8), 2, 2.3);
    return [{ material: accent, field: smooth(1, wrap, tail) }];
  }),
];
