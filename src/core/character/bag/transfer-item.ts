import { MantleError } from "../../base/problem.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../character.ts";
import type { Context } from "../context.ts";
import type { LoadoutProblem } from "../edit.ts";
import { loadoutProblem } from "../refuse.ts";
import { addToBag, countInBag, takeFromBag } from "./bag.ts";
import { overfull } from "./overfull.ts";

/** What handing something over came to. A refusal changes nobody. */
export type Transfer = { readonly from: Character; readonly to: Character } & (
  | { readonly ok: true }
  | { readonly ok: false; readonly problems: readonly LoadoutProblem[] }
);

/**
 * Takes a part out of one character's bag and puts it in another's: so many of it, from the smallest stacks. Both together have as many
 * after as before.
 *
 * @param count - a whole number of at least 1.
 * @throws MantleError `bad-call` when it is handed to oneself, or for another count.
 * @example
 * transferItem(catalog, wren, heron, "flares", 5, { bagPlaces: 12 })
 */
export function transferItem(
  catalog: Catalog,
  from: Character,
  to: Character,
  part: string,
  count = 1,
  { bagPlaces }: Pick<Context, "bagPlaces"> = {},
): Transfer {
  if (from.id === to.id) throw new MantleError("bad-call", `"${from.id}" cannot hand something to itself.`);
  if (!Number.isSafeInteger(count) || count < 1)
    throw new MantleError("bad-call", `${count} is no number of things. Give a whole number of at least 1.`);
  const carried = countInBag(from.bag, part);
  if (carried < count) {
    const about = { subject: { kind: "part", id: part }, at: ["bag", part] } as const;
    const chain = [{ kind: "carried", part, count: carried }] as const;
    const problem =
      carried === 0
        ? loadoutProblem("not-carried", { ...about, params: { part }, chain })
        : loadoutProblem("cannot-drop", { ...about, params: { part, count: carried, take: count }, chain });
    return { ok: false, from, to, problems: [problem] };
  }
  let { bag } = from;
  for (let left = count; left > 0; left -= 1) bag = takeFromBag(bag, part);
  const carrying = { ...to, bag: addToBag(catalog, to.bag, part, count) };
  const problems = overfull(to, carrying, bagPlaces === undefined ? {} : { bagPlaces });
  if (problems.length > 0) return { ok: false, from, to, problems };
  return { ok: true, from: { ...from, bag }, to: carrying };
}
