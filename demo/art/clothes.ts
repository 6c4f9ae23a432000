import { type Sculpted, sculpted } from "./art.ts";
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
} from "./field.ts";
import type { Figure, Side } from "./figure.ts";
import { accent, brass, cloth, gilt, iron, leather, linen, type Material, oilcloth, tarred, wood } from "./material.ts";
import type { Piece } from "./render.ts";
import { armShape, eachSide, footShape, handShape, legShape, limbs, skirtShape, torsoShape } from "./shapes.ts";

const worn = (id: string, against: Sculpted["against"], pieces: Sculpted["pieces"]): Sculpted =>
  sculpted(id, pieces, against);

/** The opening for neck and throat. */
const throat = ({ neck }: Figure): Field => ellipsoid(shift(neck, 0, 1.6, 2.2), 3.4, 3.4, 4);

const sleeves = (material: Material, figure: Figure, more: number, length: number): readonly Piece[] =>
  limbs("arm", material, (side) => armShape(figure, side, more, length));

/** The edge of a coat where it closes: one side laid over the other. */
const flap = (shell: Field, from: number, to: number): Field =>
  both(
    inflate(shell, 0.35),
    (x) => Math.max(from - x, x - to),
    (_x, _y, z) => 1 - z,
  );

const cuffs = (figure: Figure, more: number): Field =>
  eachSide((side) =>
    roundCone(
      between(figure.elbow[side], figure.hand[side], 0.6),
      between(figure.elbow[side], figure.hand[side], 0.7),
      figure.build.foreArm[1] + more,
      figure.build.foreArm[1] + more,
    ),
  );

const waistOf = ({ belly }: Figure): number => belly.y - 3.2;

const belt = (figure: Figure, more: number, at = waistOf(figure)): Field =>
  both(torsoShape(figure, more), above(at), below(at + 2));

const buckle = (figure: Figure, more: number): Field =>
  box({ x: 0, y: waistOf(figure) + 1, z: figure.build.belly[2] + more }, 1.4, 1.4, 1.2, 0.3);

export const shirtArt: readonly Sculpted[] = [
  worn("linen-shirt", "bare", (figure) => [
    {
      material: linen,
      limb: "trunk",
      field: cut(both(torsoShape(figure, 1), above(waistOf(figure) - 1)), throat(figure)),
    },
    ...sleeves(linen, figure, 0.8, 0.92),
  ]),
  worn("striped-shirt", "bare", (figure) => {
    const trunk = cut(both(torsoShape(figure, 1), above(waistOf(figure) - 1)), throat(figure));
    const arms = eachSide((side) => armShape(figure, side, 0.8, 0.9));
    const stripe: Field = (_x, y) => Math.abs(((y - figure.chest.y + 40) % 4) - 2) - 1;
    return [
      { material: linen, limb: "trunk", field: trunk },
      ...sleeves(linen, figure, 0.8, 0.9),
      { material: cloth, limb: "trunk", field: both(inflate(trunk, 0.06), stripe) },
      { material: cloth, field: both(inflate(arms, 0.06), stripe) },
    ];
  }),
  worn("smock", "bare", (figure) => [
    {
      material: cloth,
      limb: "trunk",
      field: cut(
        union(torsoShape(figure, 1.1), skirtShape(figure, 1.4, 0.55, 0.8)),
        throat(figure),
        below(figure.pelvis.y - 6),
      ),
    },
    ...sleeves(cloth, figure, 1.1, 0.86),
    { material: leather, field: belt(figure, 2.4) },
    { material: accent, field: cuffs(figure, 1.2) },
  ]),
  worn("jersey", "bare", (figure) => {
    const trunk = cut(both(torsoShape(figure, 1.3), above(waistOf(figure) - 3)), throat(figure));
    const rib: Field = (x, _y, z) => 0.3 * Math.abs(Math.sin(Math.atan2(x, z) * 12));
    return [
      { material: accent, limb: "trunk", field: (x, y, z) => trunk(x, y, z) + rib(x, y, z) },
      ...sleeves(accent, figure, 1.1, 0.96),
    ];
  }),
  worn("sleeveless", "bare", (figure) => [
    { material: cloth, field: cut(both(torsoShape(figure, 1), above(waistOf(figure) - 1)), throat(figure)) },
    { material: linen, field: both(torsoShape(figure, 1.15), above(figure.chest.y - 0.4), below(figure.chest.y + 1)) },
  ]),
];

