import { applyEdit, type Catalog, type Character, type Edit } from "zealous-mantle";
import { described } from "./in-words.ts";

/** The character after edits that must all succeed. */
export function edited(catalog: Catalog, character: Character, ...edits: readonly Edit[]): Character {
  return edits.reduce<Character>((before, edit) => {
    const result = applyEdit(catalog, before, edit);
    if (!result.ok) throw new Error(result.problems.map(described).join(" "));
    return result.character;
  }, character);
}
