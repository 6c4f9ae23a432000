import * as z from "zod/mini";
import { limits } from "../../base/limits.ts";
import { creation, names, preset } from "./creation-schema.ts";
import { cue } from "./cue-schema.ts";
import { condition, id, pattern, text } from "./schema-forms.ts";

const color = z.string().check(z.regex(/^#[0-9a-f]{6}$/i));
const whole = z.int().check(z.minimum(0));
const point = z.tuple([z.int(), z.int()]);
const side = z.int().check(z.minimum(1), z.maximum(limits.frameSize));
const rectangle = z.tuple([z.int(), z.int(), side, side]);
const size = z.strictObject({ width: side, height: side });
const idOrIds = z.union([id, z.array(id).check(z.minLength(1))]);
const signalValue = z.union([z.string(), z.number(), z.boolean()]);

/** Where a picture is hung: the pixel `at` of it lies on the point, and the line from `at` to `along` looks toward another point. */
const pin = z.strictObject({
  point: id,
  at: z.optional(point),
  toward: z.optional(id),
  along: z.optional(point),
});

const layer = z.strictObject({
  image: z.string().check(z.minLength(1)),
  depth: z.union([z.number(), z.catchall(z.object({ default: z.number() }), z.number())]),
  channel: z.optional(id),
  group: z.optional(id),
  in: z.optional(id),
  opacity: z.optional(z.number().check(z.minimum(0), z.maximum(1))),
  animations: z.optional(z.array(id).check(z.minLength(1))),
  else: z.optional(z.union([z.literal(false), z.record(id, id)])),
  facings: z.optional(z.union([z.literal("any"), z.array(id).check(z.minLength(1))])),
  still: z.optional(z.boolean()),
  pin: z.optional(pin),
  offset: z.optional(z.union([point, z.record(id, point)])),
  scale: z.optional(z.union([z.number().check(z.positive()), z.record(id, z.number().check(z.positive()))])),
  forms: z.optional(z.array(id).check(z.minLength(1))),
  notForms: z.optional(z.array(id).check(z.minLength(1))),
  grid: z.optional(z.strictObject({ cell: size, at: z.optional(point) })),
});

/** By point, animation and drawn facing: one place for all frames, or one for each; `null` where it is not seen. */
const framedPoints = z.record(
  id,
  z.record(id, z.record(id, z.union([point, z.array(z.nullable(point)).check(z.minLength(1))]))),
);

const points = z.union([
  z.strictObject({ image: z.string().check(z.minLength(1)), colors: z.record(id, color) }),
  z.strictObject({ frames: framedPoints }),
]);

const rig = z.strictObject({
  title: z.optional(text),
  frame: size,
  origin: point,
  facings: z.array(z.union([id, z.strictObject({ id, mirror: id })])).check(z.minLength(1)),
  animations: z.record(
    id,
    z.strictObject({
      frames: z.int().check(z.minimum(1), z.maximum(limits.frames)),
      fps: z.number().check(z.positive()),
      loop: z.optional(z.boolean()),
      else: z.optional(id),
    }),
  ),
  points: z.optional(points),
  twins: z.optional(z.array(z.tuple([id, id]))),
  crops: z.optional(
    z.record(
      id,
      z.strictObject({
        animation: id,
        facing: id,
        point: z.optional(id),
        rect: rectangle,
        round: z.optional(z.boolean()),
        back: z.optional(color),
        rim: z.optional(color),
      }),
    ),
  ),
});

const collider = z.strictObject({ x: z.number(), y: z.number(), width: z.number(), height: z.number() });

const body = z.strictObject({
  title: z.optional(text),
  extends: z.optional(id),
  rig: z.optional(id),
  art: z.optional(z.array(layer)),
  artFrom: z.optional(id),
  points: z.optional(points),
  collider: z.optional(collider),
  abilities: z.optional(z.array(id)),
  stats: z.optional(z.record(id, z.number())),
  growsInto: z.optional(id),
});

const slot = z.strictObject({
  title: z.optional(text),
  kind: z.enum(["appearance", "gear"]),
  required: z.optional(z.boolean()),
  default: z.optional(id),
  data: z.optional(z.boolean()),
});

const channel = z.strictObject({
  title: z.optional(text),
  ramps: z.array(id).check(z.minLength(1)),
  default: id,
  key: z.array(color).check(z.minLength(1), z.maxLength(256)),
  match: z.optional(z.enum(["key", "luminance"])),
  custom: z.optional(z.boolean()),
});

const ramp = z.union([
  z.array(color).check(z.minLength(1), z.maxLength(256)),
  z.strictObject({ title: text, colors: z.array(color).check(z.minLength(1), z.maxLength(256)) }),
]);

const gift = z.union([
  z.number(),
  z.strictObject({ add: z.optional(z.number()), times: z.optional(z.number().check(z.minimum(0))) }),
]);

/** The form of a part. */
export const partSchema = z.strictObject({
  title: z.optional(text),
  slot: idOrIds,
  occupies: z.optional(z.array(id)),
  tags: z.optional(z.array(id)),
  layers: z.optional(z.array(layer)),
  fits: z.optional(z.array(id)),
  hides: z.optional(z.array(z.string().check(z.regex(/^[a-z0-9-]+(\/[a-z0-9-]+)?$/)))),
  gives: z.optional(z.record(id, gift)),
  needs: z.optional(z.record(id, z.number())),
  price: z.optional(whole),
  access: z.optional(z.enum(["secret", "listed", "owned"])),
  rarity: z.optional(id),
  counterparts: z.optional(z.record(id, id)),
  stack: z.optional(z.int().check(z.minimum(1), z.maximum(limits.stack))),
});

const stat = z.strictObject({
  title: z.optional(text),
  least: z.optional(z.number()),
  most: z.optional(z.number()),
});

const outfit = z.strictObject({
  title: z.optional(text),
  parts: z.array(id),
  colors: z.optional(z.record(id, id)),
  others: z.optional(z.enum(["keep", "clear", "hide"])),
});

const bound = z.union([z.number(), z.strictObject({ stat: id })]);

/** One form for every kind of rule; which keys go together is checked after, where it can be said in a sentence. */
const rule = z.strictObject({
  never: z.optional(z.array(pattern).check(z.minLength(2))),
  then: z.optional(z.enum(["displace", "refuse"])),
  if: z.optional(condition),
  needs: z.optional(condition),
  total: z.optional(id),
  count: z.optional(pattern),
  atLeast: z.optional(bound),
  atMost: z.optional(bound),
  say: z.optional(text),
});

const bounds = {
  is: z.optional(signalValue),
  atLeast: z.optional(z.number()),
  atMost: z.optional(z.number()),
};

const signalTest = z.strictObject({ signal: id, ...bounds, until: z.optional(z.strictObject(bounds)) });

const form = z.strictObject({
  title: z.optional(text),
  when: z.union([signalTest, z.array(signalTest).check(z.minLength(1))]),
  priority: z.optional(z.number()),
  bodies: z.optional(z.array(id).check(z.minLength(1))),
  animations: z.optional(z.record(id, id)),
  collider: z.optional(collider),
  abilities: z.optional(z.array(id)),
  art: z.optional(z.array(layer)),
  parts: z.optional(z.record(id, z.nullable(id))),
  opacity: z.optional(z.number().check(z.minimum(0), z.maximum(1))),
  colors: z.optional(z.record(id, id)),
});

/** The sections of a catalog: maps by id that any included file may add to, rules, and what there is one of. */
const sections = {
  rigs: z.optional(z.record(id, rig)),
  bodies: z.optional(z.record(id, body)),
  slots: z.optional(z.record(id, slot)),
  ramps: z.optional(z.record(id, ramp)),
  channels: z.optional(z.record(id, channel)),
  stats: z.optional(z.record(id, stat)),
  parts: z.optional(z.record(id, partSchema)),
  outfits: z.optional(z.record(id, outfit)),
  forms: z.optional(z.record(id, form)),
  presets: z.optional(z.record(id, preset)),
  rules: z.optional(z.array(rule)),
  cues: z.optional(z.array(cue)),
  creation: z.optional(creation),
  names: z.optional(names),
};

/** The form of `catalog.json`. */
export const catalogSchema = z.strictObject({
  $schema: z.optional(z.string()),
  mantle: z.literal("catalog/1"),
  id,
  version: z.string().check(z.minLength(1)),
  title: z.optional(text),
  include: z.optional(z.array(z.string())),
  ...sections,
});

/** The form of a file that `catalog.json` includes. */
export const fragmentSchema = z.strictObject({ $schema: z.optional(z.string()), ...sections });

export type CatalogSource = z.infer<typeof catalogSchema>;
export type FragmentSource = z.infer<typeof fragmentSchema>;
export type LayerSource = z.infer<typeof layer>;
export type BodySource = z.infer<typeof body>;
export type PartSource = z.infer<typeof partSchema>;
export type RigSource = z.infer<typeof rig>;
export type PointsSource = z.infer<typeof points>;
export type FormSource = z.infer<typeof form>;
export type SignalTestSource = z.infer<typeof signalTest>;
export type RampSource = z.infer<typeof ramp>;
export type RuleSource = z.infer<typeof rule>;
export type StatSource = z.infer<typeof stat>;
export type GiftSource = z.infer<typeof gift>;
