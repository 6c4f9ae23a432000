import type { Matrix } from "./matrix.ts";

/** Joints in a pose: where each is in the world of the figure, by its number. */
export type Pose = readonly Matrix[];

/** The joints of a model, from the roots down, and the clips that move them. */
export interface Skeleton {
  /** The numbers of joints by their names. */
  readonly numbers: ReadonlyMap<string, number>;
  /** Seconds of a clip; 0 for one that is not there. */
  durationOf(clip: string): number;
  /** The joints at a time of a clip, in seconds; at rest where there is no such clip. */
  pose(clip: string, time: number): Pose;
}
