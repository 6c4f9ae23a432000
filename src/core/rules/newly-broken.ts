import { getOwn } from "../base/record.ts";
import type { Catalog, Condition } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { problemAbout } from "../character/refuse.ts";
import { type Explained, explainAll } from "./explain-broken.ts";
import { brokenKeys, countBroken, findBroken } from "./find-broken.ts";
import { withLoadout } from "./worn.ts";

/** What holds before a change and not after, or does not hold more often: needs, rules, required slots, the place and the fit of parts. */
export function newlyBroken(
  catalog: Catalog,
  before: Character,
  after: Character,
  context: Context,
): readonly Explained[] {
  const earlier = withLoadout(catalog, before, context, countBroken);
  return withLoadout(catalog, after, context, (state) => {
    const later = new Map<string, number>();
    // Of what is the same, as many are new as there are more than before.
    const isNew = (key: string) => {
      const count = (later.get(key) ?? 0) + 1;
      later.set(key, count);
      return count > (earlier.get(key) ?? 0);
    };
    const found = findBroken(state).filter((broken) => brokenKeys(broken, state).filter(isNew).length > 0);
    return explainAll(state, after, context, found);
  });
}

/** How an edit that would break something can be done all the same. */
export type Helping = (
  inTheWay: readonly { readonly slot: string; readonly part: string }[],
  missing: Condition | undefined,
) => LoadoutProblem["fixes"];

/**
 * What an edit would break that held before. Existing violations do not block edits.
 *
 * @param slot - the slot the edit is about, where the problems are placed; the loadout as a whole when left out.
 * @param help - finds what would make the edit possible, of the worn parts that are in its way and what is missing; it is called when that is asked for.
 */
export function wouldBreak(
  catalog: Catalog,
  before: Character,
  after: Character,
  context: Context,
  slot: string | undefined,
  help: Helping,
): readonly LoadoutProblem[] {
  return newlyBroken(catalog, before, after, context).map(
    ({ subject, chain, culprits, broken: _, keys: __, ...said }) => {
      const others = culprits.filter(
        (worn) => worn.slot !== slot && getOwn(before.loadout, worn.slot) === worn.part.id,
      );
      const missing = chain.find((link) => link.kind === "missing")?.condition;
      const fixes = () =>
        help(
          others.map((worn) => ({ slot: worn.slot, part: worn.part.id })),
          missing,
        );
      const at = slot === undefined ? ["loadout"] : ["loadout", slot];
      return problemAbout(said, { subject, at, chain, fixes });
    },
  );
}
