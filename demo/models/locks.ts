import { cut, type Field, roundCone, shift, smooth, sphere, union, type Vector, vector } from "../art/field.ts";
import type { Figure } from "../art/figure.ts";
import { scalp } from "../art/hair.ts";
import { accent, brass, hair } from "../art/material.ts";
import { headShape } from "../art/shapes.ts";
import type { Resculpt } from "./sculptures.ts";

/** A place over the skin of the head: around it from the nose to its left, and so high over its middle. */
function onHead(figure: Figure, angle: number, height: number, over: number): Vector {
  const skin = headShape(figure);
  const { head } = figure;
  let [inside, outside] = [0, 14];
  for (let step = 0; step < 20; step += 1) {
    const out = (inside + outside) / 2;
    if (skin(head.x + Math.sin(angle) * out, head.y + height, head.z + Math.cos(angle) * out) < 0) inside = out;
    else outside = out;
  }
  const out = inside + over;
  return vector(head.x + Math.sin(angle) * out, head.y + height, head.z + Math.cos(angle) * out);
}

/** A lock of hair: where it hangs around the head, how far down, and how thick it is. */
interface Lock {
  readonly angle: number;
  /** How far its tip is turned on from where it begins. */
  readonly sweep?: number;
  readonly from?: number;
  readonly to: number;
  readonly thick?: number;
  /** How far its tip stands off the skin. */
  readonly over?: number;
}

/** Two cones that taper, bent over the head. */
function lockField(figure: Figure, { angle, sweep = 0, from = 7, to, thick = 1.9, over = 0.5 }: Lock): Field {
  const middle = (from + to) / 2 + 0.6;
  const [top, bend, tip] = [
    onHead(figure, angle, Math.min(7.4, from), 0.2),
    onHead(figure, angle + sweep * 0.6, Math.max(-7, middle), 0.5),
    onHead(figure, angle + sweep, Math.max(-7, to), over),
  ];
  const end = to < -7 ? shift(tip, 0, to + 7, 0) : tip;
  return smooth(0.4, roundCone(top, bend, thick, thick * 0.92), roundCone(bend, end, thick * 0.92, 0.5));
}

const fringe: readonly Lock[] = [
  { angle: -0.95, sweep: -0.1, to: 1.2 },
  { angle: -0.6, sweep: 0.16, to: 2.2 },
  { angle: -0.25, sweep: 0.2, to: 2.9 },
  { angle: 0.12, sweep: -0.12, to: 3, thick: 1.9 },
  { angle: 0.42, sweep: 0.18, to: 2.5 },
  { angle: 0.8, sweep: 0.14, to: 1.4 },
];

/** Locks on both sides of the head, from the temples to the nape. */
const around = (tips: readonly number[], over = 0.7): readonly Lock[] =>
  tips.flatMap((to, at) => {
    const angle = 1.24 + (at * (Math.PI - 1.24)) / (tips.length - 0.5);
    return [1, -1].map(
      (side): Lock => ({
        angle: angle * side,
        sweep: (at % 2 === 0 ? 0.1 : -0.06) * side,
        from: 6,
        to: to + (side < 0 ? 0.5 : 0),
        thick: 2.5,
        over,
      }),
    );
  });

const lockedHair =
  (cap: (figure: Figure) => Field, locks: readonly Lock[], more: (figure: Figure) => readonly Field[] = () => []) =>
  (figure: Figure): Field =>
    smooth(0.45, cap(figure), ...locks.map((lock) => lockField(figure, lock)), ...more(figure));

/** Keeps what is not hair of the pictures, such as a ring. */
const withLocks =
  (shape: (figure: Figure) => Field): Resculpt =>
  (figure, pieces) => [{ material: hair, field: shape(figure) }, ...pieces.filter(({ material }) => material !== hair)];

const cap = (down: number) => (figure: Figure) => scalp(figure, 1.1, down);

export const sculptedHair: Readonly<Record<string, Resculpt>> = {
  crop: withLocks(lockedHair(cap(3.5), [...fringe, ...around([-1, -2.4, -3.6, -4.6])])),
  bob: withLocks(lockedHair(cap(5), [...fringe, ...around([-6.4, -7.4, -8, -8.2], 1.2)])),
  braid: (figure) => {
    const { head, chest } = figure;
    const knot = shift(head, 1.2, -6, -7.6);
    const end = vector(knot.x + 1.6, chest.y - 3, knot.z - 0.4);
    const links = [0, 1, 2, 3, 4, 5].map((link) => {
      const down = link / 5;
      const aside = (link % 2 === 0 ? 0.7 : -0.7) * (1 - down * 0.5);
      return sphere(
        vector(
          knot.x + (end.x - knot.x) * down + aside,
          knot.y + (end.y - knot.y) * down,
          knot.z + (end.z - knot.z) * down,
        ),
        2.3 - down * 0.7,
      );
    });
    const tuft = roundCone(shift(end, 0, -1.6, 0), shift(end, 0.3, -5, 0.2), 1.5, 0.4);
    const shape = lockedHair(cap(4.5), [...fringe, ...around([-5.4, -4.4, -5, -5.6])], () => [
      smooth(0.3, ...links),
      tuft,
    ]);
    return [
      { material: hair, field: shape(figure) },
      { material: accent, field: roundCone(shift(end, 0, -1, 0), shift(end, 0, -1.7, 0), 1.75, 1.75) },
    ];
  },
  pigtails: (figure) => {
    const { head } = figure;
    const tail = (side: number) =>
      smooth(
        0.5,
        sphere(shift(head, side * 8.8, 0.2, -1.8), 2.5),
        roundCone(shift(head, side * 9.8, -2.4, -1.8), shift(head, side * 10.6, -6, -1.4), 2.6, 2.2),
        roundCone(shift(head, side * 10.6, -6, -1.4), shift(head, side * 9.8, -11, -0.8), 2.2, 0.5),
      );
    const shape = lockedHair(cap(4), [...fringe, ...around([-2.6, -4, -4.6, -5])], () => [tail(1), tail(-1)]);
    const ties = union(...[1, -1].map((side) => sphere(shift(head, side * 8.9, 1, -1.8), 2)));
    return [
      { material: hair, field: shape(figure) },
      { material: brass, field: cut(ties, headShape(figure, 1)) },
    ];
  },
  mane: (figure) => {
    const { head, chest } = figure;
    const falls = [-5.2, -2.7, 0, 2.7, 5.2].map((x, at) => {
      const end = chest.y - (at % 2 === 0 ? 2.4 : 4.6) - (at === 2 ? 1.4 : 0);
      return smooth(
        0.4,
        roundCone(shift(head, x * 0.9, 1, -6 + Math.abs(x) * 0.35), vector(x * 1.2, head.y - 9, -8), 2.9, 2.7),
        roundCone(vector(x * 1.2, head.y - 9, -8), vector(x * 1.25, end, -8.4), 2.7, 0.6),
      );
    });
    const shape = lockedHair(cap(5.5), [...fringe, ...around([-9, -8, -7, -6], 1.2)], () => falls);
    return [{ material: hair, field: shape(figure) }];
  },
};
