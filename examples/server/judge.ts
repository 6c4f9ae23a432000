import type { Catalog, Character } from "zealous-mantle";
import type { JudgeContext } from "zealous-mantle/judge";
import type { Game } from "./game.ts";
import type { PlayerSaves } from "./saved.ts";

/**
 * What a character that a client sends as a whole is judged by: who owns what, and that no more of what has to be bought is worn and carried than was
 * bought, by all of the player's characters together.
 */
export function rightsOf(game: Game, { account, characters }: PlayerSaves, id: string): JudgeContext {
  const counts = Object.fromEntries([...game.catalog.parts.keys()].map((part) => [part, Number.POSITIVE_INFINITY]));
  const others = [...characters].filter(([other]) => other !== id).map(([, { character }]) => character);
  for (const part of game.forSale) {
    const taken = others.reduce((sum, other) => sum + countOf(game.catalog, other, part), 0);
    counts[part] = Math.max(0, (account.counts[part] ?? 0) - taken);
  }
  return { holdings: account.holdings, counts, bagPlaces: game.bagPlaces };
}

/** How many of a part a character wears as gear and carries. */
export function countOf({ slots }: Catalog, { loadout, bag }: Character, part: string): number {
  const worn = Object.keys(loadout).filter((slot) => loadout[slot] === part && slots.get(slot)?.kind === "gear");
  return worn.length + (bag[part] ?? []).reduce((sum, count) => sum + count, 0);
}
