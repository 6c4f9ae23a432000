import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Context } from "../../character/context.ts";
import { readCharacter } from "../../character/read-character.ts";
import type { Json } from "../json.ts";
import { mergeCharacters } from "./merge-characters.ts";
import type { Versions } from "./versions.ts";

/**
 * What merges saves of a game by itself, for `syncedStore`: characters where nothing has to be decided and the rules agree. Of a profile, which
 * says who sits where on this device, the one that is here is kept. For everything else somebody has to choose.
 *
 * @param context - what the merged loadout is judged by.
 */
export function mergeSaved(
  catalog: Catalog,
  context: Context = {},
): (kind: string, versions: Versions<Json, Json | undefined>) => Json | undefined {
  return (kind, { base, mine, theirs }) => {
    if (kind === "profile") return mine;
    if (kind !== "character") return undefined;
    const [before, here, there] = [base, mine, theirs].map((each) => readCharacter(each).character);
    if (before === undefined || here === undefined || there === undefined) return undefined;
    const { character, conflicts, problems } = mergeCharacters(
      catalog,
      { base: before, mine: here, theirs: there },
      context,
    );
    return conflicts.length + problems.length === 0 ? { ...character } : undefined;
  };
}
