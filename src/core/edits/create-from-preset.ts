import { MantleError } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { unknownId } from "../character/refuse.ts";
import { attemptEdit } from "./apply-edit.ts";
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
export function createFromPreset(
  catalog: Catalog,
  id: string,
  options: Pick<CreateOptions, "id" | "name" | "random"> = {},
): Character {
  const preset = catalog.presets.get(id);
  if (preset === undefined) {
    const problem = unknownId({ catalog, context: {} }, "preset", id, []);
    throw new MantleError(problem.code, [problem.because, ...problem.fixes.map(({ say }) => say)].join(" "), [problem]);
  }
  const blank = createCharacter(catalog, { ...options, body: preset.body });
  const result = attemptEdit(catalog, blank, { preset: id });
  // What the slots start with made room and is not owned.
  if (result.ok) return { ...result.character, bag: {} };
  throw new MantleError("bad-preset", result.problems.map(({ because }) => because).join(" "), result.problems);
}
