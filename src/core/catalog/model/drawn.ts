import type { Text } from "../../base/text.ts";
import type { LayerArt } from "./layer-art.ts";
import type { Capsule, RigModel } from "./modeled.ts";
import type { Point, Rectangle, Size } from "./rectangle.ts";

export type { Point, Rectangle, Size } from "./rectangle.ts";

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
  /** Whether every pixel is all there or not at all, so that one that is half transparent is a mistake. */
  readonly crisp: boolean;
  /** The skeleton, for figures in three dimensions; `undefined` for a rig that is only drawn. */
  readonly model: RigModel | undefined;
  /** How pictures are laid out that do not say it themselves; `undefined` for the plain layout. */
  readonly layout: Layout | undefined;
  /** Layouts that layers name. */
  readonly layouts: ReadonlyMap<string, Layout>;
  /** Depths of layers that have none of their own, by slot (`hat`), or by slot and group (`hat/back`). */
  readonly depths: ReadonlyMap<string, Depth>;
  /** Names of slots and points that change places in a mirrored facing: `hand-left` ↔ `hand-right`, each under both. */
  readonly twins: ReadonlyMap<string, string>;
}

/** A direction a figure can face: drawn, or the mirror image of a drawn one. */
export interface Facing {
  readonly id: string;
  readonly title: Text;
  /** The facing whose pictures are used; the facing itself when it is drawn. */
  readonly drawnAs: string;
  readonly mirrored: boolean;
}

export interface Animation {
  readonly id: string;
  readonly title: Text;
  /** How many frames are drawn. */
  readonly frames: number;
  /** The drawn frames in the order they are shown, each counted from 0: often all of them, once. */
  readonly sequence: readonly number[];
  /** When each place of the sequence ends, in seconds from the start of a run; the last is how long a run lasts. */
  readonly ends: readonly number[];
  /** Words that are emitted when a drawn frame begins, by the frame. */
  readonly events: ReadonlyMap<number, readonly string[]>;
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

/** How near something is to the viewer; greater is nearer. */
export interface Depth {
  /** In facings that have none of their own. */
  readonly rest: number;
  readonly byFacing: ReadonlyMap<string, number>;
}

/** One picture of a part or body at a depth. */
export interface Layer {
  /** Path of the picture inside the catalog folder; may hold `{body}`, and `{animation}`, `{facing}`, `{frame}` for one file a frame. */
  readonly image: string;
  /** Path of the frames table that says where frames lie in the picture; may hold `{body}`. */
  readonly frames: string | undefined;
  /** `undefined` means that of the rig for the slot it is worn in. */
  readonly depth: Depth | undefined;
  readonly channel: string | undefined;
  readonly group: string | undefined;
  /** Shown only while the part is worn in this slot. */
  readonly in: string | undefined;
  /** 0 to 1. */
  readonly opacity: number;
  /** What to show for an animation that is not drawn, ahead of what the rig says; `false` shows nothing then. */
  readonly otherwise: ReadonlyMap<string, string> | false;
  /** A color of its pictures that means nothing is there, `0xRRGGBB`. */
  readonly blank: number | undefined;
  /** What it says of how its pictures are laid out. */
  readonly laid: LayerLayout;
  /** How its frames lie, by rig; of a layer that has a frames table, see the catalog's `tables`. */
  readonly art: ReadonlyMap<string, LayerArt>;
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
  readonly capsule: Capsule | undefined;
  /** How large its model is; pictures keep their size. */
  readonly scale: number;
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

/** What changes from one cell of a picture to the next. */
export type Axis = "animation" | "facing" | "frame";

/** How frames lie in the cells of a picture. */
export interface Layout {
  /** The size of one cell, in pixels; `undefined` for the rig's frame. */
  readonly cell: Size | undefined;
  /** Where a cell's upper left corner lies in the rig's frame; may be negative. */
  readonly at: Point;
  /** What changes from the left to the right, what changes last first. */
  readonly across: readonly Axis[];
  /** What changes from the top down, what changes last first. */
  readonly down: readonly Axis[];
  /** After so many cells across, the next line begins below; `undefined` where everything across is in one line. */
  readonly columns: number | undefined;
  /** After so many cells down, the next line begins to the right; `undefined` where everything down is in one line. */
  readonly rows: number | undefined;
  /** Pixels around all cells. */
  readonly margin: number;
  /** Pixels between one cell and the next. */
  readonly spacing: number;
}

/** What a layer says of how its pictures are laid out. */
export interface LayerLayout {
  /** The animations drawn in the picture, in the order of its rows; `undefined` means all of the rig's. */
  readonly animations: readonly string[] | undefined;
  /** The facings drawn in the picture, a mirrored one too if it has art of its own; `"any"` is one picture for all of them. */
  readonly facings: readonly string[] | "any" | undefined;
  /** One picture for every animation and frame. */
  readonly still: boolean;
  /** The layout of its picture, or the name of one of the rig's; `undefined` means the one that the rig has for all. */
  readonly layout: Layout | string | undefined;
  /** How many columns of cells are left of its first. */
  readonly column: number;
  /** How many rows of cells are above its first. */
  readonly row: number;
  /**
   * The column and row of each frame, by animation, then facing, then frame, where they are picked one by one; `undefined` for a frame in
   * which nothing is drawn.
   */
  readonly cells: readonly (Point | undefined)[] | undefined;
  /** Of files of one frame: what animations and facings are called in their names, by id. */
  readonly names: ReadonlyMap<string, string>;
  /** Of files of one frame: where the origin lies in each, from 0 (left, top) to 1 (right, bottom). */
  readonly anchor: Point;
}
