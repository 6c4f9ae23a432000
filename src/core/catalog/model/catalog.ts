import type { Text } from "../../base/text.ts";
import type { CompiledPart, CompiledRules } from "./compiled.ts";
import type { Creation, Names, Preset } from "./creation.ts";
import type { Cue } from "./cue.ts";
import type { Form, Layer, LayerGroup, PointTable, Rectangle, Rig } from "./drawn.ts";
import type { CatalogIds, idsOf } from "./ids.ts";
import type { TableArt } from "./layer-art.ts";
import type { Capsule, Mesh } from "./modeled.ts";
import type { AddedBy, Pack } from "./pack.ts";
import type { Rule, StatModifier } from "./rule.ts";

export type * from "./compiled.ts";
export type * from "./creation.ts";
export type * from "./cue.ts";
export type * from "./drawn.ts";
export type * from "./ids.ts";
export type * from "./layer-art.ts";
export type * from "./modeled.ts";
export type * from "./pack.ts";
export type * from "./rule.ts";

/**
 * All authored data of a game's characters, read, checked and compiled: every id resolved, every body complete.
 *
 * Made by `readCatalog`; never changed afterwards. Maps keep the order of the authored files.
 */
export interface Catalog<Ids extends CatalogIds = CatalogIds> {
  /** For the compiler alone: the ids it knows. */
  readonly [idsOf]?: Ids;
  readonly id: string;
  readonly version: string;
  readonly title: Text;
  readonly rigs: ReadonlyMap<string, Rig>;
  readonly stats: ReadonlyMap<string, Stat>;
  readonly bodies: ReadonlyMap<string, Body>;
  readonly slots: ReadonlyMap<string, Slot>;
  readonly ramps: ReadonlyMap<string, Ramp>;
  readonly channels: ReadonlyMap<string, Channel>;
  /** The tags that have a title. */
  readonly tags: ReadonlyMap<string, Tag>;
  readonly parts: ReadonlyMap<string, Part>;
  readonly outfits: ReadonlyMap<string, Outfit>;
  /** In the order of the catalog. */
  readonly forms: ReadonlyMap<string, Form>;
  readonly presets: ReadonlyMap<string, Preset>;
  /** The steps in which a character is created; `undefined` when the catalog has none. */
  readonly creation: Creation | undefined;
  readonly names: Names | undefined;
  /** What follows on words of the game, by word, in the order of the catalog. */
  readonly cues: ReadonlyMap<string, readonly Cue[]>;
  readonly rules: readonly Rule[];
  /** The frames tables that layers name, by path. */
  readonly tables: ReadonlyMap<string, TableArt>;
  /** The packs that are laid over it, in their order. */
  readonly packs: ReadonlyMap<string, Pack>;
  /** The pack that an entry came with, by its section and id; what is the catalog's own is not in it. */
  readonly addedBy: AddedBy;
  /** The parts that are no longer available. */
  readonly retired: ReadonlySet<string>;
  /** The rules as integers, for what judges loadouts. @internal */
  readonly compiled: CompiledRules;
}

/** A number that parts change: what it is called, and the bounds it is kept in. */
export interface Stat {
  readonly id: string;
  readonly title: Text;
  readonly min: number;
  readonly max: number;
}

/** What players call something that parts have in common. */
export interface Tag {
  readonly id: string;
  readonly title: Text;
}

/** A bare character on a rig, with everything its base body gives already filled in. */
export interface Body {
  readonly id: string;
  readonly title: Text;
  readonly rig: Rig;
  readonly layers: readonly Layer[];
  /** What it shows in three dimensions. */
  readonly meshes: readonly Mesh[];
  /** What `{body}` stands for in the path of a picture. */
  readonly artName: string;
  /** The body and those it extends, nearest first: whose entry to take where something is given body by body. */
  readonly lineage: readonly string[];
  readonly points: PointTable;
  /** The picture its points were read from. */
  readonly markers: string | undefined;
  readonly collider: Rectangle | undefined;
  readonly capsule: Capsule | undefined;
  /** Words of the game's own for what it can do. */
  readonly abilities: readonly string[];
  readonly stats: Readonly<Record<string, number>>;
  /** Findings about its pixels that are meant to be so, by code, and why. */
  readonly allow: Readonly<Record<string, string>>;
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
  /**
   * How a pixel gets its color. `key`: an opaque pixel of exactly a key color takes the color in its place. `soft-key`: so does a
   * translucent one, and keeps its alpha. `luminance`: every pixel takes its place in the key by how light it is, so that soft edges stay
   * soft. `tint`: every pixel is multiplied by the color in place of the lightest key color, which is what white becomes.
   */
  readonly match: "key" | "soft-key" | "luminance" | "tint";
  /** Whether a character may set it to a color of its own, `#rrggbb`. */
  readonly custom: boolean;
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
  /** What it shows in three dimensions. */
  readonly meshes: readonly Mesh[];
  /** The bodies it was made for; `undefined` means all. */
  readonly fits: ReadonlySet<string> | undefined;
  readonly hides: readonly LayerGroup[];
  readonly gives: Readonly<Record<string, StatModifier>>;
  readonly requires: Readonly<Record<string, number>>;
  readonly price: number | undefined;
  readonly access: Access;
  /** No longer available: only whoever wears or carries it can put it on. */
  readonly retired: boolean;
  readonly rarity: string | undefined;
  /** What it becomes on bodies it was not made for, by body. */
  readonly counterparts: Readonly<Record<string, string>>;
  readonly stack: number;
  /** Findings about its pixels that are meant to be so, by code, and why. */
  readonly allow: Readonly<Record<string, string>>;
  /** What rules see of it, so that a check costs what is worn and not what the catalog holds. @internal */
  readonly compiled: CompiledPart;
}

/** A named set of parts and colors put on in one step. */
export interface Outfit {
  readonly id: string;
  readonly title: Text;
  readonly parts: readonly string[];
  readonly colors: Readonly<Record<string, string>>;
  /**
   * What happens to gear the outfit does not name: it stays on, goes to the bag, or stays on and is not seen while the
   * outfit is worn whole.
   */
  readonly others: "keep" | "clear" | "hide";
}
