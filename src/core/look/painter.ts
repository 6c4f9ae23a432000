import type { Look, Moment } from "./look.ts";

/** Where a figure is painted. */
export interface Placement {
  /** Where its origin goes, in pixels of the canvas; its frame begins on the nearest whole pixel. */
  readonly x: number;
  readonly y: number;
  /** A whole number keeps pixels crisp. */
  readonly scale?: number;
}

/** Whatever paints looks on something: on a canvas, or with a game's own engine from `celsAt`. */
export interface Painter<Target> {
  /**
   * Paints a look at a moment with its origin at a place.
   *
   * @throws MantleError `missing-picture`, `unknown-animation`, `unknown-facing`.
   */
  paint(target: Target, look: Look, moment: Moment, placement: Placement): void;
}

/** Where the pictures of looks come from: an `imageLoader`, or a game's own. */
export interface PictureSource {
  /** What is there by now, by path. */
  readonly images: { has(path: string): boolean };
  /** Resolves when the pictures of a look are there. */
  load(look: Look): Promise<unknown>;
}
