import type { Rectangle, Rig } from "../catalog/catalog.ts";
import type { SheetLayout } from "./sheet-layout.ts";

/** Which animation, facing and time of a look is wanted. */
export interface Moment {
  readonly animation: string;
  readonly facing: string;
  /** Seconds since the animation began. */
  readonly time: number;
}

/**
 * The resolved appearance of a character: everything needed to draw it, and nothing that depends on the moment.
 *
 * Plain data; can be sent to a worker.
 */
export interface Look {
  /** The same for characters that look the same under one catalog; another whenever a layer or a color is another. */
  readonly key: string;
  readonly rig: Rig;
  readonly layers: readonly LookLayer[];
  /** In pixels, relative to the origin of the rig. */
  readonly collider: Rectangle | undefined;
}

export interface LookLayer {
  /** The part it belongs to; `undefined` for the body itself. */
  readonly part: string | undefined;
  /** Path of the picture inside the catalog folder. */
  readonly image: string;
  readonly layout: SheetLayout;
  readonly depth: number;
  readonly depthByFacing: ReadonlyMap<string, number>;
  readonly recolor: Recolor | undefined;
  /** 0 to 1. */
  readonly opacity: number;
  readonly otherwise: ReadonlyMap<string, string>;
}

/** Key colors and the colors that take their place, each `0xRRGGBB`, in the same order. */
export interface Recolor {
  readonly channel: string;
  readonly ramp: string;
  readonly key: readonly number[];
  readonly colors: readonly number[];
}

/** One layer's picture at one moment. */
export interface Cel {
  readonly layer: LookLayer;
  /** Where the cell lies in the picture, in pixels. */
  readonly source: Rectangle;
  /** Where its upper left corner goes, in pixels from the figure's origin. */
  readonly x: number;
  readonly y: number;
  /** Mirrored left to right. */
  readonly flip: boolean;
}
