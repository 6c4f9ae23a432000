import type { Text } from "../../base/text.ts";

/** Width and height in pixels. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

/** A point in pixels, x to the right and y down. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/** A rectangle in pixels; x and y are its upper left corner. */
export interface Rectangle extends Point, Size {}

/** What parts share in order to fit together. */
export interface Rig {
  readonly id: string;
  readonly title: Text;
  /** The size of one drawn frame. */
  readonly frame: Size;
  /** Where the figure stands, inside the frame; the game places this point, and mirroring turns around it. */
  readonly origin: Point;
  readonly facings: ReadonlyMap<string, Facing>;
  readonly animations: ReadonlyMap<string, Animation>;
  readonly crops: ReadonlyMap<string, Crop>;
  /** Names of slots and points that change places in a mirrored facing: `hand-left` ↔ `hand-right`, each under both. */
  readonly twins: ReadonlyMap<string, string>;
}

/** A direction a figure can face: drawn, or the mirror image of a drawn one. */
export interface Facing {
  readonly id: string;
  /** The facing whose pictures are used; the facing itself when it is drawn. */
  readonly drawnAs: string;
  readonly mirrored: boolean;
}

export interface Animation {
  readonly id: string;
  readonly frames: number;
  /** Frames per second. */
  readonly fps: number;
  /** Whether it begins again at its end; one that does not stays on its last frame. */
  readonly loop: boolean;
  /** The animation shown by a layer that was not drawn for this one. */
  readonly otherwise: string | undefined;
}

/** A named cut-out of one frame, such as a portrait. */
export interface Crop {
  readonly animation: string;
  readonly facing: string;
  /** The point that the rectangle is placed by; by the corner of the frame when left out. */
  readonly point: string | undefined;
  readonly rectangle: Rectangle;
  /** Whether only the circle or ellipse that fits the rectangle is kept. */
  readonly round: boolean;
  /** A color behind the figure, `0xRRGGBB`; transparent when left out. */
  readonly back: number | undefined;
  /** A color around a round crop, one pixel wide, `0xRRGGBB`. */
  readonly rim: number | undefined;
}

/** The layers of a slot, or only those of one group. */
export interface LayerGroup {
  readonly slot: string;
  readonly group: string | undefined;
}

/** One picture of a part or body at a depth. */
export interface Layer {
  /** Path of the picture inside the catalog folder; may hold `{body}`. */
  readonly image: string;
  /** Greater is nearer to the viewer. */
  readonly depth: number;
  readonly depthByFacing: ReadonlyMap<string, number>;
  readonly channel: string | undefined;
  readonly group: string | undefined;
  /** Shown only while the part is worn in this slot. */
  readonly in: string | undefined;
  /** 0 to 1. */
  readonly opacity: number;
  /** The animations drawn in the picture, in the order of its rows; `undefined` means all of the rig's. */
  readonly animations: readonly string[] | undefined;
  /** What to show for an animation that is not drawn, ahead of what the rig says; `false` shows nothing then. */
  readonly otherwise: ReadonlyMap<string, string> | false;
  readonly grid: Grid | undefined;
  /** The facings drawn in the picture, a mirrored one too if it has art of its own; `"any"` is one picture for all of them. */
  readonly facings: readonly string[] | "any" | undefined;
  /** One picture for every animation and frame. */
  readonly still: boolean;
  readonly attach: Attachment | undefined;
  /** Where it is moved to, for all bodies (`""`) or by body. */
  readonly offset: ReadonlyMap<string, Point>;
  /** Pixels of the frame for each pixel of the picture, for all bodies (`""`) or by body. */
  readonly scale: ReadonlyMap<string, number>;
  /** The forms it is shown in; `undefined` means all, and none. */
  readonly forms: readonly string[] | undefined;
  /** The forms it is not shown in. */
  readonly notForms: readonly string[];
}

/** How a picture follows a named point, frame by frame. */
export interface Attachment {
  readonly point: string;
  /** The pixel of its cell that lies on the point; the middle of the cell when left out. */
  readonly at: Point | undefined;
  /** A second point, which the line from `at` to `along` is turned toward. */
  readonly toward: string | undefined;
  readonly along: Point | undefined;
}

/**
 * Named points by name, animation and drawn facing: one for each frame, in pixels of the rig's frame; `undefined` in frames where
 * the point is not seen.
 */
export type PointTable = ReadonlyMap<string, ReadonlyMap<string, ReadonlyMap<string, readonly (Point | undefined)[]>>>;

/** A variant of a character that is active while signals say so. */
export interface Form {
  readonly id: string;
  readonly title: Text;
  /** All must hold. */
  readonly when: readonly SignalTest[];
  /** Of several forms that stand, the one with the greatest is active. */
  readonly priority: number;
  /** The bodies that take this form; `undefined` means all. */
  readonly bodies: ReadonlySet<string> | undefined;
  /** What is shown in place of an animation, by the animation asked for. */
  readonly animations: ReadonlyMap<string, string>;
  readonly collider: Rectangle | undefined;
  readonly abilities: readonly string[] | undefined;
  /** The body's art in this form. */
  readonly layers: readonly Layer[] | undefined;
  /** What is shown in a slot instead of what is worn there; `null` shows nothing. */
  readonly parts: Readonly<Record<string, string | null>>;
  /** Of the whole figure, 0 to 1. */
  readonly opacity: number;
  /** Ramps shown instead of the chosen ones, by channel. */
  readonly colors: Readonly<Record<string, string>>;
}

/** A test of one signal; without bounds, any value but false, 0 and "" passes. */
export interface SignalTest extends SignalBounds {
  readonly signal: string;
  /** Once it passed, it goes on passing until this does: so nothing flickers at a threshold. */
  readonly until: SignalBounds | undefined;
}

export interface SignalBounds {
  readonly is: string | number | boolean | undefined;
  readonly atLeast: number | undefined;
  readonly atMost: number | undefined;
}

/** A sheet whose cells are not the rig's frames. */
export interface Grid {
  /** The size of one cell. */
  readonly cell: Size;
  /** Where a cell's upper left corner lies in the rig's frame; may be negative. */
  readonly at: Point;
}
