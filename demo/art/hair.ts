import { type Sculpted, sculpted } from "./art.ts";
import {
  above,
  below,
  both,
  cut,
  ellipsoid,
  type Field,
  inflate,
  roundCone,
  shift,
  smooth,
  sphere,
  union,
  vector,
} from "./field.ts";
import type { Figure } from "./figure.ts";
import { brass, hair } from "./material.ts";
import type { Piece } from "./render.ts";
import { headShape } from "./shapes.ts";

/** Where a hat's edge sits: hair above it is hidden under a hat. */
export const hatLine = ({ head }: Figure): number => head.y + 4.2;

/** The scalp: the head grown by `more`, without the face and without what is below `down` pixels under its middle. */
export function scalp(figure: Figure, more: number, down: number, fringe = 3.2): Field {
  const { head } = figure;
  const face = union(
    ellipsoid(shift(head, 0, -4.5, 8), 6.4, 5 + fringe, 7.5),
    both((_x, y, z) => 2 + (y - head.y) * 0.18 - z + head.z, below(head.y + 1.4)),
  );
  return cut(both(headShape(figure, more), above(head.y - down)), face);
}

const part = (
  id: string,
  shape: (figure: Figure) => Field,
  extra: (figure: Figure) => readonly Piece[] = () => [],
): Sculpted => ({
  ...sculpted(id, (figure) => [{ material: hair, field: shape(figure) }, ...extra(figure)]),
  topFrom: hatLine,
});

export const hairArt: readonly Sculpted[] = [
  part("crop", (figure) => {
    const { head } = figure;
    return smooth(
      1.5,
      scalp(figure, 1.3, 4),
      ellipsoid(shift(head, -2.5, 8.2, 4.5), 4.5, 2, 3.2),
      ellipsoid(shift(head, 3, 8.4, 2), 4, 1.8, 4),
    );
  }),
  part("bob", (figure) => {
    const { head } = figure;
    const bell = cut(
      both(smooth(3, headShape(figure, 1.6), ellipsoid(shift(head, 0, -3.2, -1.2), 9.8, 5.2, 8)), above(head.y - 7.6)),
      ellipsoid(shift(head, 0, -4.8, 8), 6.6, 7.8, 7.4),
      both((_x, _y, z) => head.z + 2.6 - z, below(head.y + 1.2)),
    );
    return bell;
  }),
  part(
    "braid",
    (figure) => {
      const { head, chest, sway } = figure;
      const knot = shift(head, 3.4, -5.4, -6.2);
      const links = [0, 1, 2, 3, 4].map((link) => {
        const down = link / 4;
        return sphere(
          vector(knot.x + 3.4 * Math.sin(down * 2.2), knot.y - 12 * down, knot.z + 1.5 - sway * down * 1.2),
          2.6 - link * 0.22,
        );
      });
      return smooth(
        1,
        scalp(figure, 1.4, 5.5),
        ellipsoid(shift(head, -3, 8, 4.4), 4, 1.8, 3),
        smooth(0.7, ...links),
        sphere(vector(knot.x, chest.y + 8, knot.z), 0.1),
      );
    },
    ({ head, sway }) => [
      { material: brass, field: sphere(vector(head.x + 6.2, head.y - 18.6, head.z - 4.6 - sway * 1.3), 1.7) },
    ],
  ),
  part("curls", (figure) => {
    const { head } = figure;
    const tufts: Field[] = [];
    for (let ring = 0; ring < 4; ring += 1) {
      const height = 7.6 - ring * 3.5;
      const radius = [3.6, 6.9, 8, 7.8][ring] ?? 8;
      const count = [4, 8, 10, 9][ring] ?? 8;
      for (let each = 0; each < count; each += 1) {
        const angle = (each / count) * 2 * Math.PI + ring * 0.5;
        const z = -Math.cos(angle) * radius;
        if (ring > 1 && z > 3.5) continue;
        if (ring === 1 && z > 6.8) continue;
        tufts.push(sphere(shift(head, Math.sin(angle) * radius, height, z), 2.6));
      }
    }
    return smooth(0.8, scalp(figure, 1.2, 4), ...tufts);
  }),
  part(
    "topknot",
    (figure) => {
      const { head } = figure;
      return union(
        scalp(figure, 1.1, 4.5, 3.6),
        smooth(1, sphere(shift(head, 0, 11.2, -2.4), 3.5), sphere(shift(head, 0, 8.4, -2), 2.4)),
      );
    },
    ({ head }) => [{ material: brass, field: ellipsoid(shift(head, 0, 9, -2.1), 2.9, 0.9, 2.9) }],
  ),
  part("stubble", (figure) => scalp(figure, 0.6, 3.4, 3.6)),
  part(
    "pigtails",
    (figure) => {
      const { head, sway } = figure;
      const tail = (side: number) =>
        smooth(
          0.8,
          sphere(shift(head, side * 8.6, -1.4, -1.6), 2.6),
          roundCone(shift(head, side * 9.4, -3, -1.6), shift(head, side * 10.2, -9.6, -1.2 - sway), 2.5, 1.4),
        );
      return union(scalp(figure, 1.4, 5), tail(1), tail(-1));
    },
    ({ head }) => [
      { material: brass, field: union(...[1, -1].map((side) => sphere(shift(head, side * 8.4, 0.2, -1.6), 1.7))) },
    ],
  ),
  part("mane", (figure) => {
    const { head, chest, sway } = figure;
    const fall = smooth(
      3,
      roundCone(shift(head, 3.4, -2, -4.6), vector(4.4, chest.y - 2, -6.4 - sway), 5, 3.2),
      roundCone(shift(head, -3.4, -2, -4.6), vector(-4.4, chest.y - 2, -6.4 - sway), 5, 3.2),
      roundCone(shift(head, 0, -2, -5), vector(0, chest.y - 4.5, -6.8 - sway), 5, 3.4),
    );
    const locks = union(
      roundCone(shift(head, 7.2, 0, 1), shift(head, 7.4, -11, 1.4), 2.4, 1.5),
      roundCone(shift(head, -7.2, 0, 1), shift(head, -7.4, -11, 1.4), 2.4, 1.5),
    );
    return smooth(1.5, scalp(figure, 1.7, 6), fall, locks);
  }),
];

