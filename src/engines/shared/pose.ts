import type { Look, Moment } from "../../core/look/look.ts";
import type { Figure } from "../../core/play/figure.ts";

/** What a drawn figure shows and does, as a game reads and sets it. */
export interface Pose {
  /** What is shown. Set to another look, that one is shown as soon as its pictures are there, and the pose goes on. */
  get look(): Look | undefined;
  set look(look: Look | undefined);
  /** What it does. Setting the animation that it shows already does not begin it anew. */
  animation: string;
  /** Which way it looks; the animation goes on when that changes. */
  facing: string;
  /** Seconds since the animation began. Set, it is there from now on, and frames that lie between emit nothing. */
  time: number;
  /** What it does at this moment: the same object at every call. */
  readonly moment: Moment;
}

const settable = ["look", "animation", "facing", "time"] as const;

/** Gives the objects of an engine's class the pose of the figures that they show. */
export function definePose<Shown extends object>(prototype: Shown, figureOf: (shown: Shown) => Figure): void {
  const define = (key: keyof Pose, set?: (this: Shown, value: never) => void) =>
    Object.defineProperty(prototype, key, {
      get(this: Shown) {
        return figureOf(this)[key];
      },
      ...(set === undefined ? {} : { set }),
    });
  define("moment");
  for (const key of settable)
    define(key, function set(this: Shown, value) {
      figureOf(this)[key] = value;
    });
}
