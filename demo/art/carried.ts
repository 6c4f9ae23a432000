import { type Sculpted, sculpted } from "./art.ts";
import {
  between,
  both,
  box,
  cut,
  ellipsoid,
  type Field,
  inflate,
  roundCone,
  shift,
  smooth,
  sphere,
  union,
  type Vector,
  vector,
} from "./field.ts";
import type { Figure, Side } from "./figure.ts";
import { accent, brass, flame, iron, leather, paper, wood } from "./material.ts";
import { torsoShape } from "./shapes.ts";

const carried = (id: string, pieces: Sculpted["pieces"]): Sculpted => sculpted(id, pieces, "sleeved");

/** Too heavy for apprentices. */
const grown = (id: string, pieces: Sculpted["pieces"]): Sculpted => ({
  ...carried(id, pieces),
  builds: ["reed", "oak"],
});

/** A strap over the right shoulder to the left hip. */
function strap(figure: Figure, more: number): Field {
  const { chest, belly, build } = figure;
  const top = vector(-build.shoulderWidth * 0.55, chest.y + 6, 0);
  const bottom = vector(build.belly[0], belly.y - 5, 0);
  const length = Math.hypot(top.x - bottom.x, top.y - bottom.y);
  const nx = (top.y - bottom.y) / length;
  const ny = -(top.x - bottom.x) / length;
  return both(torsoShape(figure, more), (x, y) => Math.abs((x - top.x) * nx + (y - top.y) * ny) - 1.1);
}

export const backArt: readonly Sculpted[] = [
  carried("satchel", (figure) => {
    const { pelvis, build, sway } = figure;
    const at = vector(build.pelvis[0] + 3.4, pelvis.y - 3, -sway * 1.1 - 0.6);
    return [
      { material: leather, field: union(strap(figure, 2.6), box(at, 2.6, 4.4, 5, 1.2)) },
      { material: accent, field: both(box(shift(at, 0.5, 1.8, 0), 2.8, 2.9, 5.3, 1)) },
      { material: brass, field: sphere(shift(at, 3.4, -0.9, 0), 1.2) },
    ];
  }),
  carried("bedroll", (figure) => {
    const { chest, build, sway } = figure;
    const at = vector(0, chest.y + 0.5, -build.chest[2] - 4 - sway * 0.3);
    const half = build.shoulderWidth * 0.75;
    const roll = roundCone(shift(at, -half, 0, 0), shift(at, half, 0, 0), 3.4, 3.4);
    const ties = both(inflate(roll, 0.4), (x) => Math.abs(Math.abs(x) - half * 0.55) - 0.9);
    return [
      { material: accent, field: roll },
      { material: leather, field: union(ties, strap(figure, 2.6)) },
    ];
  }),
  grown("mail-pack", (figure) => {
    const { chest, belly, build, sway } = figure;
    const at = vector(0, (chest.y + belly.y) / 2 + 1.5, -build.chest[2] - 4.6 - sway * 0.3);
    const straps = both(
      torsoShape(figure, 2.5),
      (x) => Math.abs(Math.abs(x) - build.shoulderWidth * 0.42) - 1.5,
      (_x, y) => belly.y - 2 - y,
    );
    return [
      { material: leather, field: union(box(at, 6, 7.4, 3.6, 1.6), straps) },
      { material: accent, field: box(shift(at, 0, 4.6, -0.4), 6.3, 3.2, 3.9, 1.4) },
      {
        material: paper,
        field: union(
          roundCone(shift(at, -5, 8.8, 0), shift(at, 5, 8.8, 0), 2, 2),
          box(shift(at, 2, -3, -3.6), 2.2, 1.6, 0.6, 0.2),
        ),
      },
      { material: brass, field: sphere(shift(at, 0, 1.6, -4.2), 1.1) },
    ];
  }),
];

function grip({ hand, elbow }: Figure, side: Side) {
  return between(elbow[side], hand[side], 1.15);
}

/** The ends of something long, held upright; in a raised hand it slides down, so that it stays in the picture. */
function shaft(hold: Vector, lean: number, up: number, down: number) {
  const slide = Math.max(0, hold.y + up + 12 - 68);
  return { top: shift(hold, lean, up - slide, -1.4), bottom: shift(hold, 0, -down - slide, 0.4) };
}

