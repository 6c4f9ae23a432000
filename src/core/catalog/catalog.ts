import type { Place } from "../problem.ts";
import type { CompiledPart, CompiledRules } from "./compiled.ts";
import type { Text } from "./text.ts";

export type * from "./compiled.ts";

/**
 * All authored data of a game's characters, read, checked and compiled: every id resolved, every body complete.
 *
 * Made by `readCatalog`; never changed afterwards. Maps keep the order of the authored files.
 */
export interface Catalog {
  readonly id: string;
  readonly version: string;
  readonly title: Text;
  readonly rigs: ReadonlyMap<string, Rig>;
  readonly stats: ReadonlyMap<string, Stat>;
  readonly bodies: ReadonlyMap<string, Body>;
  readonly slots: ReadonlyMap<string, Slot>;
  readonly ramps: ReadonlyMap<string, Ramp>;
  readonly channels: ReadonlyMap<string, Channel>;
  readonly parts: ReadonlyMap<string, Part>;
  readonly outfits: ReadonlyMap<string, Outfit>;
  readonly rules: readonly Rule[];
  /** The rules as integers, for whoever judges loadouts. */
  readonly compiled: CompiledRules;
}

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

/** A number that parts change: what it is called, and the bounds it is kept in. */
export interface Stat {
  readonly id: string;
  readonly title: Text;
  readonly least: number;
  readonly most: number;
}

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
  /** The animation shown by a layer that was not drawn for this one. */
  readonly otherwise: string | undefined;
}

/** A named cut-out of one frame, such as a portrait. */
export interface Crop {
  readonly animation: string;
  readonly facing: string;
  readonly rectangle: Rectangle;
}

/** A bare character on a rig, with everything its base body gives already filled in. */
export interface Body {
  readonly id: string;
  readonly title: Text;
  readonly rig: Rig;
  readonly layers: readonly Layer[];
  /** What `{body}` stands for in the path of a picture. */
  readonly artName: string;
  readonly collider: Rectangle | undefined;
  readonly stats: Readonly<Record<string, number>>;
  readonly growsInto: string | undefined;
}

export interface Slot {
  readonly id: string;
  /** Its place among the slots of the catalog, from 0. */
  readonly number: number;
  readonly title: Text;
  readonly kind: "appearance" | "gear";
  /** Never empty: its default is worn whenever nothing else is. */
  readonly required: boolean;
  /**
   * What the slot starts with. In a required slot the default is *issued*: it comes when the slot is empty and goes when it
   * is filled, and never counts as gear the player owns.
   */
  readonly default: string | undefined;
  /** Holds parts without pictures. */
  readonly data: boolean;
  /** The parts that go in this slot, in the order of the catalog. */
  readonly parts: readonly Part[];
}

/** An ordered list of colors, dark to light, each `0xRRGGBB`. */
export interface Ramp {
  readonly id: string;
  readonly title: Text;
  readonly colors: readonly number[];
}

/** A color decision shared by layers. */
export interface Channel {
  readonly id: string;
  readonly title: Text;
  readonly ramps: readonly string[];
  readonly default: string;
  /** The colors in the pictures that stand for the colors of a ramp, dark to light, each `0xRRGGBB`. */
  readonly key: readonly number[];
}

export type Access = "secret" | "listed" | "owned";

/** Anything that goes in a slot. */
export interface Part {
  readonly id: string;
  readonly title: Text;
  /** The slots it goes in: any one of them. */
  readonly slots: readonly string[];
  /** Slots it takes as well as its own. */
  readonly occupies: readonly string[];
  readonly tags: readonly string[];
  readonly layers: readonly Layer[];
  /** The bodies it was made for; `undefined` means all. */
  readonly fits: ReadonlySet<string> | undefined;
  readonly hides: readonly LayerGroup[];
  readonly gives: Readonly<Record<string, Gift>>;
  readonly needs: Readonly<Record<string, number>>;
  readonly price: number | undefined;
  readonly access: Access;
  readonly rarity: string | undefined;
  readonly stack: number;
  /** What rules see of it, so that a check costs what is worn and not what the catalog holds. */
  readonly compiled: CompiledPart;
}

/** What a part does to a stat: added first, then multiplied. */
export interface Gift {
  readonly add: number;
  readonly times: number;
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
  /** What to show for an animation that is not drawn, ahead of what the rig says. */
  readonly otherwise: ReadonlyMap<string, string>;
  readonly grid: Grid | undefined;
}

/** A sheet whose cells are not the rig's frames. */
export interface Grid {
  /** The size of one cell. */
  readonly cell: Size;
  /** Where a cell's upper left corner lies in the rig's frame; may be negative. */
  readonly at: Point;
}

/** A named set of parts and colors put on in one step. */
export interface Outfit {
  readonly id: string;
  readonly title: Text;
  readonly parts: readonly string[];
  readonly colors: Readonly<Record<string, string>>;
  /** What happens to slots the outfit does not name. */
  readonly others: "keep" | "clear";
}

/** A statement about worn parts: by id, by tag, or by the slot they are in. */
export interface Pattern {
  readonly kind: "part" | "tag" | "slot";
  readonly id: string;
}

/** Something that holds of a character or not. */
export type Condition =
  | Pattern
  /** `outfit` holds while the outfit is worn whole. */
  | { readonly kind: "body" | "outfit"; readonly id: string }
  /** `fact` is an answer kept in the character; `signal` is what the running game says now, any value but false and 0 when none is named. */
  | { readonly kind: "fact"; readonly id: string; readonly value: string }
  | { readonly kind: "signal"; readonly id: string; readonly value: string | undefined }
  | { readonly kind: "any" | "all"; readonly of: readonly Condition[] }
  | { readonly kind: "not"; readonly of: Condition };

export type Rule = NeverRule | NeedsRule | TotalRule | CountRule;

interface EveryRule {
  /** Its place among the rules of the catalog, from 0. */
  readonly number: number;
  /** Where it is written. */
  readonly place: Place;
  /** What its author tells players. */
  readonly say: Text | undefined;
}

/** Where one condition holds, another must. */
export interface NeedsRule extends EveryRule {
  readonly kind: "needs";
  readonly when: Condition;
  readonly needs: Condition;
}

/** A number, or the value of another stat. */
export type Bound = number | { readonly stat: string };

/** A stat of everything worn keeps within bounds. */
export interface TotalRule extends EveryRule {
  readonly kind: "total";
  readonly stat: string;
  readonly atLeast: Bound | undefined;
  readonly atMost: Bound | undefined;
}

/** The number of worn parts of a pattern keeps within bounds. */
export interface CountRule extends EveryRule {
  readonly kind: "count";
  readonly of: Pattern;
  readonly atLeast: number | undefined;
  readonly atMost: number | undefined;
}

/** No two different parts may match two different patterns. */
export interface NeverRule extends EveryRule {
  readonly kind: "never";
  readonly patterns: readonly Pattern[];
  /** What putting on one of them does to the other. */
  readonly then: "displace" | "refuse";
}
