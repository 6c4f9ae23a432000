import {
  above,
  below,
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
} from "../art/field.ts";
import type { Figure } from "../art/figure.ts";
import { accent, brass, cloth, gilt, iron, leather, type Material, oilcloth, wood } from "../art/material.ts";
import type { Piece } from "../art/render.ts";
import { armShape, eachSide, limbs, torsoShape } from "../art/shapes.ts";
import { hollow } from "./hollow.ts";
import type { Resculpt } from "./sculptures.ts";

/** A skirt that widens evenly from the hips to its hem: a cone, flattened before and behind. */
function cone({ pelvis, build }: Figure, more: number, hem: number, flare: number): Field {
  const top = pelvis.y + 4;
  const flat = (build.pelvis[2] + more) / (build.pelvis[0] + more);
  return (x, y, z) => {
    const down = Math.min(1, Math.max(0, (top - y) / (top - hem)));
    const radius = build.pelvis[0] + more - 0.2 + flare * down;
    const aside = Math.hypot(x, z / (flat + (1 - flat) * 0.45 * down)) - radius;
    return Math.max(aside * 0.9, hem - y, y - top);
  };
}

const front = (_x: number, _y: number, z: number): number => 1 - z;

/** Round studs down the front of a shell. */
function studs(shell: Field, x: number, heights: readonly number[], radius = 1.15): Field {
  return union(...heights.map((y) => sphere({ x, y, z: depthAt(shell, x, y) }, radius)));
}

/** How far forward a shell reaches. */
function depthAt(shell: Field, x: number, y: number): number {
  let [inside, outside] = [0, 20];
  for (let step = 0; step < 24; step += 1) {
    const middle = (inside + outside) / 2;
    if (shell(x, y, middle) < 0) inside = middle;
    else outside = middle;
  }
  return inside;
}

/** A strip of cloth before a shell, between two columns and two heights. */
const strip = (shell: Field, over: number, left: number, right: number, low: number, high: number): Field =>
  both(inflate(shell, over), (x) => Math.max(left - x, x - right), above(low), below(high), front);

const throat = ({ neck }: Figure): Field => ellipsoid(shift(neck, 0, 2.2, 2.6), 3.6, 3.8, 4.4);

/** A turned-up end of each sleeve, between two parts of the way from elbow to hand. */
const cuffs = (material: Material, figure: Figure, more: number, from: number, to: number): readonly Piece[] =>
  limbs("arm", material, (side) => {
    const [elbow, hand, radius] = [figure.elbow[side], figure.hand[side], figure.build.foreArm[1] + more];
    const [dx, dy, dz] = [hand.x - elbow.x, hand.y - elbow.y, hand.z - elbow.z];
    const length = Math.hypot(dx, dy, dz);
    const along: Field = (x, y, z) => ((x - elbow.x) * dx + (y - elbow.y) * dy + (z - elbow.z) * dz) / length;
    return both(
      roundCone(elbow, between(elbow, hand, 1.5), radius - 0.3, radius + 0.5),
      (x, y, z) => from * length - along(x, y, z),
      (x, y, z) => along(x, y, z) - to * length,
    );
  });

/** All but the arms. */
const armless = (figure: Figure): Field => {
  const arms = eachSide((side) => armShape(figure, side, 3));
  return (x, y, z) => -arms(x, y, z);
};

const hollowed =
  (below: number): Resculpt =>
  ({ pelvis }, pieces) =>
    pieces.map(
      (piece): Piece => (piece.limb === "trunk" ? { ...piece, field: hollow(piece.field, pelvis.y - below) } : piece),
    );

/** Trousers lie over the shirt that is tucked into them. */
const looser: Resculpt = (_figure, [seat, ...legs]) => [
  ...(seat ? [{ ...seat, field: inflate(seat.field, 0.35) }] : []),
  ...legs.map((leg) => (leg.limb === undefined ? leg : { ...leg, field: inflate(leg.field, 0.2) })),
];

