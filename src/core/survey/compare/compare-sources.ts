import { canonicalText } from "../../base/canonical-text.ts";
import { pointerTo } from "../../base/problem.ts";
import type { Json } from "../../save/json.ts";

/** An entry of a catalog that is not as it was. */
export interface EntryChange {
  /** The section it is in, such as `parts`; `catalog` for what stands beside the sections. */
  readonly section: string;
  /** Its id; of what has none, such as a rule, what it says. */
  readonly id: string;
  readonly fate: "added" | "removed" | "changed";
  /** What of it changed; nothing where all of it came or went. */
  readonly keys: readonly KeyChange[];
}

/** A value in an entry that is not as it was; `undefined` where there was or is none. */
export interface KeyChange {
  /** Where in the entry, as in RFC 6901. */
  readonly pointer: string;
  readonly before: Json | undefined;
  readonly after: Json | undefined;
}

type Sources = readonly unknown[];

/**
 * Compares two catalogs as they are written: entry by entry, wherever in their files those stand. The order of entries makes no difference.
 *
 * @param older - what is parsed of the catalog's files, the main one first.
 * @example
 * compareSources([before], [after])
 * // → [{ section: "parts", id: "storm-hat", fate: "changed", keys: [{ pointer: "/price", before: 30, after: 35 }] }]
 */
export function compareSources(older: Sources, newer: Sources): readonly EntryChange[] {
  const [before, after] = [entriesOf(older), entriesOf(newer)];
  const keys = [...new Set([...before.keys(), ...after.keys()])];
  return keys.flatMap((key): EntryChange[] => {
    const [was, is] = [before.get(key), after.get(key)];
    const { section, id } = is ?? was ?? { section: "", id: "" };
    if (was === undefined) return [{ section, id, fate: "added", keys: [] }];
    if (is === undefined) return [{ section, id, fate: "removed", keys: [] }];
    const changes = changesBetween(was.value, is.value, []);
    return changes.length === 0 ? [] : [{ section, id, fate: "changed", keys: changes }];
  });
}

interface Entry {
  readonly section: string;
  readonly id: string;
  readonly value: Json;
}

/** Every entry of all files, by its section and id. */
function entriesOf(sources: Sources): ReadonlyMap<string, Entry> {
  const entries = new Map<string, Entry>();
  const add = (section: string, id: string, value: Json) =>
    entries.set(JSON.stringify([section, id]), { section, id, value });
  for (const source of sources) {
    for (const [section, value] of Object.entries(Object(source) as Record<string, Json>)) {
      if (unnamed.has(section)) continue;
      if (Array.isArray(value)) for (const each of value) add(section, canonicalText(each), each);
      else if (isObject(value)) for (const [id, each] of Object.entries(value)) add(section, id, each);
      else add("catalog", section, value);
    }
  }
  return entries;
}

/** What says nothing of what there is. */
const unnamed: ReadonlySet<string> = new Set(["$schema", "include", "mantle"]);

function isObject(value: Json | undefined): value is { readonly [key: string]: Json } {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function changesBetween(
  before: Json | undefined,
  after: Json | undefined,
  path: readonly (string | number)[],
): readonly KeyChange[] {
  if (isObject(before) && isObject(after)) {
    const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])];
    return keys.flatMap((key) => changesBetween(before[key], after[key], [...path, key]));
  }
  const isSame = before !== undefined && after !== undefined && canonicalText(before) === canonicalText(after);
  return isSame ? [] : [{ pointer: pointerTo(...path), before, after }];
}
