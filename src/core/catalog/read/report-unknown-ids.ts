import type { Verb } from "../model/edit.ts";
import { type EditNoun, editShapes, shapeOf } from "../model/edit-shapes.ts";
import type { Known } from "./findings.ts";
import type { Reader } from "./reader.ts";
import type { Entry } from "./source.ts";

/** Reports ids in an authored edit that name nothing. */
export function reportUnknownIds(
  entry: Entry<unknown>,
  keys: readonly (string | number)[],
  edit: object,
  { sources: { parts, slots, channels, outfits, bodies, presets }, findings }: Reader,
): void {
  const nouns = new Map<string, Known>(Object.entries({ part: parts, slot: slots, body: bodies, preset: presets }));
  nouns.set("channel", channels).set("outfit", outfits);
  const verb = Object.keys(edit).find((key): key is Verb => Object.hasOwn(editShapes, key));
  for (const { key, holds } of verb === undefined ? [] : shapeOf(verb)) {
    const known = nouns.get(holds);
    const id: unknown = Reflect.get(edit, key);
    if (known !== undefined && typeof id === "string")
      findings.known(entry, [...keys, key], holds as EditNoun, id, known);
  }
}
