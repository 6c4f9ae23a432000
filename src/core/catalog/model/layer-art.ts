import type { Point, Rectangle, Size } from "./rectangle.ts";

/** How the frames of a layer lie in its pictures, whatever way that is written. */
export interface LayerArt {
  /** The same for layers whose frames lie alike, if their pictures are the same. */
  readonly key: string;
  /** Its pictures, in the order of the layer's `images`. */
  readonly pictures: readonly SlicedImage[];
  /**
   * Where each frame is, by animation and facing; `""` stands for all animations, or all facings. Of frames that are the same in every
   * animation there is one. Where nothing is drawn, there is nothing.
   */
  readonly frames: ReadonlyMap<string, ReadonlyMap<string, readonly (DrawnFrame | undefined)[]>>;
  /** The grid of a picture that is just a grid. */
  readonly grid: Grid | undefined;
}

/** The cells of one picture. */
export interface SlicedImage {
  /** The same for pictures that are cut alike. */
  readonly key: string;
  readonly cells: readonly Rectangle[];
}

/** One frame of a layer. */
export interface DrawnFrame {
  /** The number of its picture, and of its cell there. */
  readonly picture: number;
  readonly cell: number;
  /** The size of the whole frame, and where in it the cell lies: blank edges may be cut off. */
  readonly size: Size;
  readonly trim: Point;
  /** Where the whole frame's upper left corner lies in the rig's frame. */
  readonly at: Point;
}

/** Cells of one size in columns and rows. */
export interface Grid {
  readonly columns: number;
  readonly rows: number;
  readonly cell: Size;
  /** The size of the whole picture. */
  readonly size: Size;
}

/** A frames table, laid out on each rig. */
export interface TableArt {
  /** Paths of pictures; `undefined` for the layer's own. */
  readonly images: readonly (string | undefined)[];
  /** By rig. */
  readonly art: ReadonlyMap<string, LayerArt>;
}
