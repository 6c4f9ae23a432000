import type { Displaced, Edit } from "../../character/edit.ts";
import { refuse } from "../../character/refuse.ts";
import type { VerbModule } from "../verb.ts";

/** Several edits as one: either all are done, or none. */
export const togetherVerb: VerbModule<"together"> = {
  apply({ together }, { character, attempt }) {
    let current = character;
    const displaced: Displaced[] = [];
    // A list of what is left to do, since edits that hold edits may be nested deeper than calls may.
    const open: Edit[] = [...together].reverse();
    for (let edit = open.pop(); edit !== undefined; edit = open.pop()) {
      if (edit.together !== undefined) {
        for (const each of edit.together.toReversed()) open.push(each);
        continue;
      }
      const result = attempt(current, edit);
      if (!result.ok) return refuse(character, ...result.problems);
      current = result.character;
      for (const each of result.displaced) displaced.push(each);
    }
    return { ok: true, character: current, displaced };
  },
};
