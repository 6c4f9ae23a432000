import { shift, type Vector, vector } from "./field.ts";

/** The measures of a build, in pixels. */
export interface Build {
  readonly id: string;
  readonly hipHeight: number;
  readonly hipWidth: number;
  /** From the hips up to the middle of the belly. */
  readonly waist: number;
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

const couriers: readonly Build[] = [
  {
    id: "reed",
    hipHeight: 21,
    hipWidth: 3.3,
    waist: 7,
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
    waist: 7,
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

/** An apprentice: shorter and slighter than the courier they grow into, with the same head. */
function young(build: Build): Build {
  const slim = ([width, height, depth]: Build["chest"]): Build["chest"] => [width * 0.86, height * 0.84, depth * 0.9];
  const short = (lengths: readonly [number, number]): readonly [number, number] => [lengths[0] * 0.8, lengths[1] * 0.8];
  return {
    ...build,
    id: `${build.id}-young`,
    hipHeight: build.hipHeight - 5,
    hipWidth: build.hipWidth * 0.9,
    waist: build.waist - 1.4,
    shoulderHeight: build.shoulderHeight - 8,
    shoulderWidth: build.shoulderWidth * 0.86,
    headHeight: build.headHeight - 8,
    chest: slim(build.chest),
    belly: slim(build.belly),
    pelvis: slim(build.pelvis),
    upperArm: [build.upperArm[0] * 0.94, build.upperArm[1] * 0.94],
    foreArm: [build.foreArm[0] * 0.94, build.foreArm[1] * 0.94],
    hand: build.hand * 0.94,
    armLength: short(build.armLength),
  };
}

/** Every build the art is drawn for: couriers, then apprentices. */
export const builds: readonly Build[] = [...couriers, ...couriers.map(young)];

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
  /** Whether what is held is in the water. */
  readonly isRowing: boolean;
}

export interface Motion {
  readonly id: string;
  readonly frames: number;
  readonly fps: number;
}

export const motions: readonly Motion[] = [
  { id: "idle", frames: 4, fps: 4 },
  { id: "walk", frames: 8, fps: 10 },
  { id: "row", frames: 6, fps: 6 },
  { id: "wade", frames: 8, fps: 8 },
  { id: "hail", frames: 6, fps: 8 },
  { id: "trudge", frames: 8, fps: 7 },
];

const ankleHeight = 2.6;

/** How a build is sculpted to be bent: arms held out, so that they are apart from the trunk. */
export function restFigure(build: Build): Figure {
  const arm = { swing: 0, bend: 0.06, out: 0.5, outward: 0.5 };
  return assemble(build, { hips: 0, torso: 0, lean: 0, ankle: standingFeet(build), arm: [arm, arm], sway: 0 });
}

/** Values by frame, and smooth ways between them. */
function eased(values: readonly number[], frame: number): number {
  const first = Math.floor(frame);
  const [from = 0, to = 0] = [first, first + 1].map((at) => values[at % values.length]);
  return from + (to - from) * (0.5 - 0.5 * Math.cos((frame - first) * Math.PI));
}

/**
 * Poses a build for a frame, or between two. At frames the head only ever rises and falls by whole pixels, so that faces stay crisp.
 */
export function poseFigure(build: Build, motion: string, frame: number): Figure {
  switch (motion) {
    case "walk":
      return step(build, frame / 8, walking);
    case "wade":
      return step(build, frame / 8, wading);
    case "trudge":
      return step(build, frame / 8, trudging);
    case "row":
      return row(build, frame);
    case "hail":
      return hail(build, frame);
    default:
      return stand(build, frame);
  }
}

/** How far a pose is from standing straight. */
interface Pose {
  readonly hips: number;
  readonly torso: number;
  /** How far the head is bent forward, in pixels. */
  readonly lean: number;
  readonly ankle: Pair<Vector>;
  /** The upper arm, in radians forward and outward; the forearm, in radians more than that. */
  readonly arm: Pair<{ readonly swing: number; readonly bend: number; readonly out: number; readonly outward: number }>;
  readonly sway: number;
  readonly isRowing?: boolean;
}

function standingFeet(build: Build, apart = 0.5): Pair<Vector> {
  return [vector(build.hipWidth + apart, ankleHeight, 0), vector(-build.hipWidth - apart, ankleHeight, 0)];
}

function hanging(build: Build, swing: number, bend: number): Pose["arm"][0] {
  return { swing, bend, out: build.armSplay, outward: build.armSplay * 0.45 };
}

function stand(build: Build, frame: number): Figure {
  const breath = eased([0, 0, -1, -1], frame);
  const arm = hanging(build, -0.04, 0.14);
  return assemble(build, { hips: 0, torso: breath, lean: 0, ankle: standingFeet(build), arm: [arm, arm], sway: 0 });
}

/** A way of going on foot. */
interface Gait {
  readonly stride: number;
  readonly lift: number;
  /** How low the hips go at each eighth of the cycle: lowest when both feet are on the ground. */
  readonly bob: readonly number[];
  readonly swing: number;
  readonly bend: number;
  readonly lean: number;
  /** How much farther out the arms are held than when they hang. */
  readonly out: number;
}

const walking: Gait = {
  stride: 6.5,
  lift: 3.6,
  bob: [-1, -1, 0, 0, -1, -1, 0, 0],
  swing: 0.5,
  bend: 0.35,
  lean: 0,
  out: 0,
};
/** Knees high, arms out for balance. */
const wading: Gait = {
  stride: 4.6,
  lift: 6.5,
  bob: [-1, -1, 0, 0, -1, -1, 0, 0],
  swing: 0.22,
  bend: 0.5,
  lean: 0,
  out: 0.62,
};
/** Feet that hardly leave the ground, and a head that hangs. */
const trudging: Gait = {
  stride: 4.2,
  lift: 1.4,
  bob: [-2, -2, -1, -1, -2, -2, -1, -1],
  swing: 0.2,
  bend: 0.12,
  lean: 3,
  out: -0.06,
};

function step(build: Build, phase: number, gait: Gait): Figure {
  const foot = (side: Side): Vector => {
    const at = (phase + (side === 0 ? 0 : 0.5)) % 1;
    const planted = at < 0.5;
    const along = planted ? 1 - at * 4 : -1 + (1 - Math.cos((at - 0.5) * 2 * Math.PI));
    const raised = planted ? 0 : gait.lift * Math.sin((at - 0.5) * 2 * Math.PI);
    return vector((side === 0 ? 1 : -1) * (build.hipWidth + 0.2), ankleHeight + raised, along * gait.stride);
  };
  const bob = eased(gait.bob, phase * 8);
  const swing = Math.cos(phase * 2 * Math.PI) * gait.swing;
  const arm = (forward: number): Pose["arm"][0] => ({
    swing: forward + gait.lean * 0.03,
    bend: gait.bend + Math.max(0, forward) * 0.4,
    out: build.armSplay + gait.out,
    outward: build.armSplay * 0.45 + gait.out * 1.1,
  });
  return assemble(build, {
    hips: bob,
    torso: bob - Math.round(gait.lean / 3),
    lean: gait.lean,
    ankle: [foot(0), foot(1)],
    arm: [arm(-swing), arm(swing)],
    sway: swing * 2,
  });
}

/** Both arms reach forward, pull back and come round, and the body goes with them. */
function row(build: Build, frame: number): Figure {
  const phase = (frame / 6) * 2 * Math.PI;
  const forward = Math.cos(phase);
  const arm = {
    swing: 0.45 + 0.55 * forward,
    bend: 0.9 - 0.75 * forward,
    out: build.armSplay + 0.12,
    outward: build.armSplay * 0.45,
  };
  return assemble(build, {
    hips: eased([-2, -2, -1, -1, -1, -2], frame),
    torso: eased([-3, -3, -2, -1, -2, -3], frame),
    lean: eased([3, 2, 0, -1, 0, 2], frame),
    ankle: standingFeet(build, 1.4),
    arm: [arm, arm],
    sway: -forward * 0.8,
    isRowing: true,
  });
}

/** The right arm goes up and waves twice. */
function hail(build: Build, frame: number): Figure {
  const raised = eased([0.4, 1, 1, 1, 1, 0.5, 0], frame);
  const wave = eased([0, -0.3, 0.35, -0.3, 0.35, 0, 0], frame);
  const up = { swing: 0.2 * raised, bend: 0.05, out: build.armSplay + 1.95 * raised, outward: 2.55 * raised + wave };
  return assemble(build, {
    hips: 0,
    torso: 0,
    lean: 0,
    ankle: standingFeet(build),
    arm: [hanging(build, -0.04, 0.14), up],
    sway: wave,
  });
}

function assemble(build: Build, { hips, torso, lean, ankle, arm, sway, isRowing = false }: Pose): Figure {
  const pelvis = vector(0, build.hipHeight + 1 + hips, 0);
  const belly = vector(0, build.hipHeight + build.waist + torso, 0.2 + lean * 0.1);
  const chest = vector(0, build.shoulderHeight - 4.2 + torso, lean * 0.4);
  const neck = vector(0, build.shoulderHeight + 2.2 + torso, -0.3 + lean * 0.8);
  const head = vector(0, build.headHeight + torso, 0.4 + lean);
  const pair = <T>(make: (side: Side) => T): Pair<T> => [make(0), make(1)];
  const outward = (side: Side) => (side === 0 ? 1 : -1);
  const hip = pair((side) => vector(outward(side) * build.hipWidth, build.hipHeight + hips, 0));
  const shoulder = pair((side) =>
    vector(outward(side) * build.shoulderWidth, build.shoulderHeight + torso - 1.8, lean * 0.5),
  );
  const elbow = pair((side) =>
    reach(shoulder[side], build.armLength[0], arm[side].swing, arm[side].out * outward(side)),
  );
  const hand = pair((side) =>
    reach(elbow[side], build.armLength[1], arm[side].swing + arm[side].bend, arm[side].outward * outward(side)),
  );
  const knee = pair((side) => bendKnee(hip[side], ankle[side], (build.hipHeight - ankleHeight) / 2 + 0.35));
  return { build, head, neck, chest, belly, pelvis, shoulder, elbow, hand, hip, knee, ankle, sway, isRowing };
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
