import { suggest } from "../catalog/suggest.ts";
import { type Fix, pointerTo } from "../problem.ts";
import type { Character } from "./character.ts";
import type { Edit, EditResult, LoadoutProblem } from "./edit.ts";

/** The result of an edit that cannot be done. */
export function refuse(character: Character, ...problems: readonly LoadoutProblem[]): EditResult {
  return { ok: false, character, problems };
}

/** An error about one key of a character. */
export function characterProblem(
  code: string,
  keys: readonly string[],
  because: string,
  ...fixes: readonly Fix<Edit>[]
): LoadoutProblem {
  return { code, severity: "error", place: { pointer: pointerTo(...keys) }, because, fixes };
}

/** The problem of an id that the catalog does not know, with the nearest that it does. */
export function unknownId(
  noun: string,
  id: string,
  known: ReadonlyMap<string, unknown>,
  keys: readonly string[],
): LoadoutProblem {
  const fixes = suggest(
    id,
    [...known.keys()],
    (meant) => `Say "${meant}" if that is meant.`,
    `Name a ${noun} that is in the catalog.`,
  );
  return characterProblem(`unknown-${noun}`, keys, `The catalog has no ${noun} "${id}".`, ...fixes);
}
