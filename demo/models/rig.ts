import { between, shift, type Vector, vector } from "../art/field.ts";
import type { Build, Figure, Side } from "../art/figure.ts";
import { motions, poseFigure, restFigure } from "../art/figure.ts";

/** Turned by `[x, y, z, w]`, as glTF has it. */
export type Turn = readonly [number, number, number, number];

/** Where a joint is in a pose, and how far it is turned from its rest. */
export interface Place {
  readonly at: Vector;
  readonly turn: Turn;
}

/** A joint of the couriers' skeleton. */
export interface Joint {
  readonly name: string;
  readonly parent: string | undefined;
  readonly place: (figure: Figure, rest: Figure) => Place;
}

/** Units of the models for a pixel of the pictures: a courier is about a meter and a half tall. */
export const unit = 1 / 40;

const still: Turn = [0, 0, 0, 1];

/** Turned around the axis to the figure's left: what hangs swings forward. */
const swung = (angle: number): Turn => [Math.sin(angle / 2), 0, 0, Math.cos(angle / 2)];

/** The shortest turn from one direction to another. */
function turned(from: readonly [Vector, Vector], to: readonly [Vector, Vector]): Turn {
  const [a, b] = [directionOf(from), directionOf(to)];
  const w = 1 + a.x * b.x + a.y * b.y + a.z * b.z;
  const turn: Turn = [a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x, w];
  const length = Math.hypot(...turn);
  return turn.map((value) => value / length) as unknown as Turn;
}

function directionOf([from, to]: readonly [Vector, Vector]): Vector {
  const length = Math.hypot(to.x - from.x, to.y - from.y, to.z - from.z) || 1;
  return vector((to.x - from.x) / length, (to.y - from.y) / length, (to.z - from.z) / length);
}

/** Where a hand holds things. */
const grip = ({ hand, elbow }: Figure, side: Side): Vector => between(elbow[side], hand[side], 1.15);

/** The line of something long that a hand holds: upright, but at the oars. */
function shaftLine(figure: Figure, side: Side): readonly [Vector, Vector] {
  const [hold, out] = [grip(figure, side), side === 0 ? 1 : -1];
  if (!figure.isRowing) return [hold, shift(hold, 0, 1, 0)];
  return [shift(hold, out * -3, 12, -5), shift(hold, out * 7, 9 - hold.y, 4)];
}

const noSlide = (_figure: Figure, _side: Side): number => 0;

/** How far something long slides down in a raised hand, so that it does not reach for the sky. */
const slideOf = (figure: Figure, side: Side): number =>
  figure.isRowing ? 0 : Math.max(0, grip(figure, side).y - 22) * 0.9;

const sided = (name: string, side: Side): string => `${name}.${side === 0 ? "L" : "R"}`;

const limb = (side: Side): readonly Joint[] => {
  const bone = (name: string, parent: string, ends: (figure: Figure) => readonly [Vector, Vector]): Joint => ({
    name: sided(name, side),
    parent,
    place: (figure, rest) => ({ at: ends(figure)[0], turn: turned(ends(rest), ends(figure)) }),
  });
  const held = (name: string, turn: (figure: Figure, rest: Figure) => Turn, slide = noSlide): Joint => ({
    name: sided(name, side),
    parent: sided("hand", side),
    place: (figure, rest) => ({ at: shift(grip(figure, side), 0, -slide(figure, side), 0), turn: turn(figure, rest) }),
  });
  const sway = side === 0 ? -0.07 : 0.07;
  return [
    bone("arm", "chest", ({ shoulder, elbow }) => [shoulder[side], elbow[side]]),
    bone("forearm", sided("arm", side), ({ elbow, hand }) => [elbow[side], hand[side]]),
    bone("hand", sided("forearm", side), ({ elbow, hand }) => [hand[side], between(elbow[side], hand[side], 2)]),
    // What hangs from a hand goes where the hand goes, and does not turn with it.
    held("hold", (figure) => swung(figure.sway * sway)),
    held("shaft", (figure, rest) => turned(shaftLine(rest, side), shaftLine(figure, side)), slideOf),
    bone("thigh", "hips", ({ hip, knee }) => [hip[side], knee[side]]),
    bone("shin", sided("thigh", side), ({ knee, ankle }) => [knee[side], ankle[side]]),
    {
      name: sided("foot", side),
      parent: sided("shin", side),
      place: ({ ankle }) => ({ at: ankle[side], turn: swung(Math.min(0.5, Math.max(0, ankle[side].y - 2.6) * 0.1)) }),
    },
  ];
};

