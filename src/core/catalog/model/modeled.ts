/** What bodies and parts of a rig share in three dimensions: a skeleton, its clips, and places on it. */
export interface RigModel {
  /** Path of the glTF file inside the catalog folder; may hold `{body}`, for bodies with limbs of other lengths. */
  readonly file: string;
  /** The names of clips, by animation; the others are called as their animation is. */
  readonly clips: ReadonlyMap<string, string>;
  /** Pixels of the rig's frame for a unit of the model. */
  readonly scale: number;
  /** Degrees by which one looks down on the figure. */
  readonly tilt: number;
  /** How wide lines of ink are, in pixels of the rig's frame. */
  readonly ink: number;
  /** Degrees by which the figure is turned around, against the clock seen from above, by facing; 0 looks at the viewer. */
  readonly turns: ReadonlyMap<string, number>;
  /** Places that meshes hang on, such as a hand. */
  readonly points: ReadonlyMap<string, JointPoint>;
}

/** A place that moves with a joint. */
export interface JointPoint {
  /** The name of the joint. */
  readonly joint: string;
  /** From the joint, along its axes, in units of the model. */
  readonly offset: readonly [x: number, y: number, z: number];
}

/** A mesh of a glTF file, as a body or a part shows it. */
export interface Mesh {
  /** Path of the file inside the catalog folder; may hold `{body}`. */
  readonly file: string;
  /** The name of the node that shows it; all meshes of the file when left out. */
  readonly node: string | undefined;
  readonly group: string | undefined;
  /** Shown only while the part is worn in this slot. */
  readonly in: string | undefined;
  /** Channels by the names of materials; the one for all others under `""`. */
  readonly channels: ReadonlyMap<string, string>;
  /** The point it hangs on, without a skin; `undefined` for one that bends with the skeleton. */
  readonly attach: string | undefined;
  /** The forms it is shown in; `undefined` means all, and none. */
  readonly forms: readonly string[] | undefined;
  /** The forms it is not shown in. */
  readonly notForms: readonly string[];
}

/** What a figure touches others with in three dimensions: a cylinder with half balls on both ends, upright on the ground, in units of the model. */
export interface Capsule {
  readonly radius: number;
  /** From the ground to its top. */
  readonly height: number;
}