const onFace = (id: string, shape: (figure: Figure) => Field): Sculpted =>
  sculpted(id, (figure) => [{ material: hair, field: shape(figure) }]);

const beards: readonly Sculpted[] = [
  onFace("beard-full", (figure) => {
    const { head } = figure;
    const jaw = both(
      inflate(smooth(3, headShape(figure, 1), ellipsoid(shift(head, 0, -7.4, 3.6), 5, 4.4, 4)), 0.2),
      below(head.y - 2.8),
      above(head.y - 13),
      cut(ellipsoid(shift(head, 0, -6, 3.4), 9, 9, 7), ellipsoid(shift(head, 0, -3.3, 9.5), 4.2, 2.1, 4)),
    );
    return cut(jaw, ellipsoid(shift(head, 0, -5.9, 9.5), 1.7, 0.7, 4));
  }),
  onFace("mustache", ({ head }) =>
    smooth(
      0.6,
      roundCone(shift(head, 0.8, -4.3, 7.2), shift(head, 4.6, -5.4, 5.6), 1.3, 0.7),
      roundCone(shift(head, -0.8, -4.3, 7.2), shift(head, -4.6, -5.4, 5.6), 1.3, 0.7),
    ),
  ),
  onFace("chin-tuft", ({ head }) =>
    smooth(1, sphere(shift(head, 0, -8, 5.6), 2), sphere(shift(head, 0, -10.4, 5.2), 1.4)),
  ),
];

/** Apprentices have none. */
export const beardArt: readonly Sculpted[] = beards.map((beard) => ({ ...beard, builds: ["reed", "oak"] }));