/** The joints of the couriers, parents first. */
export const joints: readonly Joint[] = [
  { name: "hips", parent: undefined, place: ({ pelvis }) => ({ at: pelvis, turn: still }) },
  {
    name: "spine",
    parent: "hips",
    place: (figure, rest) => ({
      at: figure.belly,
      turn: turned([rest.pelvis, rest.chest], [figure.pelvis, figure.chest]),
    }),
  },
  {
    name: "chest",
    parent: "spine",
    place: (figure, rest) => ({ at: figure.chest, turn: turned([rest.belly, rest.neck], [figure.belly, figure.neck]) }),
  },
  {
    name: "neck",
    parent: "chest",
    place: (figure, rest) => ({ at: figure.neck, turn: turned([rest.chest, rest.head], [figure.chest, figure.head]) }),
  },
  {
    name: "head",
    parent: "neck",
    place: ({ head }, rest) => ({ at: head, turn: swung((head.z - rest.head.z) * 0.05) }),
  },
  {
    name: "tail",
    parent: "head",
    place: ({ head, sway }) => ({ at: shift(head, 0, -2, -5), turn: swung(sway * 0.08) }),
  },
  {
    name: "drape",
    parent: "chest",
    place: ({ chest, build, sway }) => ({ at: shift(chest, 0, 5, -build.chest[2]), turn: swung(sway * 0.08) }),
  },
  {
    name: "bag",
    parent: "hips",
    place: ({ pelvis, build, sway }) => ({
      at: vector(build.pelvis[0] + 1, pelvis.y + 2, 0),
      turn: swung(sway * 0.12),
    }),
  },
  ...limb(0),
  ...limb(1),
];

/** How a joint stands to its parent, in units of the models. */
export interface LocalPlace {
  readonly translation: readonly [number, number, number];
  readonly rotation: Turn;
}

/** All joints of a pose, by name. */
export function localPlaces(figure: Figure, rest: Figure): ReadonlyMap<string, LocalPlace> {
  const places = new Map(joints.map(({ name, place }) => [name, place(figure, rest)]));
  return new Map(
    joints.map(({ name, parent }) => {
      const { at, turn } = places.get(name) as Place;
      const above = places.get(parent ?? "") ?? { at: vector(0, 0, 0), turn: still };
      const back: Turn = [-above.turn[0], -above.turn[1], -above.turn[2], above.turn[3]];
      const away = rotated(back, [at.x - above.at.x, at.y - above.at.y, at.z - above.at.z]);
      return [
        name,
        { translation: away.map((value) => value * unit) as [number, number, number], rotation: times(back, turn) },
      ];
    }),
  );
}

function times([ax, ay, az, aw]: Turn, [bx, by, bz, bw]: Turn): Turn {
  return [
    aw * bx + ax * bw + ay * bz - az * by,
    aw * by - ax * bz + ay * bw + az * bx,
    aw * bz + ax * by - ay * bx + az * bw,
    aw * bw - ax * bx - ay * by - az * bz,
  ];
}

function rotated([x, y, z, w]: Turn, [px, py, pz]: readonly [number, number, number]): [number, number, number] {
  const [tx, ty, tz] = [2 * (y * pz - z * py), 2 * (z * px - x * pz), 2 * (x * py - y * px)];
  return [px + w * tx + y * tz - z * ty, py + w * ty + z * tx - x * tz, pz + w * tz + x * ty - y * tx];
}

/** A clip: all joints at each of its times. */
export interface Clip {
  readonly name: string;
  readonly times: readonly number[];
  readonly poses: readonly ReadonlyMap<string, LocalPlace>[];
}

/** Poses between two frames of the pictures. */
const between2d = 3;

export function clipsOf(build: Build): readonly Clip[] {
  const rest = restFigure(build);
  // Seen from all around, arms are held farther from the trunk than in pictures.
  const wide = { ...build, armSplay: build.armSplay + 0.2 };
  return motions.map(({ id, frames, fps }) => {
    const steps = Array.from({ length: frames * between2d + 1 }, (_, step) => step / between2d);
    return {
      name: id,
      times: steps.map((frame) => frame / fps),
      poses: steps.map((frame) => localPlaces(poseFigure(wide, id, frame), rest)),
    };
  });
}
