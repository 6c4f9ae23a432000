import { limits } from "../../base/limits.ts";
import * as f from "../../base/schema/forms.ts";
import { ruleEntries } from "../rules/rule-entries.ts";
import { capsule, collider, color, fraction, layer, layerGroup, mesh, path, points, rig, whole } from "./art-schema.ts";
import { creation, names, preset } from "./creation-schema.ts";
import { cue } from "./cue-schema.ts";
import { gift, id, text } from "./schema-forms.ts";

const idOrIds = f.union([id, f.array(id, f.minLength(1))]);
const signalValue = f.union([f.string(), f.number(), f.boolean()]);

/** Findings about pixels that are meant to be so, by code, and why. */
const allow = f.optional(f.record(id, path));

const body = f.object({
  /** What players call it. */
  title: f.optional(text),
  /** The body it has everything of, but for what it says itself. */
  extends: f.optional(id),
  /** The rig it stands on. That of the body it extends when left out. */
  rig: f.optional(id),
  /** Its pictures. */
  art: f.optional(f.array(layer)),
  /** Its meshes, in three dimensions. */
  model: f.optional(f.array(mesh)),
  /** The body whose pictures it uses. */
  artFrom: f.optional(id),
  /** Points of its own, in place of the rig's. */
  points: f.optional(points),
  /** What it touches others with: a rectangle around the origin. */
  collider: f.optional(collider),
  /** What it touches others with in three dimensions. */
  capsule: f.optional(capsule),
  /** Words of the game's own for what it can do. */
  abilities: f.optional(f.array(id)),
  /** What it has of stats before anything is worn. */
  stats: f.optional(f.record(id, f.number())),
  /** The body it becomes when it grows up. */
  growsInto: f.optional(id),
  /** Findings about its pixels that are meant to be so, by code, with the reason. */
  allow,
});

const slot = f.object({
  /** What players call it. */
  title: f.optional(text),
  /** `appearance` for free choices, `gear` for things that go to the bag when they come off. */
  kind: f.picklist(["appearance", "gear"]),
  /** Never empty: its default is worn whenever nothing else is. */
  required: f.optional(f.boolean()),
  /** The part it starts with. */
  default: f.optional(id),
  /** Holds parts without pictures. */
  data: f.optional(f.boolean()),
});

const channel = f.object({
  /** What players call it. */
  title: f.optional(text),
  /** The ramps it can be set to. */
  ramps: f.array(id, f.minLength(1)),
  /** The ramp it starts with. */
  default: id,
  /** The colors in the pictures that stand for the colors of a ramp, dark to light. */
  key: f.array(color, f.minLength(1), f.maxLength(256)),
  /** How pixels are colored: `key` and `soft-key` take those of a key color, `luminance` all by how light they are, `tint` multiplies all. */
  match: f.optional(f.picklist(["key", "soft-key", "luminance", "tint"])),
  /** Whether a character may set it to a color of its own, `#rrggbb`. */
  custom: f.optional(f.boolean()),
});

const ramp = f.union([
  f.array(color, f.minLength(1), f.maxLength(256)),
  f.object({
    /** What players call it. */
    title: text,
    /** Its colors, dark to light. */
    colors: f.array(color, f.minLength(1), f.maxLength(256)),
  }),
]);

/** The form of a part. */
export const partSchema = f.object({
  /** What players call it. */
  title: f.optional(text),
  /** The slot it goes in, or several: any one of them. */
  slot: idOrIds,
  /** Slots it takes as well. */
  occupies: f.optional(f.array(id)),
  /** Words for rules, such as `brimmed`. */
  tags: f.optional(f.array(id)),
  /** Its pictures. */
  layers: f.optional(f.array(layer)),
  /** What it shows in three dimensions. */
  meshes: f.optional(f.array(mesh)),
  /** Findings about its pixels that are meant to be so, by code, with the reason. */
  allow,
  /** The bodies it was made for. All when left out. */
  fits: f.optional(f.array(id)),
  /** Slots, or groups of their layers (`hair/top`), that do not show while it is worn. */
  hides: f.optional(f.array(layerGroup)),
  /** What it does to stats while it is worn. */
  gives: f.optional(f.record(id, gift)),
  /** The least of stats it can be worn with; what it gives itself does not count. */
  requires: f.optional(f.record(id, f.number())),
  /** What it can be acquired for. */
  price: f.optional(whole),
  /** Default access for players without holdings. With a price `listed`, otherwise `owned`, when left out. */
  access: f.optional(f.picklist(["secret", "listed", "owned"])),
  /** No longer available: only whoever wears or carries it can still put it on. */
  retired: f.optional(f.boolean()),
  /** A word of the game's own, by which rolls can be weighted. */
  rarity: f.optional(id),
  /** What it becomes on bodies it does not fit, by body. */
  counterparts: f.optional(f.record(id, id)),
  /** How many lie on one stack in the bag. 1 when left out. */
  stack: f.optional(f.number(f.whole, f.min(1), f.max(limits.stack))),
});

const stat = f.object({
  /** What players call it. */
  title: f.optional(text),
  /** It never falls below. */
  min: f.optional(f.number()),
  /** It never rises above. */
  max: f.optional(f.number()),
});

const tag = f.object({
  /** What players call parts of it, in reasons of rules. */
  title: text,
});

