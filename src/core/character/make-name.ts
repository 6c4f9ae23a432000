import { randomFrom } from "../base/random.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { lookKeys } from "./look-alike.ts";
import { countGraphemes, nameLimit, normalizeName } from "./name.ts";

export interface MakeNameOptions {
  /** A whole number; the same seed always gives the same name. */
  readonly seed: number;
  /** Names that are not to come up. */
  readonly taken?: readonly string[];
  /** Returns why a name cannot be used, or nothing when it can. */
  readonly check?: (name: string) => string | undefined;
}

/**
 * Makes up a name from the catalog's syllables: a first, perhaps one from the middle, and a last.
 *
 * @returns `undefined` when the catalog has no syllables, or when a thousand tries gave nothing that may be used.
 * @example
 * makeName(catalog, { seed: 4, taken: ["Wren"] }) // → "Wreaka"
 */
export function makeName(catalog: Catalog, { seed, taken = [], check }: MakeNameOptions): string | undefined {
  const { first = [], middle = [], last = [], longest = nameLimit } = catalog.names ?? {};
  if (first.length + last.length === 0) return undefined;
  const random = randomFrom(seed);
  const keys = new Set(taken.flatMap(lookKeys));
  for (let tries = 0; tries < 1_000; tries += 1) {
    const between = random.next() < 0.5 ? random.pick(middle) : undefined;
    const name = normalizeName(`${random.pick(first) ?? ""}${between ?? ""}${random.pick(last) ?? ""}`);
    if (name === "" || countGraphemes(name) > longest || lookKeys(name).some((key) => keys.has(key))) continue;
    if (check?.(name) === undefined) return name;
  }
  return undefined;
}