export const vestArt: readonly Sculpted[] = [
  worn("waistcoat", "sleeved", (figure) => {
    const { chest, belly, build } = figure;
    const opening = both(roundCone(shift(chest, 0, 6, 7), shift(chest, 0, -1.5, 8), 3.4, 0.6), (_x, _y, z) => 1 - z);
    const shell = cut(both(torsoShape(figure, 1.7), above(waistOf(figure) - 2)), throat(figure), opening);
    const buttons = [0, -3, -6].map((down) =>
      sphere({ x: 0, y: belly.y + 2.5 + down, z: Math.max(build.chest[2], build.belly[2]) + 1.7 }, 0.9),
    );
    return [
      { material: accent, field: shell },
      { material: brass, field: union(...buttons) },
    ];
  }),
  worn("apron", "sleeved", (figure) => {
    const { chest, pelvis } = figure;
    const front: Field = (_x, _y, z) => 1.6 - z;
    const bib = both(torsoShape(figure, 1.9), front, (x) => Math.abs(x) - 4.6, below(chest.y + 2.6));
    const skirt = both(skirtShape(figure, 1.9, 0.9, 0.8), front, above(pelvis.y - 10), below(waistOf(figure) + 2));
    return [{ material: leather, field: union(bib, skirt, belt(figure, 2.1)) }];
  }),
  worn("cork-vest", "sleeved", (figure) => {
    const ribs: Field = (x, y) =>
      Math.min(Math.abs(((x + 40) % 4) - 2) - 1.5, Math.abs(y - figure.belly.y - 1) - 0.4) + 0.2;
    const shell = cut(
      both(torsoShape(figure, 2.3), above(waistOf(figure) - 1), below(figure.chest.y + 5.5)),
      throat(figure),
    );
    const bulge: Field = (x, y, z) => shell(x, y, z) + Math.max(0, 0.5 - Math.abs(ribs(x, y, z))) * 0.8;
    return [
      { material: wood, field: bulge },
      {
        material: leather,
        field: union(both(inflate(shell, 0.5), above(figure.belly.y - 0.2), below(figure.belly.y + 1.4))),
      },
    ];
  }),
];

export const chainArt: readonly Sculpted[] = [
  worn("watch-chain", "sleeved", (figure) => {
    const { belly, build } = figure;
    const front = Math.max(build.chest[2], build.belly[2]) + 2;
    const links = Array.from({ length: 7 }, (_, link) => {
      const along = link / 6;
      const x = along * build.belly[0] * 0.8;
      const sag = 4 * along * (1 - along) * 3;
      return sphere({ x, y: belly.y + 1.6 - sag, z: front - x * x * 0.06 }, 0.8);
    });
    return [{ material: gilt, field: union(...links) }];
  }),
];

