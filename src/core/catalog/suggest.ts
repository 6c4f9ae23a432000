import { closest, distance } from "fastest-levenshtein";
import type { Fix } from "../problem.ts";

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
  if (known.length > 0) {
    const meant = closest(wrong, known);
    if (distance(wrong, meant) <= Math.min(3, Math.max(1, Math.floor(wrong.length / 2))))
      return [{ say: sayMeant(meant) }];
  }
  return [{ say: sayElse }];
}
