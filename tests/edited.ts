import { applyEdit, type Catalog, type Character, describeProblem, type Edit } from "zealous-mantle";

/** The character after edits that must all succeed. */
export function edited(catalog: Catalog, character: Character, ...edits: readonly Edit[]): Character {
  return edits.reduce<Character>((before, edit) => {
    const result = applyEdit(catalog, before, edit);
    if (!result.ok) throw new Error(result.problems.map(describeProblem).join(" "));
    return result.character;
  }, character);
}