export const coatArt: readonly Sculpted[] = [
  worn("oilskin", "bare", (figure) => {
    const { pelvis, chest, neck } = figure;
    const shell = cut(
      union(torsoShape(figure, 2.1), skirtShape(figure, 2.2, 0.95, 0.9)),
      throat(figure),
      below(pelvis.y - 11),
    );
    const collar = cut(ellipsoid(shift(neck, 0, 0, -0.2), 6.6, 2.6, 5.6), ellipsoid(shift(neck, 0, 2, 3.4), 3.4, 5, 5));
    const clasps = both(
      inflate(shell, 0.7),
      (x) => Math.abs(x + 2.2) - 0.9,
      (_x, _y, z) => 1 - z,
      (_x, y) => Math.abs(((y - pelvis.y + 41) % 5) - 2.5) - 0.9,
      above(pelvis.y - 4),
      below(chest.y + 3),
    );
    return [
      { material: oilcloth, limb: "trunk", field: smooth(0.8, shell, collar) },
      { material: oilcloth, limb: "flap", field: flap(shell, -12, -0.6) },
      ...sleeves(oilcloth, figure, 1.7, 0.8),
      { material: brass, field: clasps },
      { material: leather, field: cuffs(figure, 1.9) },
    ];
  }),
  worn("quilted-jacket", "bare", (figure) => {
    const { pelvis } = figure;
    const shell = cut(
      union(torsoShape(figure, 2.1), skirtShape(figure, 1.9, 0.35, 0.4)),
      throat(figure),
      below(pelvis.y - 3),
    );
    const seam: Field = (_x, y) => 0.5 * Math.max(0, 0.9 - Math.abs(((y - pelvis.y + 40) % 4) - 2));
    return [
      { material: cloth, limb: "trunk", field: (x, y, z) => shell(x, y, z) + seam(x, y, z) },
      { material: cloth, limb: "flap", field: flap(shell, -12, -0.4) },
      ...sleeves(cloth, figure, 1.8, 0.9),
    ];
  }),
  worn("festival-coat", "bare", (figure) => {
    const { pelvis, neck, chest, build } = figure;
    const shell = cut(
      union(torsoShape(figure, 2), skirtShape(figure, 2.1, 0.8, 1.2)),
      throat(figure),
      below(pelvis.y - 9),
    );
    const hem = both(inflate(shell, 0.3), below(pelvis.y - 6));
    const lapels = eachSide((side) =>
      roundCone(
        shift(neck, side === 0 ? 3 : -3, -0.6, 2.6),
        shift(chest, side === 0 ? 2.6 : -2.6, -4, build.chest[2] + 1.6),
        1.6,
        1,
      ),
    );
    return [
      { material: cloth, limb: "trunk", field: shell },
      ...sleeves(cloth, figure, 1.6, 0.88),
      { material: accent, field: union(hem, lapels, cuffs(figure, 1.8)) },
      {
        material: accent,
        limb: "flap",
        field: both(
          inflate(shell, 0.4),
          (x) => Math.abs(x) - 1.7,
          (_x, _y, z) => 1 - z,
        ),
      },
      {
        material: brass,
        field: both(
          inflate(shell, 0.8),
          (x) => Math.abs(x) - 1,
          (_x, _y, z) => 1 - z,
          (_x, y) => Math.abs(((y - pelvis.y + 40) % 4) - 2) - 0.7,
          above(pelvis.y - 2),
          below(chest.y + 2),
        ),
      },
    ];
  }),
  worn("cape", "sleeved", (figure) => {
    const { chest, shoulder, pelvis, knee, sway, neck, build } = figure;
    const back = -build.chest[2] - 1.6;
    const fall = smooth(
      4,
      roundCone(
        shift(shoulder[0], -1, 0.6, -1.6),
        { x: build.shoulderWidth + 1.6, y: knee[0].y + 3.5, z: back - 1.8 - sway * 1.6 },
        3.4,
        3.2,
      ),
      roundCone(
        shift(shoulder[1], 1, 0.6, -1.6),
        { x: -build.shoulderWidth - 1.6, y: knee[1].y + 3.5, z: back - 1.8 - sway * 1.6 },
        3.4,
        3.2,
      ),
      roundCone(shift(chest, 0, 3, -3), { x: 0, y: pelvis.y - 8, z: back - 2.6 - sway * 1.6 }, 5.4, 4.2),
    );
    const yoke = cut(both(torsoShape(figure, 2.4), above(chest.y + 1.4)), ellipsoid(shift(neck, 0, 0, 3), 3.6, 5, 5));
    return [
      {
        material: oilcloth,
        field: smooth(
          1.5,
          both(fall, (_x, _y, z) => z - 1.6),
          yoke,
        ),
      },
      { material: brass, field: sphere(shift(chest, 0, 3, build.chest[2] + 1.6), 1.6) },
    ];
  }),
];

const trouserLegs = (material: Material, figure: Figure, more: number, length: number): readonly Piece[] => [
  { material, field: both(torsoShape(figure, more), below(waistOf(figure) + 1.2)) },
  ...limbs("leg", material, (side) => legShape(figure, side, more, length)),
];

export const trouserArt: readonly Sculpted[] = [
  worn("breeches", "sleeved", (figure) => [
    ...trouserLegs(cloth, figure, 1, 0.72),
    { material: leather, field: belt(figure, 1.5) },
    { material: brass, field: buckle(figure, 1.4) },
  ]),
  worn("long-trousers", "sleeved", (figure) => [
    ...trouserLegs(cloth, figure, 1.1, 0.97),
    { material: leather, field: belt(figure, 1.5) },
  ]),
  worn("mud-shorts", "sleeved", (figure) => trouserLegs(cloth, figure, 1.2, 0.42)),
  worn("kilt", "sleeved", (figure) => {
    const pleats: Field = (x, _y, z) => 0.35 * Math.abs(Math.sin(Math.atan2(x, z) * 9));
    const shape = both(skirtShape(figure, 1.3, 0.85, 1.4), below(waistOf(figure) + 1.2), above(figure.pelvis.y - 9.6));
    const hem = both(inflate(shape, 0.2), above(figure.pelvis.y - 9), below(figure.pelvis.y - 7.6));
    return [
      { material: cloth, field: (x, y, z) => shape(x, y, z) + pleats(x, y, z) },
      { material: accent, field: hem },
      { material: leather, field: belt(figure, 1.9) },
    ];
  }),
  worn("waders", "sleeved", (figure) => {
    const bib = both(torsoShape(figure, 1.6), below(figure.chest.y + 0.5));
    const straps = both(torsoShape(figure, 1.5), (x) => Math.abs(Math.abs(x) - 3.4) - 1.6, above(figure.chest.y - 1));
    return [
      { material: oilcloth, field: bib },
      ...limbs("leg", oilcloth, (side) => legShape(figure, side, 1.5, 0.94)),
      ...limbs("leg", tarred, (side) => footShape(figure, side, 1.2, 4.6)),
      { material: leather, field: straps },
    ];
  }),
];

