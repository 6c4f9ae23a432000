import * as v from "valibot";
import { limits } from "../../base/limits.ts";
import { ruleEntries } from "../rules/rule-entries.ts";
import { creation, names, preset } from "./creation-schema.ts";
import { cue } from "./cue-schema.ts";
import { gift, id, text } from "./schema-forms.ts";

const color = v.pipe(v.string(), v.regex(/^#[0-9a-fA-F]{6}$/));
const whole = v.pipe(v.number(), v.safeInteger(), v.minValue(0));
const point = v.strictTuple([v.pipe(v.number(), v.safeInteger()), v.pipe(v.number(), v.safeInteger())]);
const side = v.pipe(v.number(), v.safeInteger(), v.minValue(1), v.maxValue(limits.frameSize));
const rectangle = v.strictTuple([v.pipe(v.number(), v.safeInteger()), v.pipe(v.number(), v.safeInteger()), side, side]);
const size = v.strictObject({ width: side, height: side });
const idOrIds = v.union([id, v.pipe(v.array(id), v.minLength(1))]);
const signalValue = v.union([v.string(), v.number(), v.boolean()]);

/** Where a picture is hung: the pixel `at` of it lies on the point, and the line from `at` to `along` looks toward another point. */
const attachment = v.strictObject({
  point: id,
  at: v.optional(point),
  toward: v.optional(id),
  along: v.optional(point),
});

const layer = v.strictObject({
  image: v.pipe(v.string(), v.minLength(1)),
  depth: v.union([v.number(), v.objectWithRest({ default: v.number() }, v.number())]),
  channel: v.optional(id),
  group: v.optional(id),
  in: v.optional(id),
  opacity: v.optional(v.pipe(v.number(), v.minValue(0), v.maxValue(1))),
  animations: v.optional(v.pipe(v.array(id), v.minLength(1))),
  else: v.optional(v.union([v.literal(false), v.record(id, id)])),
  facings: v.optional(v.union([v.literal("any"), v.pipe(v.array(id), v.minLength(1))])),
  still: v.optional(v.boolean()),
  attach: v.optional(attachment),
  offset: v.optional(v.union([point, v.record(id, point)])),
  scale: v.optional(v.union([v.pipe(v.number(), v.gtValue(0)), v.record(id, v.pipe(v.number(), v.gtValue(0)))])),
  forms: v.optional(v.pipe(v.array(id), v.minLength(1))),
  notForms: v.optional(v.pipe(v.array(id), v.minLength(1))),
  grid: v.optional(v.strictObject({ cell: size, at: v.optional(point) })),
});

/** By point, animation and drawn facing: one place for all frames, or one for each; `null` where it is not seen. */
const framedPoints = v.record(
  id,
  v.record(id, v.record(id, v.union([point, v.pipe(v.array(v.nullable(point)), v.minLength(1))]))),
);

const points = v.union([
  v.strictObject({ image: v.pipe(v.string(), v.minLength(1)), colors: v.record(id, color) }),
  v.strictObject({ frames: framedPoints }),
]);

const rig = v.strictObject({
  title: v.optional(text),
  frame: size,
  origin: point,
  facings: v.pipe(v.array(v.union([id, v.strictObject({ id, mirror: id })])), v.minLength(1)),
  animations: v.record(
    id,
    v.strictObject({
      frames: v.pipe(v.number(), v.safeInteger(), v.minValue(1), v.maxValue(limits.frames)),
      fps: v.pipe(v.number(), v.gtValue(0)),
      loop: v.optional(v.boolean()),
      else: v.optional(id),
    }),
  ),
  points: v.optional(points),
  twins: v.optional(v.array(v.strictTuple([id, id]))),
  crops: v.optional(
    v.record(
      id,
      v.strictObject({
        animation: id,
        facing: id,
        point: v.optional(id),
        rect: rectangle,
        round: v.optional(v.boolean()),
        back: v.optional(color),
        rim: v.optional(color),
      }),
    ),
  ),
});

const collider = v.strictObject({ x: v.number(), y: v.number(), width: v.number(), height: v.number() });

const body = v.strictObject({
  title: v.optional(text),
  extends: v.optional(id),
  rig: v.optional(id),
  art: v.optional(v.array(layer)),
  artFrom: v.optional(id),
  points: v.optional(points),
  collider: v.optional(collider),
  abilities: v.optional(v.array(id)),
  stats: v.optional(v.record(id, v.number())),
  growsInto: v.optional(id),
});

const slot = v.strictObject({
  title: v.optional(text),
  kind: v.picklist(["appearance", "gear"]),
  required: v.optional(v.boolean()),
  default: v.optional(id),
  data: v.optional(v.boolean()),
});

const channel = v.strictObject({
  title: v.optional(text),
  ramps: v.pipe(v.array(id), v.minLength(1)),
  default: id,
  key: v.pipe(v.array(color), v.minLength(1), v.maxLength(256)),
  match: v.optional(v.picklist(["key", "luminance"])),
  custom: v.optional(v.boolean()),
});

const ramp = v.union([
  v.pipe(v.array(color), v.minLength(1), v.maxLength(256)),
  v.strictObject({ title: text, colors: v.pipe(v.array(color), v.minLength(1), v.maxLength(256)) }),
]);

/** The form of a part. */
export const partSchema = v.strictObject({
  title: v.optional(text),
  slot: idOrIds,
  occupies: v.optional(v.array(id)),
  tags: v.optional(v.array(id)),
  layers: v.optional(v.array(layer)),
  fits: v.optional(v.array(id)),
  hides: v.optional(v.array(v.pipe(v.string(), v.regex(/^[a-z0-9-]+(\/[a-z0-9-]+)?$/)))),
  gives: v.optional(v.record(id, gift)),
  requires: v.optional(v.record(id, v.number())),
  price: v.optional(whole),
  access: v.optional(v.picklist(["secret", "listed", "owned"])),
  rarity: v.optional(id),
  counterparts: v.optional(v.record(id, id)),
  stack: v.optional(v.pipe(v.number(), v.safeInteger(), v.minValue(1), v.maxValue(limits.stack))),
});

const stat = v.strictObject({
  title: v.optional(text),
  min: v.optional(v.number()),
  max: v.optional(v.number()),
});

const outfit = v.strictObject({
  title: v.optional(text),
  parts: v.array(id),
  colors: v.optional(v.record(id, id)),
  others: v.optional(v.picklist(["keep", "clear", "hide"])),
});

/** One form for every kind of rule. */
const rule = v.strictObject({ ...ruleEntries, say: v.optional(text) });

const bounds = {
  is: v.optional(signalValue),
  atLeast: v.optional(v.number()),
  atMost: v.optional(v.number()),
};

const signalTest = v.strictObject({ signal: id, ...bounds, until: v.optional(v.strictObject(bounds)) });

const form = v.strictObject({
  title: v.optional(text),
  when: v.union([signalTest, v.pipe(v.array(signalTest), v.minLength(1))]),
  priority: v.optional(v.number()),
  bodies: v.optional(v.pipe(v.array(id), v.minLength(1))),
  animations: v.optional(v.record(id, id)),
  collider: v.optional(collider),
  abilities: v.optional(v.array(id)),
  art: v.optional(v.array(layer)),
  parts: v.optional(v.record(id, v.nullable(id))),
  opacity: v.optional(v.pipe(v.number(), v.minValue(0), v.maxValue(1))),
  colors: v.optional(v.record(id, id)),
});

/** The sections of a catalog: maps by id that any included file may add to, rules, and what there is one of. */
const sections = {
  rigs: v.optional(v.record(id, rig)),
  bodies: v.optional(v.record(id, body)),
  slots: v.optional(v.record(id, slot)),
  ramps: v.optional(v.record(id, ramp)),
  channels: v.optional(v.record(id, channel)),
  stats: v.optional(v.record(id, stat)),
  parts: v.optional(v.record(id, partSchema)),
  outfits: v.optional(v.record(id, outfit)),
  forms: v.optional(v.record(id, form)),
  presets: v.optional(v.record(id, preset)),
  rules: v.optional(v.array(rule)),
  cues: v.optional(v.array(cue)),
  creation: v.optional(creation),
  names: v.optional(names),
};

/** The form of `catalog.json`. */
export const catalogSchema = v.strictObject({
  $schema: v.optional(v.string()),
  mantle: v.literal("catalog/1"),
  id,
  version: v.pipe(v.string(), v.minLength(1)),
  title: v.optional(text),
  include: v.optional(v.array(v.string())),
  ...sections,
});

/** The form of a file that `catalog.json` includes. */
export const fragmentSchema = v.strictObject({ $schema: v.optional(v.string()), ...sections });

export type CatalogSource = v.InferOutput<typeof catalogSchema>;
export type FragmentSource = v.InferOutput<typeof fragmentSchema>;
export type LayerSource = v.InferOutput<typeof layer>;
export type BodySource = v.InferOutput<typeof body>;
export type PartSource = v.InferOutput<typeof partSchema>;
export type RigSource = v.InferOutput<typeof rig>;
export type PointsSource = v.InferOutput<typeof points>;
export type FormSource = v.InferOutput<typeof form>;
export type SignalTestSource = v.InferOutput<typeof signalTest>;
export type RampSource = v.InferOutput<typeof ramp>;
export type RuleSource = v.InferOutput<typeof rule>;
