import { isRecord } from "../../base/schema/bounds.ts";
import type { MapSection } from "../read/source.ts";

type Entry = Readonly<Record<string, unknown>>;

/** Where paths of art stand, by section: lists of pictures or meshes, or one object that names a file. */
const places: Readonly<Partial<Record<MapSection, readonly string[]>>> = {
  rigs: ["points", "model"],
  bodies: ["art", "model", "points"],
  parts: ["layers", "meshes"],
  forms: ["art"],
};

/** The sections that name art. */
export const artSections = Object.keys(places) as readonly MapSection[];

const pathKeys = ["image", "frames", "file"] as const;

/**
 * The entries of a pack, or what a pack changes of some, with art found from the catalog's folder. Paths are from the folder of the pack; one that begins
 * with a slash is from that of the catalog.
 *
 * @param folder - that of the pack, with a slash at its end.
 */
export function withArtIn(folder: string, section: MapSection, entries: Entry): Entry {
  const all: [string, unknown][] = [];
  for (const id of Object.keys(entries)) all.push([id, entryIn(folder, places[section] ?? [], entries[id])]);
  return Object.fromEntries(all);
}

function entryIn(folder: string, keys: readonly string[], entry: unknown): unknown {
  if (!isRecord(entry)) return entry;
  let made: Record<string, unknown> | undefined;
  for (const key of keys) {
    if (!Object.hasOwn(entry, key)) continue;
    made ??= { ...entry };
    made[key] = placed(folder, entry[key]);
  }
  return made ?? entry;
}

/** Art in a list, in what is added to one, or in one object. */
function placed(folder: string, value: unknown): unknown {
  if (Array.isArray(value)) return value.map((each) => placed(folder, each));
  if (!isRecord(value)) return value;
  const made: Record<string, unknown> = { ...value };
  for (const key of pathKeys) {
    const path = value[key];
    if (typeof path === "string") made[key] = path.startsWith("/") ? path.slice(1) : folder + path;
  }
  if (Object.hasOwn(value, "add")) made["add"] = placed(folder, value["add"]);
  return made;
}
