import { limits } from "../../base/limits.ts";
import * as f from "../../base/schema/forms.ts";
import { ruleEntries } from "../rules/rule-entries.ts";
import { creation, names, preset } from "./creation-schema.ts";
import { cue } from "./cue-schema.ts";
import { gift, id, text } from "./schema-forms.ts";

const color = f.string(f.pattern(/^#[0-9a-fA-F]{6}$/));
const whole = f.number(f.whole, f.min(0));
const point = f.tuple([f.number(f.whole), f.number(f.whole)]);
const side = f.number(f.whole, f.min(1), f.max(limits.frameSize));
const rectangle = f.tuple([f.number(f.whole), f.number(f.whole), side, side]);
const size = f.object({ width: side, height: side });
const idOrIds = f.union([id, f.array(id, f.minLength(1))]);
const signalValue = f.union([f.string(), f.number(), f.boolean()]);

/** Where a picture is hung: the pixel `at` of it lies on the point, and the line from `at` to `along` looks toward another point. */
const attachment = f.object({
  point: id,
  at: f.optional(point),
  toward: f.optional(id),
  along: f.optional(point),
});

const axes = f.array(f.picklist(["animation", "facing", "frame"]), f.maxLength(3));
const count = f.bounded(whole, f.min(1), f.max(limits.frameSize));
const pixels = f.bounded(whole, f.max(limits.frameSize));

const layout = f.object({
  cell: f.optional(size),
  at: f.optional(point),
  across: f.optional(axes),
  down: f.optional(axes),
  columns: f.optional(count),
  rows: f.optional(count),
  margin: f.optional(pixels),
  spacing: f.optional(pixels),
});

const depth = f.union([f.number(), f.objectWithRest({ default: f.number() }, f.number())]);
/** A slot, or one group of its layers: `hair/top`. */
const layerGroup = f.string(f.pattern(/^[a-z0-9-]+(\/[a-z0-9-]+)?$/));
const fraction = f.number(f.min(0), f.max(1));
const path = f.string(f.minLength(1));

const layer = f.object({
  image: path,
  frames: f.optional(path),
  depth: f.optional(depth),
  channel: f.optional(id),
  group: f.optional(id),
  in: f.optional(id),
  opacity: f.optional(fraction),
  animations: f.optional(f.array(id, f.minLength(1))),
  else: f.optional(f.union([f.literal(false), f.record(id, id)])),
  facings: f.optional(f.union([f.literal("any"), f.array(id, f.minLength(1))])),
  still: f.optional(f.boolean()),
  attach: f.optional(attachment),
  offset: f.optional(f.union([point, f.record(id, point)])),
  scale: f.optional(f.union([f.number(f.above(0)), f.record(id, f.number(f.above(0)))])),
  forms: f.optional(f.array(id, f.minLength(1))),
  notForms: f.optional(f.array(id, f.minLength(1))),
  layout: f.optional(f.union([id, layout])),
  column: f.optional(pixels),
  row: f.optional(pixels),
  cells: f.optional(f.array(f.nullable(f.tuple([pixels, pixels])), f.minLength(1), f.maxLength(limits.bakedFrames))),
  names: f.optional(f.record(id, path)),
  anchor: f.optional(f.tuple([fraction, fraction])),
  blank: f.optional(color),
});

const triple = f.tuple([f.number(), f.number(), f.number()]);

const mesh = f.object({
  file: path,
  node: f.optional(path),
  group: f.optional(id),
  in: f.optional(id),
  channel: f.optional(id),
  channels: f.optional(f.record(path, id)),
  attach: f.optional(id),
  forms: f.optional(f.array(id, f.minLength(1))),
  notForms: f.optional(f.array(id, f.minLength(1))),
});

const rigModel = f.object({
  file: path,
  clips: f.optional(f.record(id, path)),
  scale: f.optional(f.number(f.above(0))),
  tilt: f.optional(f.number()),
  ink: f.optional(f.number(f.min(0))),
  turns: f.optional(f.record(id, f.number())),
  points: f.optional(f.record(id, f.union([path, f.object({ joint: path, offset: f.optional(triple) })]))),
});

/** By point, animation and drawn facing: one place for all frames, or one for each; `null` where it is not seen. */
const framedPoints = f.record(
  id,
  f.record(id, f.record(id, f.union([point, f.array(f.nullable(point), f.minLength(1))]))),
);

const points = f.union([
  f.object({ image: f.string(f.minLength(1)), colors: f.record(id, color) }),
  f.object({ frames: framedPoints }),
]);

const rig = f.object({
  title: f.optional(text),
  frame: size,
  origin: point,
  facings: f.array(f.union([id, f.object({ id, mirror: id })]), f.minLength(1)),
  animations: f.record(
    id,
    f.object({
      frames: f.number(f.whole, f.min(1), f.max(limits.frames)),
      fps: f.optional(f.number(f.above(0))),
      sequence: f.optional(
        f.union([
          f.picklist(["reverse", "back-and-forth"]),
          f.array(whole, f.minLength(1), f.maxLength(limits.frames)),
        ]),
      ),
      durations: f.optional(f.array(f.number(f.above(0)), f.minLength(1), f.maxLength(2 * limits.frames))),
      loop: f.optional(f.boolean()),
      else: f.optional(id),
    }),
  ),
  points: f.optional(points),
  crisp: f.optional(f.boolean()),
  model: f.optional(rigModel),
  layout: f.optional(f.union([id, layout])),
  layouts: f.optional(f.record(id, layout)),
  depths: f.optional(f.record(layerGroup, depth)),
  twins: f.optional(f.array(f.tuple([id, id]))),
  crops: f.optional(
    f.record(
      id,
      f.object({
        animation: id,
        facing: id,
        point: f.optional(id),
        rect: rectangle,
        round: f.optional(f.boolean()),
        back: f.optional(color),
        rim: f.optional(color),
      }),
    ),
  ),
});

const collider = f.object({ x: f.number(), y: f.number(), width: f.number(), height: f.number() });
const capsule = f.object({ radius: f.number(f.above(0)), height: f.number(f.above(0)) });

/** Findings about pixels that are meant to be so, by code, and why. */
const allow = f.optional(f.record(id, path));

const body = f.object({
  title: f.optional(text),
  extends: f.optional(id),
  rig: f.optional(id),
  art: f.optional(f.array(layer)),
  model: f.optional(f.array(mesh)),
  artFrom: f.optional(id),
  points: f.optional(points),
  collider: f.optional(collider),
  capsule: f.optional(capsule),
  abilities: f.optional(f.array(id)),
  stats: f.optional(f.record(id, f.number())),
  growsInto: f.optional(id),
  allow,
});

const slot = f.object({
  title: f.optional(text),
  kind: f.picklist(["appearance", "gear"]),
  required: f.optional(f.boolean()),
  default: f.optional(id),
  data: f.optional(f.boolean()),
});

const channel = f.object({
  title: f.optional(text),
  ramps: f.array(id, f.minLength(1)),
  default: id,
  key: f.array(color, f.minLength(1), f.maxLength(256)),
  match: f.optional(f.picklist(["key", "soft-key", "luminance", "tint"])),
  custom: f.optional(f.boolean()),
});

const ramp = f.union([
  f.array(color, f.minLength(1), f.maxLength(256)),
  f.object({ title: text, colors: f.array(color, f.minLength(1), f.maxLength(256)) }),
]);

/** The form of a part. */
export const partSchema = f.object({
  title: f.optional(text),
  slot: idOrIds,
  occupies: f.optional(f.array(id)),
  tags: f.optional(f.array(id)),
  layers: f.optional(f.array(layer)),
  meshes: f.optional(f.array(mesh)),
  allow,
  fits: f.optional(f.array(id)),
  hides: f.optional(f.array(layerGroup)),
  gives: f.optional(f.record(id, gift)),
  requires: f.optional(f.record(id, f.number())),
  price: f.optional(whole),
  access: f.optional(f.picklist(["secret", "listed", "owned"])),
  rarity: f.optional(id),
  counterparts: f.optional(f.record(id, id)),
  stack: f.optional(f.number(f.whole, f.min(1), f.max(limits.stack))),
});

const stat = f.object({
  title: f.optional(text),
  min: f.optional(f.number()),
  max: f.optional(f.number()),
});

const outfit = f.object({
  title: f.optional(text),
  parts: f.array(id),
  colors: f.optional(f.record(id, id)),
  others: f.optional(f.picklist(["keep", "clear", "hide"])),
});

/** One form for every kind of rule. */
const rule = f.object({ ...ruleEntries, say: f.optional(text) });

const bounds = {
  is: f.optional(signalValue),
  atLeast: f.optional(f.number()),
  atMost: f.optional(f.number()),
};

const signalTest = f.object({ signal: id, ...bounds, until: f.optional(f.object(bounds)) });

const form = f.object({
  title: f.optional(text),
  when: f.union([signalTest, f.array(signalTest, f.minLength(1))]),
  priority: f.optional(f.number()),
  bodies: f.optional(f.array(id, f.minLength(1))),
  animations: f.optional(f.record(id, id)),
  collider: f.optional(collider),
  capsule: f.optional(capsule),
  scale: f.optional(f.number(f.above(0))),
  abilities: f.optional(f.array(id)),
  art: f.optional(f.array(layer)),
  parts: f.optional(f.record(id, f.nullable(id))),
  opacity: f.optional(fraction),
  colors: f.optional(f.record(id, id)),
});

/** The sections of a catalog: maps by id that any included file may add to, rules, and what there is one of. */
const sections = {
  rigs: f.optional(f.record(id, rig)),
  bodies: f.optional(f.record(id, body)),
  slots: f.optional(f.record(id, slot)),
  ramps: f.optional(f.record(id, ramp)),
  channels: f.optional(f.record(id, channel)),
  stats: f.optional(f.record(id, stat)),
  parts: f.optional(f.record(id, partSchema)),
  outfits: f.optional(f.record(id, outfit)),
  forms: f.optional(f.record(id, form)),
  presets: f.optional(f.record(id, preset)),
  rules: f.optional(f.array(rule)),
  cues: f.optional(f.array(cue)),
  creation: f.optional(creation),
  names: f.optional(names),
};

/** The form of `catalog.json`. */
export const catalogSchema = f.object({
  $schema: f.optional(f.string()),
  mantle: f.literal("catalog/1"),
  id,
  version: f.string(f.minLength(1)),
  title: f.optional(text),
  include: f.optional(f.array(f.string())),
  ...sections,
});

/** The form of a file that `catalog.json` includes. */
export const fragmentSchema = f.object({ $schema: f.optional(f.string()), ...sections });

export type CatalogSource = f.Valid<typeof catalogSchema>;
export type FragmentSource = f.Valid<typeof fragmentSchema>;
export type LayerSource = f.Valid<typeof layer>;
export type MeshSource = f.Valid<typeof mesh>;
export type LayoutSource = f.Valid<typeof layout>;
export type DepthSource = f.Valid<typeof depth>;
export type BodySource = f.Valid<typeof body>;
export type PartSource = f.Valid<typeof partSchema>;
export type RigSource = f.Valid<typeof rig>;
export type PointsSource = f.Valid<typeof points>;
export type FormSource = f.Valid<typeof form>;
export type SignalTestSource = f.Valid<typeof signalTest>;
export type RampSource = f.Valid<typeof ramp>;
export type RuleSource = f.Valid<typeof rule>;