const outfit = f.object({
  /** What players call it. */
  title: f.optional(text),
  /** What is put on, in one step. */
  parts: f.array(id),
  /** The ramps its channels are set to, by channel. */
  colors: f.optional(f.record(id, id)),
  /** What becomes of gear it does not name: it is kept on, taken off (`clear`), or kept on unseen (`hide`). */
  others: f.optional(f.picklist(["keep", "clear", "hide"])),
});

/** One form for every kind of rule. */
const rule = f.object({
  ...ruleEntries,
  /** What players read where it is broken. */
  message: f.optional(text),
});

const bounds = {
  /** The value it has to have. */
  is: f.optional(signalValue),
  /** The least it has to be. */
  atLeast: f.optional(f.number()),
  /** The most it may be. */
  atMost: f.optional(f.number()),
};

const signalTest = f.object({
  /** The signal, as the game calls it. Without bounds, any value but false, 0 and nothing passes. */
  signal: id,
  ...bounds,
  /** What has begun lasts until this passes, so that nothing flickers at a threshold. */
  until: f.optional(f.object(bounds)),
});

const form = f.object({
  /** What players call it. */
  title: f.optional(text),
  /** What the signals of the running game have to say; of a list, all of it. */
  when: f.union([signalTest, f.array(signalTest, f.minLength(1))]),
  /** Of several forms that stand, the one with the greatest is active. */
  priority: f.optional(f.number()),
  /** The bodies that take this form. All when left out. */
  bodies: f.optional(f.array(id, f.minLength(1))),
  /** What is shown in place of an animation, by the animation asked for. */
  animations: f.optional(f.record(id, id)),
  /** What it touches others with in this form. */
  collider: f.optional(collider),
  /** What it touches others with in three dimensions, in this form. */
  capsule: f.optional(capsule),
  /** How large its model is; pictures keep their size. */
  scale: f.optional(f.number(f.above(0))),
  /** What it can do in this form, in words of the game's own. */
  abilities: f.optional(f.array(id)),
  /** The body's pictures in this form. */
  art: f.optional(f.array(layer)),
  /** What is shown in a slot instead of what is worn there; `null` shows nothing. */
  parts: f.optional(f.record(id, f.nullable(id))),
  /** Of the whole figure, from 0 to 1. */
  opacity: f.optional(fraction),
  /** Ramps shown instead of the chosen ones, by channel. */
  colors: f.optional(f.record(id, id)),
});

/** The sections of a catalog: maps by id that any included file may add to, rules, and what there is one of. */
export const sections = {
  /** What parts share in order to fit together, by id: frame, facings, animations, points. */
  rigs: f.optional(f.record(id, rig)),
  /** Bare characters on a rig, by id. */
  bodies: f.optional(f.record(id, body)),
  /** Named places on a body that hold at most one part, by id. */
  slots: f.optional(f.record(id, slot)),
  /** Lists of colors, dark to light, by id. */
  ramps: f.optional(f.record(id, ramp)),
  /** Color decisions that layers share, by id. */
  channels: f.optional(f.record(id, channel)),
  /** Numbers that parts change, by id: their titles and bounds. Stats that are not named work without. */
  stats: f.optional(f.record(id, stat)),
  /** Titles of tags, by tag. Tags that are not named are called by their ids. */
  tags: f.optional(f.record(id, tag)),
  /** Everything that goes in a slot, by id. */
  parts: f.optional(f.record(id, partSchema)),
  /** Sets of parts that are put on in one step, by id. */
  outfits: f.optional(f.record(id, outfit)),
  /** Variants of a character that are active while signals say so, by id. */
  forms: f.optional(f.record(id, form)),
  /** Whole characters made by the author, by id. */
  presets: f.optional(f.record(id, preset)),
  /** Statements about loadouts, each with what players read. */
  rules: f.optional(f.array(rule)),
  /** What follows when the game raises a word. */
  cues: f.optional(f.array(cue)),
  /** The questions by which a character is created, and which follows which. */
  creation: f.optional(creation),
  /** How long names may be, and what they are made of. */
  names: f.optional(names),
};

/** The form of `catalog.json`. */
export const catalogSchema = f.object({
  /** The address of this schema, for editors. */
  $schema: f.optional(f.string()),
  /** The format, always `catalog/1`. */
  mantle: f.literal("catalog/1"),
  /** The id of the catalog; saves name it. */
  id,
  /** The version of the catalog; saves name it. */
  version: f.string(f.minLength(1)),
  /** What players call the game's characters. */
  title: f.optional(text),
  /** Patterns of files that are laid over it, such as `parts/*.json`. */
  include: f.optional(f.array(f.string())),
  ...sections,
});

/** The form of a file that `catalog.json` includes. */
export const fragmentSchema = f.object({
  /** The address of this schema, for editors. */
  $schema: f.optional(f.string()),
  ...sections,
});

/** What `catalog.json` holds, as authors write it: a catalog in TypeScript is checked by `satisfies CatalogSource`, and its ids stay known. */
export type CatalogSource = f.Valid<typeof catalogSchema>;
/** What a file holds that `catalog.json` includes. */
export type FragmentSource = f.Valid<typeof fragmentSchema>;
export type BodySource = f.Valid<typeof body>;
export type PartSource = f.Valid<typeof partSchema>;
export type FormSource = f.Valid<typeof form>;
export type SignalTestSource = f.Valid<typeof signalTest>;
export type RampSource = f.Valid<typeof ramp>;
export type RuleSource = f.Valid<typeof rule>;