const sole = (figure: Figure, side: Side, material: Field): Field => both(material, below(figure.ankle[side].y - 1.7));

export const bootArt: readonly Sculpted[] = [
  worn("clogs", "bare", (figure) => [
    {
      material: wood,
      field: eachSide((side) => cut(smooth(0.6, footShape(figure, side, 0.8, 4.6)), above(figure.ankle[side].y + 0.6))),
    },
  ]),
  worn("sea-boots", "bare", (figure) => {
    const shaft = (side: Side) =>
      roundCone(
        between(figure.knee[side], figure.ankle[side], 0.22),
        figure.ankle[side],
        figure.build.shin[0] + 1.5,
        figure.build.shin[1] + 1.2,
      );
    const turn = (side: Side) => {
      const top = between(figure.knee[side], figure.ankle[side], 0.2).y;
      return both(inflate(shaft(side), 0.6), above(top - 0.4), below(top + 2));
    };
    const boot = (side: Side) => smooth(0.8, shaft(side), footShape(figure, side, 1.1, 4.4));
    return [
      { material: leather, field: eachSide(boot) },
      { material: accent, field: eachSide(turn) },
      {
        material: iron,
        field: eachSide((side) => sole(figure, side, inflate(footShape(figure, side, 1.1, 4.4), 0.1))),
      },
    ];
  }),
  worn("mud-boots", "bare", (figure) => {
    const shaft = (side: Side) =>
      roundCone(
        between(figure.knee[side], figure.ankle[side], 0.05),
        figure.ankle[side],
        figure.build.shin[0] + 1.6,
        figure.build.shin[1] + 1.4,
      );
    const boot = (side: Side) => smooth(0.9, shaft(side), footShape(figure, side, 1.3, 4.6));
    return [{ material: oilcloth, field: eachSide(boot) }];
  }),
  worn("sandals", "bare", (figure) => [
    {
      material: leather,
      field: eachSide((side) =>
        union(
          both(footShape(figure, side, 0.8), below(figure.ankle[side].y - 1.6)),
          both(footShape(figure, side, 0.7), (_x, _y, z) => Math.abs(z - figure.ankle[side].z - 2.2) - 0.8),
          both(footShape(figure, side, 0.8), above(figure.ankle[side].y + 0.4), below(figure.ankle[side].y + 1.9)),
        ),
      ),
    },
  ]),
  worn("low-boots", "bare", (figure) => [
    {
      material: leather,
      field: eachSide((side) =>
        smooth(
          0.8,
          footShape(figure, side, 1),
          roundCone(
            figure.ankle[side],
            shift(between(figure.ankle[side], figure.knee[side], 0.3), 0, 0, 0),
            figure.build.shin[1] + 1,
            figure.build.shin[1] + 1.2,
          ),
        ),
      ),
    },
    {
      material: linen,
      field: eachSide((side) =>
        roundCone(
          between(figure.ankle[side], figure.knee[side], 0.36),
          between(figure.ankle[side], figure.knee[side], 0.44),
          figure.build.shin[1] + 1.4,
          figure.build.shin[1] + 1.4,
        ),
      ),
    },
  ]),
];

export const gloveArt: readonly Sculpted[] = [
  {
    ...worn("gauntlets", "bare", (figure) => [
      {
        material: leather,
        field: eachSide((side) =>
          union(
            handShape(figure, side, 0.7),
            roundCone(
              between(figure.elbow[side], figure.hand[side], 0.45),
              figure.hand[side],
              figure.build.foreArm[1] + 1.4,
              figure.build.foreArm[1] + 0.8,
            ),
          ),
        ),
      },
    ]),
    builds: ["oak"],
  },
  worn("wrist-wraps", "bare", (figure) => [
    {
      material: accent,
      field: eachSide((side) =>
        roundCone(
          between(figure.elbow[side], figure.hand[side], 0.5),
          between(figure.elbow[side], figure.hand[side], 0.86),
          figure.build.foreArm[1] + 0.9,
          figure.build.foreArm[1] + 0.9,
        ),
      ),
    },
  ]),
  worn("mittens", "bare", (figure) => [
    {
      material: accent,
      field: eachSide((side) =>
        union(
          handShape(figure, side, 0.9),
          roundCone(
            between(figure.elbow[side], figure.hand[side], 0.8),
            figure.hand[side],
            figure.build.foreArm[1] + 1.5,
            figure.build.foreArm[1] + 1,
          ),
        ),
      ),
    },
  ]),
];
