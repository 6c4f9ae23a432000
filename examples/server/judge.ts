import type { Catalog, Character } from "zealous-mantle";
import { judgeCharacter } from "zealous-mantle/judge";
import type { Game } from "./game.ts";
import { Refusal } from "./refusal.ts";
import type { PlayerSaves } from "./saved.ts";

/**
 * Judges a character that a client sends as a whole: everything the catalog and the rules say, who owns what, and that no more of what has to
 * be bought is worn and carried than was bought, by all of the player's characters together.
 *
 * @throws Refusal 422 with what is wrong.
 */
export function judgeSent(game: Game, { account, characters }: PlayerSaves, id: string, text: string): Character {
  const counts = Object.fromEntries([...game.catalog.parts.keys()].map((part) => [part, Number.POSITIVE_INFINITY]));
  const others = [...characters].filter(([other]) => other !== id).map(([, { character }]) => character);
  for (const part of game.forSale) {
    const taken = others.reduce((sum, other) => sum + countOf(game.catalog, other, part), 0);
    counts[part] = Math.max(0, (account.counts[part] ?? 0) - taken);
  }
  const { holdings } = account;
  const judged = judgeCharacter(game.catalog, text, { holdings, counts, bagPlaces: game.bagPlaces });
  if (!judged.accepted || judged.character === undefined)
    throw new Refusal(422, "refused", { problems: judged.problems });
  if (judged.character.id !== id) throw new Refusal(422, "other-id");
  return judged.character;
}

/** How many of a part a character wears as gear and carries. */
export function countOf({ slots }: Catalog, { loadout, bag }: Character, part: string): number {
  const worn = Object.keys(loadout).filter((slot) => loadout[slot] === part && slots.get(slot)?.kind === "gear");
  return worn.length + (bag[part] ?? []).reduce((sum, count) => sum + count, 0);
}
