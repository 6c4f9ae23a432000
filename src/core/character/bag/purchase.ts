import { MantleError } from "../../base/problem.ts";
import type { Catalog, CatalogIds } from "../../catalog/model/catalog.ts";
import type { Character } from "../character.ts";
import type { Context, Holdings, HoldingsOf } from "../context.ts";
import type { LoadoutProblem } from "../edit.ts";
import { fixBy, loadoutProblem, unknownId } from "../refuse.ts";
import { accessTo } from "./access.ts";
import { addToBag } from "./bag.ts";
import { isGear } from "./is-gear.ts";
import { overfull } from "./overfull.ts";

/** What a player pays with: all of it is handed in, and a result hands out what is left. */
export interface PurchaseOptions<Ids extends CatalogIds = CatalogIds> extends Pick<Context, "bagPlaces"> {
  readonly holdings: HoldingsOf<Ids>;
  /** In the unit of prices; at least 0. */
  readonly balance: number;
}

/** What acquiring a part came to. A refusal changes nothing: everything is the very thing it was given. */
export type Purchase = {
  readonly holdings: Holdings;
  readonly balance: number;
  readonly character: Character;
} & ({ readonly ok: true } | { readonly ok: false; readonly problems: readonly LoadoutProblem[] });

/**
 * Makes a part known to a player: `secret` becomes `listed`. What is listed or owned already stays so.
 *
 * @throws MantleError `unknown-part`.
 * @example
 * reveal(catalog, holdings, "lamp-crown") // → { ...holdings, "lamp-crown": "listed" }
 */
export function reveal<Ids extends CatalogIds>(catalog: Catalog<Ids>, holdings: Holdings, part: Ids["part"]): Holdings {
  const known = catalog.parts.get(part);
  if (known === undefined) throw new MantleError("unknown-part", `The catalog has no part "${part}".`);
  return accessTo(known, holdings) === "secret" ? { ...holdings, [part]: "listed" } : holdings;
}

/**
 * Gives a player a part for its price: it is owned from then on and, where it is gear, one of it is in the bag.
 *
 * Gear can be acquired again and again. The balance never falls below 0; the result has the new one.
 *
 * @throws MantleError `bad-balance` for a balance that is no amount.
 * @example
 * purchase(catalog, wren, "storm-hat", { holdings, balance: 40 })
 * // → { ok: true, balance: 10, holdings: { …, "storm-hat": "owned" }, character }
 */
export function purchase<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  character: Character,
  part: Ids["part"],
  means: PurchaseOptions<Ids>,
): Purchase;
export function purchase(catalog: Catalog, character: Character, part: string, means: PurchaseOptions): Purchase {
  const { holdings, balance } = means;
  if (!Number.isFinite(balance) || balance < 0) {
    throw new MantleError("bad-balance", `${balance} is not a balance. Give a number that is at least 0.`);
  }
  const known = catalog.parts.get(part);
  if (known === undefined) {
    const problem = unknownId(catalog, "part", part, ["bag", part]);
    return { ok: false, holdings, balance, character, problems: [problem] };
  }
  const isThing = isGear(catalog, part);
  const carrying = isThing ? { ...character, bag: addToBag(catalog, character.bag, part) } : character;
  const problems = [...reasonsAgainst(catalog, part, isThing, means), ...overfull(character, carrying, means)];
  if (problems.length > 0) return { ok: false, holdings, balance, character, problems };
  const owned: Holdings = { ...holdings, [part]: "owned" };
  return { ok: true, holdings: owned, balance: balance - (known.price ?? 0), character: carrying };
}

function reasonsAgainst(
  catalog: Catalog,
  id: string,
  isThing: boolean,
  { holdings, balance }: PurchaseOptions,
): readonly LoadoutProblem[] {
  const part = catalog.parts.get(id);
  if (part === undefined) return [];
  const access = accessTo(part, holdings);
  const about = {
    subject: { kind: "part", id },
    at: ["bag", id],
    chain: [{ kind: "access", part: id, access }],
  } as const;
  if (access === "secret") return [loadoutProblem("not-known", { ...about, params: { part: id } })];
  if (access === "owned" && !isThing) return [loadoutProblem("already-owned", { ...about, params: { part: id } })];
  if (part.price === undefined) return [loadoutProblem("not-for-sale", { ...about, params: { part: id } })];
  if (part.price <= balance) return [];
  const params = { part: id, price: part.price, balance };
  const fixes = [fixBy("earn-more", { amount: part.price - balance })];
  return [loadoutProblem("too-dear", { ...about, params, fixes })];
}