export const sculptedCoats: Readonly<Record<string, Resculpt>> = {
  oilskin: (figure) => {
    const { pelvis, chest, neck, belly, shoulder, build } = figure;
    const hem = pelvis.y - 9.5;
    const body = cut(smooth(3, torsoShape(figure, 2.1), cone(figure, 2.4, hem, 1.7)), throat(figure), below(hem));
    const coat = hollow(body, hem);
    const placket = strip(body, 0.75, -1.9, 1.9, hem + 1, chest.y + 4.4);
    const pocket = (side: number) => strip(body, 0.8, side * 5 - 2.5, side * 5 + 2.5, pelvis.y - 4.6, pelvis.y - 2);
    const yoke = cut(
      both(
        inflate(
          smooth(
            3,
            torsoShape(figure, 2.2),
            sphere(shift(shoulder[0], 0.2, -0.9, 0), build.upperArm[0] + 1.7),
            sphere(shift(shoulder[1], -0.2, -0.9, 0), build.upperArm[0] + 1.7),
          ),
          0.5,
        ),
        above(chest.y + 0.6),
      ),
      throat(figure),
    );
    const collar = cut(
      both(ellipsoid(shift(neck, 0, 0.2, -0.3), 6.4, 4.6, 5.6), above(neck.y - 2), below(neck.y + 2.2)),
      ellipsoid(shift(neck, 0, 2.4, 0.2), 4.6, 5.4, 3.9),
      roundCone(shift(neck, 0, -2, 5), shift(neck, 0, 4, 8), 0.6, 4),
    );
    const heights = [chest.y - 2.6, belly.y - 1.6, pelvis.y + 0.2, pelvis.y - 4.4];
    return [
      { material: oilcloth, limb: "trunk", field: coat },
      { material: oilcloth, limb: "trunk", field: union(yoke, collar) },
      { material: oilcloth, limb: "flap", field: union(placket, pocket(1), pocket(-1)) },
      ...limbs("arm", oilcloth, (side) => armShape(figure, side, 1.7, 0.82)),
      { material: brass, limb: "trunk", field: studs(inflate(body, 0.55), 0, heights) },
      ...cuffs(leather, figure, 2.5, 0.5, 0.84),
    ];
  },
  // Worn over a coat, a strap lies farther out.
  satchel: (figure, [bag, ...others]) => [
    { material: leather, field: union(strapOver(figure), bag?.field ?? strapOver(figure)) },
    ...others,
  ],
  breeches: looser,
  "long-trousers": looser,
  "mud-shorts": (_figure, pieces) => pieces.map((piece) => ({ ...piece, field: inflate(piece.field, 0.8) })),
  "striped-shirt": ({ chest }, [trunk, left, right]) => {
    if (trunk === undefined || left === undefined || right === undefined) return [];
    const stripe: Field = (_x, y) => Math.abs(((y - chest.y + 40) % 4) - 2) - 0.9;
    const stripes = [trunk, left, right].map((piece) => ({
      ...piece,
      material: cloth,
      field: both(inflate(piece.field, 0.5), stripe),
    }));
    return [trunk, left, right, ...stripes];
  },
  // Slabs of cork, sewn in rows.
  "cork-vest": (figure) => {
    const { chest, belly } = figure;
    const waist = belly.y - 4.2;
    const shell = cut(both(torsoShape(figure, 2.8), above(waist), below(chest.y + 5.5)), throat(figure));
    const seams: Field = (x, y) =>
      Math.min(Math.abs(((x + 40) % 4.4) - 2.2) - 0.45, Math.abs(((y - waist + 40) % 5.2) - 2.6) - 0.45);
    return [
      { material: leather, limb: "trunk", field: shell },
      { material: wood, limb: "trunk", field: cut(inflate(shell, 0.8), seams) },
    ];
  },
  smock: (figure, pieces) => [
    ...hollowed(6)(
      figure,
      pieces.filter(({ material }) => material !== accent),
    ),
    ...cuffs(accent, figure, 1.9, 0.6, 0.9),
  ],
  jersey: (_figure, pieces) =>
    pieces.map((piece) => (piece.limb === "trunk" ? { ...piece, field: inflate(piece.field, 0.5) } : piece)),
  clogs: (_figure, pieces) => pieces.map((piece) => ({ ...piece, field: inflate(piece.field, 0.5) })),
  "wrist-wraps": (_figure, pieces) => pieces.map((piece) => ({ ...piece, field: inflate(piece.field, 0.6) })),
  sleeveless: (_figure, [shirt, ...hem]) => [
    ...(shirt ? [{ ...shirt, field: inflate(shirt.field, 0.5) }] : []),
    ...hem,
  ],
  "low-boots": (_figure, pieces) => pieces.map((piece) => ({ ...piece, field: inflate(piece.field, 0.7) })),
  "watch-chain": (figure) => {
    const { belly, build } = figure;
    const vest = torsoShape(figure, 1.9);
    const links = [0, 1, 2, 3, 4, 5, 6].map((link) => {
      const [x, y] = [(link / 6) * build.belly[0] * 0.85, belly.y + 1.8 - 5 * (link / 6) * (1 - link / 6) * 2];
      return { x, y, z: depthAt(vest, x, y) + 0.3 };
    });
    return [
      {
        material: gilt,
        field: union(...links.slice(1).map((to, at) => roundCone(links[at] ?? to, to, at % 2 === 0 ? 0.95 : 0.7, 0.7))),
      },
    ];
  },
  "quilted-jacket": hollowed(3),
  "festival-coat": (figure, pieces) => {
    const { pelvis, chest } = figure;
    const shell = pieces[0]?.field ?? torsoShape(figure, 2);
    const heights = [chest.y - 2, chest.y - 6, chest.y - 10, pelvis.y - 2];
    const others = pieces
      .filter(({ material }) => material !== brass)
      .map((piece) =>
        piece.material === accent
          ? { ...piece, limb: "trunk" as const, field: both(inflate(piece.field, 0.35), armless(figure)) }
          : piece,
      );
    return [
      ...others.map((piece) =>
        piece.limb === "trunk" && piece.material === cloth
          ? { ...piece, field: hollow(piece.field, pelvis.y - 9) }
          : piece,
      ),
      ...cuffs(accent, figure, 2.4, 0.6, 0.92),
      { material: brass, limb: "trunk" as const, field: studs(inflate(shell, 0.8), 0, heights, 1) },
    ];
  },
  kilt: ({ pelvis }, pieces) =>
    pieces.map((piece, at) => (at === 0 ? { ...piece, field: hollow(piece.field, pelvis.y - 9.6) } : piece)),
  "sea-boots": (figure, pieces) => [
    ...pieces.filter(({ material }) => material !== iron),
    { material: iron, field: eachSide((side) => soleOf(figure, side)) },
  ],
};

/** A band over the right shoulder to the left hip, outside of what is worn under it. */
function strapOver(figure: Figure): Field {
  const { chest, belly, build } = figure;
  const [tx, ty, bx, by] = [-build.shoulderWidth * 0.55, chest.y + 6, build.belly[0] + 1, belly.y - 5];
  const length = Math.hypot(tx - bx, ty - by);
  const [nx, ny] = [(ty - by) / length, -(tx - bx) / length];
  return both(torsoShape(figure, 3.6), (x, y) => Math.abs((x - tx) * nx + (y - ty) * ny) - 1.35);
}

/** A thick sole under a boot. */
function soleOf({ ankle, build }: Figure, side: 0 | 1): Field {
  const at = shift(ankle[side], side === 0 ? 0.25 : -0.25, 0, 1.7);
  return both(
    ellipsoid({ ...at, y: 0.8 }, build.shin[1] + 1.7, 4, 5.9),
    below(1.3),
    above(0.05),
    box({ ...at, y: 0.6 }, 9, 0.75, 9, 0.2),
  );
}
