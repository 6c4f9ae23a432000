import { isRecord } from "../../base/schema/bounds.ts";
import type { MapSection } from "../read/source.ts";

/** Where paths of art stand, by section: lists of pictures or meshes, or one object that names a file. */
const places: Readonly<Partial<Record<MapSection, readonly string[]>>> = {
  rigs: ["points", "model"],
  bodies: ["art", "model", "points"],
  parts: ["layers", "meshes"],
  forms: ["art"],
};

const pathKeys = ["image", "frames", "file"] as const;

/**
 * An entry of a pack, or what a pack changes of one, whose art is found from the catalog's folder. Paths are from the folder of the pack; one that begins
 * with a slash is from that of the catalog.
 *
 * @param folder - that of the pack, with a slash at its end.
 */
export function withArtIn(folder: string, section: MapSection, entry: unknown): unknown {
  const keys = places[section] ?? [];
  if (!isRecord(entry) || !keys.some((key) => Object.hasOwn(entry, key))) return entry;
  return mapObject(entry, (key, value) => (keys.includes(key) ? placed(folder, value) : value));
}

/** Art in a list, in what is added to one, or in one object. */
function placed(folder: string, value: unknown): unknown {
  if (Array.isArray(value)) return value.map((each) => placed(folder, each));
  if (!isRecord(value)) return value;
  return mapObject(value, (key, inner) => {
    if (pathKeys.some((each) => each === key) && typeof inner === "string")
      return inner.startsWith("/") ? inner.slice(1) : folder + inner;
    return key === "add" ? placed(folder, inner) : inner;
  });
}

function mapObject(
  value: Readonly<Record<string, unknown>>,
  change: (key: string, value: unknown) => unknown,
): Readonly<Record<string, unknown>> {
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, change(key, inner)]));
}
