import { shift, type Vector, vector } from "./field.ts";

/** The measures of a build, in pixels. */
export interface Build {
  readonly id: string;
  readonly hipHeight: number;
  readonly hipWidth: number;
  readonly shoulderHeight: number;
  readonly shoulderWidth: number;
  readonly headHeight: number;
  readonly chest: readonly [number, number, number];
  readonly belly: readonly [number, number, number];
  readonly pelvis: readonly [number, number, number];
  readonly upperArm: readonly [number, number];
  readonly foreArm: readonly [number, number];
  readonly thigh: readonly [number, number];
  readonly shin: readonly [number, number];
  readonly hand: number;
  readonly armLength: readonly [number, number];
  readonly armSplay: number;
}

export const builds: readonly Build[] = [
  {
    id: "reed",
    hipHeight: 21,
    hipWidth: 3.3,
    shoulderHeight: 37,
    shoulderWidth: 6.2,
    headHeight: 48.5,
    chest: [5.8, 5.8, 4.3],
    belly: [5.1, 5, 3.9],
    pelvis: [5.7, 4.4, 4.3],
    upperArm: [2.7, 2.3],
    foreArm: [2.3, 2.1],
    thigh: [3.4, 2.8],
    shin: [2.8, 2.3],
    hand: 2.5,
    armLength: [8.5, 8],
    armSplay: 0.2,
  },
  {
    id: "oak",
    hipHeight: 20,
    hipWidth: 4.1,
    shoulderHeight: 37.5,
    shoulderWidth: 8.8,
    headHeight: 49,
    chest: [8.2, 6.6, 5.6],
    belly: [7.8, 6.2, 5.8],
    pelvis: [7.2, 4.8, 5.2],
    upperArm: [3.6, 3],
    foreArm: [3, 2.7],
    thigh: [4, 3.4],
    shin: [3.4, 2.8],
    hand: 3,
    armLength: [8.6, 8.2],
    armSplay: 0.24,
  },
];

/** The left side has x > 0: the viewer's right when the figure faces south. */
export type Side = 0 | 1;
export type Pair<T> = readonly [T, T];

/** A build in a pose: where its joints are. x to its left, y up from the ground, z forward. */
export interface Figure {
  readonly build: Build;
  readonly head: Vector;
  readonly neck: Vector;
  readonly chest: Vector;
  readonly belly: Vector;
  readonly pelvis: Vector;
  readonly shoulder: Pair<Vector>;
  readonly elbow: Pair<Vector>;
  readonly hand: Pair<Vector>;
  readonly hip: Pair<Vector>;
  readonly knee: Pair<Vector>;
  readonly ankle: Pair<Vector>;
  /** How far things that hang lag behind, in pixels forward. */
  readonly sway: number;
}

export interface Motion {
  readonly id: string;
  readonly frames: number;
  readonly fps: number;
}

export const motions: readonly Motion[] = [
  { id: "idle", frames: 4, fps: 4 },
  { id: "walk", frames: 8, fps: 10 },
];

const stride = 6.5;
const lift = 3.6;
const ankleHeight = 2.6;

/** Poses a build for a frame. The head only ever moves by whole pixels, so that faces stay crisp. */
export function poseFigure(build: Build, motion: string, frame: number): Figure {
  return motion === "walk" ? walk(build, frame / 8) : stand(build, frame);
}

function stand(build: Build, frame: number): Figure {
  const breath = frame >= 2 ? -1 : 0;
  const feet: Pair<Vector> = [
    vector(build.hipWidth + 0.5, ankleHeight, 0),
    vector(-build.hipWidth - 0.5, ankleHeight, 0),
  ];
  return assemble(build, 0, breath, feet, [-0.04, -0.04], [0.14, 0.14], 0);
}

function walk(build: Build, phase: number): Figure {
  const foot = (side: Side): Vector => {
    const at = (phase + (side === 0 ? 0 : 0.5)) % 1;
    const planted = at < 0.5;
    const along = planted ? 1 - at * 4 : -1 + (1 - Math.cos((at - 0.5) * 2 * Math.PI));
    const raised = planted ? 0 : lift * Math.sin((at - 0.5) * 2 * Math.PI);
    return vector((side === 0 ? 1 : -1) * (build.hipWidth + 0.2), ankleHeight + raised, along * stride);
  };
  // Lowest when both feet are on the ground, twice a cycle.
  const bob = [-1, -1, 0, 0, -1, -1, 0, 0][Math.round(phase * 8) % 8] ?? 0;
  const swing = Math.cos(phase * 2 * Math.PI) * 0.5;
  return assemble(
    build,
    bob,
    bob,
    [foot(0), foot(1)],
    [-swing, swing],
    [0.35 - Math.min(0, swing) * 0.4, 0.35 + Math.max(0, swing) * 0.4],
    swing * 2,
  );
}

function assemble(
  build: Build,
  hips: number,
  torso: number,
  ankle: Pair<Vector>,
  swing: Pair<number>,
  bend: Pair<number>,
  sway: number,
): Figure {
  const pelvis = vector(0, build.hipHeight + 1 + hips, 0);
  const belly = vector(0, build.hipHeight + 7 + torso, 0.2);
  const chest = vector(0, build.shoulderHeight - 4.2 + torso, 0);
  const neck = vector(0, build.shoulderHeight + 2.2 + torso, -0.3);
  const head = vector(0, build.headHeight + torso, 0.4);
  const pair = <T>(make: (side: Side) => T): Pair<T> => [make(0), make(1)];
  const outward = (side: Side) => (side === 0 ? 1 : -1);
  const hip = pair((side) => vector(outward(side) * build.hipWidth, build.hipHeight + hips, 0));
  const shoulder = pair((side) => vector(outward(side) * build.shoulderWidth, build.shoulderHeight + torso - 1.8, 0));
  const elbow = pair((side) => reach(shoulder[side], build.armLength[0], swing[side], build.armSplay * outward(side)));
  const hand = pair((side) =>
    reach(elbow[side], build.armLength[1], swing[side] + bend[side], build.armSplay * 0.45 * outward(side)),
  );
  const knee = pair((side) => bendKnee(hip[side], ankle[side], (build.hipHeight - ankleHeight) / 2 + 0.35));
  return { build, head, neck, chest, belly, pelvis, shoulder, elbow, hand, hip, knee, ankle, sway };
}

/** The far end of a bone that hangs down, turned forward and outward. */
function reach(from: Vector, length: number, forward: number, outward: number): Vector {
  const down = Math.cos(forward) * Math.cos(outward);
  return shift(from, length * Math.sin(outward), -length * down, length * Math.sin(forward));
}

/** Where the knee goes when thigh and shin are each `bone` long: in front of the line from hip to ankle. */
function bendKnee(hip: Vector, ankle: Vector, bone: number): Vector {
  const dx = ankle.x - hip.x;
  const dy = ankle.y - hip.y;
  const dz = ankle.z - hip.z;
  const half = Math.hypot(dx, dy, dz) / 2;
  const out = Math.sqrt(Math.max(0, bone * bone - half * half));
  const across = Math.hypot(dy, dz);
  return vector(hip.x + dx / 2, hip.y + dy / 2 + (dz / across) * out, hip.z + dz / 2 - (dy / across) * out);
}
