import { closest, distance } from "fastest-levenshtein";
import type { Fix } from "./problem.ts";

/**
 * A fix that names the nearest known id, when one is near enough to be what was meant; otherwise the general advice.
 *
 * @param known - the ids that would be right here.
 * @param sayMeant - the advice when one of them is near.
 * @param sayElse - the advice when none is.
 */
export function suggest(
  wrong: string,
  known: readonly string[],
  sayMeant: (id: string) => string,
  sayElse: string,
): readonly Fix[] {
  const near = Math.min(3, Math.max(1, Math.floor(wrong.length / 2)));
  // Nobody misspells what is longer, and comparing costs the product of the lengths.
  const alike = wrong.length > longest ? [] : known.filter((id) => Math.abs(id.length - wrong.length) <= near);
  if (alike.length > 0 && alike.length <= most) {
    const meant = closest(wrong, alike);
    if (distance(wrong, meant) <= near) return [{ say: sayMeant(meant) }];
  }
  return [{ say: sayElse }];
}

const longest = 64;

/** To how many ids one is compared. */
const most = 20_000;
