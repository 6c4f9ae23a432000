import * as f from "../../base/schema/forms.ts";
import { sections } from "./schema.ts";
import { id, text } from "./schema-forms.ts";

/** By id, what is otherwise: `null` for what is there no more, `{ "add": […], "remove": […] }` for lists. */
const changed = f.optional(f.record(id, f.unknown()));

/** What a pack changes of what is there without it. */
const changes = f.object({
  /** Of rigs, by id. */
  rigs: changed,
  /** Of bodies, by id. */
  bodies: changed,
  /** Of slots, by id. */
  slots: changed,
  /** Of ramps, by id. */
  ramps: changed,
  /** Of channels, by id. */
  channels: changed,
  /** Of stats, by id. */
  stats: changed,
  /** Of tags, by id. */
  tags: changed,
  /** Of parts, by id. `"retired": true` retires one: whoever has it keeps it. */
  parts: changed,
  /** Of outfits, by id. `null` takes one away. */
  outfits: changed,
  /** Of forms, by id. `null` takes one away. */
  forms: changed,
  /** Of presets, by id. `null` takes one away. */
  presets: changed,
  /** Of the creation flow. */
  creation: f.optional(f.unknown()),
  /** Of how names are made. */
  names: f.optional(f.unknown()),
});

/** What `pack.json` and the files it includes may hold. */
const packSections = {
  ...sections,
  /** What is otherwise than without the pack: of each entry, what is different. Lists are given whole, or as `{ "add": […], "remove": […] }`. */
  changes: f.optional(changes),
};

/** The form of `pack.json`. */
export const packSchema = f.object({
  /** The address of this schema, for editors. */
  $schema: f.optional(f.string()),
  /** The format, always `pack/1`. */
  mantle: f.literal("pack/1"),
  /** The id of the pack; characters name it. */
  id,
  /** The version of the pack; characters name it. */
  version: f.string(f.minLength(1)),
  /** What players call it. */
  title: f.optional(text),
  /** The id of the catalog it is laid over. */
  over: id,
  /** Packs that have to be there, and are laid before it. */
  needs: f.optional(f.array(id)),
  /** Patterns of further files of the pack, such as `parts/*.json`. */
  include: f.optional(f.array(f.string())),
  ...packSections,
});

/** The form of a file that `pack.json` includes. */
export const packFragmentSchema = f.object({
  /** The address of this schema, for editors. */
  $schema: f.optional(f.string()),
  ...packSections,
});

/** What `pack.json` holds, as authors write it. */
export type PackSource = f.Valid<typeof packSchema>;
/** What a file holds that `pack.json` includes. */
export type PackFragmentSource = f.Valid<typeof packFragmentSchema>;
