import type { Figure } from "../../core/play/figure.ts";

/** What a drawn figure shows and does, as a game reads and sets it: the same as of any figure. */
export interface Pose extends Pick<Figure, "look" | "animation" | "facing" | "time" | "moment"> {}

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