const lantern = (side: Side) =>
  carried(side === 0 ? "lantern-left" : "lantern-right", (figure) => {
    const at = shift(grip(figure, side), 0, -7, 1.2 - figure.sway * (side === 0 ? 0.5 : -0.5));
    const cage = [-1, 1].flatMap((x) =>
      [-1, 1].map((z) => roundCone(shift(at, x * 2.3, 2.6, z * 2.3), shift(at, x * 2.3, -2.8, z * 2.3), 0.55, 0.55)),
    );
    const ring = cut(ellipsoid(shift(at, 0, 5, 0), 2, 2.4, 0.9), ellipsoid(shift(at, 0, 5, 0), 1.1, 1.4, 2));
    return [
      {
        material: iron,
        field: union(
          ellipsoid(shift(at, 0, 3.2, 0), 3.1, 1.4, 3.1),
          box(shift(at, 0, -3.4, 0), 2.9, 0.9, 2.9, 0.4),
          ring,
          ...cage,
        ),
      },
      { material: flame, field: ellipsoid(at, 2.2, 2.9, 2.2) },
    ];
  });

const oar = (side: Side) =>
  carried(side === 0 ? "oar-left" : "oar-right", (figure) => {
    const out = side === 0 ? 1 : -1;
    const hold = shift(grip(figure, side), out * 0.6, 0, 1);
    const { top, bottom } = figure.isRowing
      ? { top: shift(hold, out * 7, 9 - hold.y, 4), bottom: shift(hold, out * -3, 12, -5) }
      : shaft(hold, out * 1.2, 34, 10.5);
    const blade = shift(top, 0, figure.isRowing ? -3 : 0, 0);
    return [
      {
        material: wood,
        field: union(
          roundCone(bottom, top, 1.25, 1.1),
          smooth(
            1.5,
            ellipsoid(shift(blade, 0, 4, 0), 2.9, 7.4, 1.4),
            roundCone(between(top, hold, 0.15), top, 1.1, 1.6),
          ),
        ),
      },
      {
        material: accent,
        field: both(
          inflate(ellipsoid(shift(blade, 0, 4, 0), 2.9, 7.4, 1.4), 0.15),
          (_x, y) => Math.abs(y - blade.y - 6.6) - 1.2,
        ),
      },
    ];
  });

const whistle = (side: Side) =>
  carried(side === 0 ? "whistle-left" : "whistle-right", (figure) => {
    const hold = shift(grip(figure, side), 0, 0.4, 2.2);
    return [
      {
        material: brass,
        field: smooth(0.6, roundCone(hold, shift(hold, 0, 1, 3.4), 1.4, 1), sphere(shift(hold, 0, -0.4, -0.2), 1.9)),
      },
    ];
  });

const boathook = (side: Side) =>
  carried(side === 0 ? "boathook-left" : "boathook-right", (figure) => {
    const hold = shift(grip(figure, side), side === 0 ? 0.6 : -0.6, 0, 1);
    // The hook looks outward, but for an arm held out so far that it would leave the picture.
    const out = (side === 0 ? 1 : -1) * (Math.abs(hold.x) > 19 ? -1 : 1);
    const { top, bottom } = shaft(hold, out, 36, 10.5);
    return [
      { material: wood, field: roundCone(bottom, top, 1.2, 1) },
      {
        material: iron,
        field: union(
          roundCone(top, shift(top, 0, 4.6, 0), 1.3, 0.5),
          smooth(
            0.5,
            roundCone(shift(top, 0, 0.6, 0), shift(top, out * 3.6, 1.4, 0), 1, 0.9),
            roundCone(shift(top, out * 3.6, 1.4, 0), shift(top, out * 3.4, -2.4, 0), 0.9, 0.5),
          ),
        ),
      },
    ];
  });

const letters = (side: Side) =>
  carried(side === 0 ? "letters-left" : "letters-right", (figure) => {
    const at = shift(grip(figure, side), 0, -1.4, 1.8);
    return [
      { material: accent, field: box(at, 0.9, 2.9, 4.3, 0.2) },
      {
        material: paper,
        field: union(box(shift(at, 0, 0, -2.2), 1.3, 3.2, 2, 0.2), box(shift(at, 0, 0, 2.4), 1.3, 3.2, 1.8, 0.2)),
      },
    ];
  });

export const handArt: readonly Sculpted[] = [
  boathook(0),
  boathook(1),
  letters(0),
  letters(1),
  lantern(0),
  lantern(1),
  oar(0),
  oar(1),
  whistle(0),
  whistle(1),
];
