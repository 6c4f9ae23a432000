import { builds } from "../art/figure.ts";
import { jointOf, type MadeMesh } from "./maker.ts";
import { unit } from "./rig.ts";

type Json = Record<string, unknown>;

/** The slot of each part, by the id of its art: what is drawn for one hand is called after it. */
export function slotsOf(files: ReadonlyMap<string, Json>): ReadonlyMap<string, string> {
  const slots = new Map<string, string>();
  for (const [id, { slot }] of partsIn(files)) {
    if (typeof slot === "string") slots.set(id, slot);
    else for (const each of slot as string[]) slots.set(`${id}-${each.replace("hand-", "")}`, each);
  }
  return slots;
}

/** The default ramp of each channel. */
export function rampsOf(files: ReadonlyMap<string, Json>): ReadonlyMap<string, readonly number[]> {
  const { channels, ramps } = files.get("catalog.json") as {
    channels: Record<string, { default: string }>;
    ramps: Record<string, { colors: string[] }>;
  };
  return new Map(
    Object.entries(channels).map(([id, { default: usual }]) => [
      id,
      (ramps[usual]?.colors ?? []).map((color) => Number.parseInt(color.slice(1), 16)),
    ]),
  );
}

function partsIn(files: ReadonlyMap<string, Json>): readonly (readonly [string, Json])[] {
  return [...files.values()].flatMap(({ parts = {} }) => Object.entries(parts as Record<string, Json>));
}

/** What a build touches others with, in units of the models. */
function capsuleOf(id: string): Json {
  const build = builds.find((each) => each.id === id);
  const { shoulderWidth = 0, upperArm: [arm] = [0], headHeight = 0 } = build ?? {};
  const rounded = (pixels: number) => Math.round(pixels * unit * 100) / 100;
  return { radius: rounded(shoulderWidth + arm), height: rounded(headHeight + 9) };
}

const turns = { west: -68.4, east: 68.4 };
const points = ["crown", "hand-left", "hand-right", "shaft-left", "shaft-right"];

/** The catalog of the pictures with meshes in place of layers: all ids, rules, outfits, steps and cues are the same. */
export function catalogFiles(files: ReadonlyMap<string, Json>, made: readonly MadeMesh[]): ReadonlyMap<string, Json> {
  return new Map(
    [...files].map(([path, content]) => {
      if (path === "catalog.json") return [path, mainFile(content, made)];
      if ("parts" in content)
        return [
          path,
          {
            ...content,
            parts: mapValues(content["parts"] as Record<string, Json>, (part, id) => withMeshes(part, id, made)),
          },
        ];
      return [path, content];
    }),
  );
}

function mainFile(content: Json, made: readonly MadeMesh[]): Json {
  const { rigs, bodies, forms, ...rest } = content as Record<string, Record<string, Json>>;
  const skin = made.filter(
    ({ id, path }) =>
      id === "body" && (path.startsWith(`models/${builds[0]?.id}/`) || path.startsWith("models/heads/")),
  );
  return {
    ...rest,
    title: "Saltmarsh Post, in three dimensions",
    rigs: mapValues(rigs ?? {}, ({ points: _drawn, twins: _twins, ...rig }) => ({
      ...rig,
      crisp: false,
      model: {
        file: "models/{body}/skeleton.glb",
        scale: 1 / unit,
        tilt: 12,
        ink: 0.45,
        turns,
        points: Object.fromEntries(points.map((point) => [point, jointOf(point)])),
      },
    })),
    bodies: mapValues(bodies ?? {}, ({ art, ...body }, id) => ({
      ...body,
      capsule: capsuleOf(id),
      ...(art !== undefined && { model: skin.map((mesh) => entryOf(mesh)) }),
    })),
    forms: mapValues(forms ?? {}, ({ art: _art, ...form }) => form),
  };
}

function withMeshes(
  { layers: _layers, hides = [], allow, ...part }: Json,
  id: string,
  made: readonly MadeMesh[],
): Json {
  const sides = ["left", "right"].map((side) => `${id}-${side}`);
  const own = made.filter((mesh) => mesh.id === id || sides.includes(mesh.id));
  if (own.length === 0) return part;
  const inHand = (mesh: MadeMesh) => (mesh.id === id ? undefined : `hand-${mesh.id.slice(id.length + 1)}`);
  const entries = new Map(own.map((mesh) => [`${mesh.file} ${mesh.node}`, entryOf(mesh, inHand(mesh))]));
  // Hidden is what nobody sees on any build.
  const [first, ...others] = own.map((mesh) => mesh.hides);
  const hidden = [
    ...(hides as string[]),
    ...(first ?? []).filter((each) => others.every((other) => other.includes(each))),
  ];
  return {
    ...part,
    meshes: [...entries.values()],
    ...(hidden.length > 0 && { hides: hidden }),
    // What may show through a picture may show through a mesh.
    ...(allow !== undefined && { allow: { "pokes-through": (allow as Json)["shows-through"] } }),
  };
}

function entryOf({ file, node, group, attach, channels }: MadeMesh, slot?: string): Json {
  const ids = [...new Set(Object.values(channels))];
  const isPlain = ids.length === 1 && Object.keys(channels).length === 1;
  return {
    file,
    node,
    ...(group !== undefined && { group }),
    ...(slot !== undefined && { in: slot }),
    ...(attach !== undefined && { attach }),
    ...(isPlain ? { channels } : ids.length > 0 && { channels }),
  };
}

function mapValues<From, To>(
  record: Readonly<Record<string, From>>,
  change: (value: From, key: string) => To,
): Record<string, To> {
  return Object.fromEntries(Object.entries(record).map(([key, value]) => [key, change(value, key)]));
}
