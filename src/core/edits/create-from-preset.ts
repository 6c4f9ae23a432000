import { codesOf, MantleError } from "../base/problem.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Catalog, CatalogIds } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { tryEdit } from "./apply-edit.ts";
import { type CreateOptions, createCharacter } from "./create-character.ts";

/**
 * Makes a new character that is as a preset of the catalog shows.
 *
 * Rules are not judged: `mantle check` does that for every preset of a catalog.
 *
 * @throws MantleError `unknown-preset`, `bad-id` or a refused name.
 * @example
 * createFromPreset(catalog, "old-hand", { name: "Halric" })
 */
export function createFromPreset<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  id: Ids["preset"],
  options: Pick<CreateOptions, "id" | "name" | "random"> = {},
): Character {
  const preset = requireKnown("preset", id, catalog.presets);
  const blank = createCharacter(catalog, { ...options, body: preset.body });
  const result = tryEdit(catalog, blank, { preset: id });
  // What the slots start with made room and is not owned.
  if (result.ok) return { ...result.character, bag: {} };
  throw new MantleError("bad-preset", `Preset "${id}" cannot be worn. ${codesOf(result.problems)}`, result.problems);
}
